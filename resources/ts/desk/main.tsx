import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { api, ApiError } from '../shared/api'
import { Problems } from '../shared/parts/Problems'
import { SignIn } from '../shared/parts/SignIn'
import { mount } from '../shared/Root'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Me } from '../shared/types'
import { NewProgramme } from './NewProgramme'
import { ProgrammePage } from './ProgrammePage'
import { Programmes } from './Programmes'
import { Shelves } from './Shelves'
import { Build } from './build/Build'
import { Designer } from './build/Designer'
import { Collect } from './Collect'
import { Plan } from './plan/Plan'
import { Publish } from './publish/Publish'

const Check = lazy(() => import('./check/Check').then((m) => ({ default: m.Check })))
const AskedAll = lazy(() => import('./check/Asked').then((m) => ({ default: m.AskedAll })))
const Decide = lazy(() => import('./check/Decide').then((m) => ({ default: m.Decide })))
const BringList = lazy(() => import('./bring/BringList').then((m) => ({ default: m.BringList })))
const BringPage = lazy(() => import('./bring/BringPage').then((m) => ({ default: m.BringPage })))
const GateEditor = lazy(() => import('./publish/GateEditor').then((m) => ({ default: m.GateEditor })))
const MapEditor = lazy(() => import('./publish/MapEditor').then((m) => ({ default: m.MapEditor })))
const BoardEditor = lazy(() => import('./publish/BoardEditor').then((m) => ({ default: m.BoardEditor })))

function Desk() {
  const client = useQueryClient()
  const me = useQuery({
    queryKey: ['me'],
    queryFn: () => api<Me>('GET', '/me').catch((e: unknown) => {
      // Who was signed in a moment ago has work on the screen: it is asked once more before that gives way to a sign-in.
      if (client.getQueryData(['me']) === undefined) throw e
      return new Promise((again) => setTimeout(again, 800)).then(() => api<Me>('GET', '/me'))
    }),
  })
  if (me.isPending) return null
  if (me.error instanceof ApiError && me.error.status === 401) {
    return <SignIn title="Pin Yard" lead={t('signin.desk')} onDone={(m) => client.setQueryData(['me'], m)} />
  }
  if (me.error) return <Problems error={me.error} />
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/desk" element={<Programmes me={me.data} />} />
        <Route path="/desk/new" element={<NewProgramme me={me.data} />} />
        <Route path="/desk/p/:programme" element={<ProgrammePage me={me.data} />}>
          <Route index element={<Navigate to="build" replace />} />
          <Route path="plan" element={<Plan />} />
          <Route path="build" element={<Build />} />
          <Route path="build/new" element={<Designer key="new" />} />
          <Route path="build/bring" element={<BringList />} />
          <Route path="build/bring/:import" element={<BringPage />} />
          <Route path="build/:layer" element={<Designer />} />
          <Route path="collect" element={<Collect />} />
          <Route path="check" element={<Check />} />
          <Route path="check/decide" element={<Decide />} />
          <Route path="check/asked" element={<AskedAll />} />
          <Route path="shelves" element={<Shelves />} />
          <Route path="publish" element={<Publish />} />
          <Route path="publish/gate" element={<GateEditor />} />
          <Route path="publish/map/:map" element={<MapEditor />} />
          <Route path="publish/board/:board" element={<BoardEditor />} />
        </Route>
        <Route path="*" element={<Navigate to="/desk" replace />} />
      </Routes>
    </Suspense>
  )
}

mount(makeTheme(16), <Desk />)
