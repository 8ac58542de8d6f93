import { lazy, Suspense } from 'react'
import { Route, Routes } from 'react-router'
import { languageOfPage } from '../shared/language'
import { mount } from '../shared/Root'
import { makeTheme } from '../shared/theme'
import { Closed } from './Closed'
import { Forgot } from './Forgot'
import { FormPage } from './FormPage'
import { Join } from './Join'
import { OpenGate } from './OpenGate'
import { bringOpenTexts } from './openTexts'
import { NewAddress } from './NewAddress'
import { Reset } from './Reset'
import { TypeCode } from './TypeCode'

const OpenBoard = lazy(() => import('./OpenBoard').then((m) => ({ default: m.OpenBoard })))
const OpenMap = lazy(() => import('./OpenMap').then((m) => ({ default: m.OpenMap })))

const page = (
  <Suspense fallback={null}>
    <Routes>
      <Route path="/m/:token" element={<OpenMap />} />
      <Route path="/g/:token" element={<OpenGate />} />
      <Route path="/b/:token" element={<OpenBoard />} />
      <Route element={<FormPage />}>
        <Route path="/join" element={<TypeCode />} />
        <Route path="/join/:token" element={<Join />} />
        <Route path="/forgot" element={<Forgot />} />
        <Route path="/reset/:token" element={<Reset />} />
        <Route path="/address/:token" element={<NewAddress />} />
        <Route path="*" element={<Closed />} />
      </Route>
    </Routes>
  </Suspense>
)
void bringOpenTexts(languageOfPage()).then(() => mount(makeTheme(16), page))
