import { ThemeProvider } from '@mui/material/styles'
import CssBaseline from '@mui/material/CssBaseline'
import { useLiveQuery } from 'dexie-react-hooks'
import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { Empty } from '../shared/parts/Sheet'
import { carryMarks } from '../shared/map/marks'
import { mount } from '../shared/Root'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Me } from '../shared/types'
import { db, meta, setMeta } from './db'
import { LightContext, type Light } from './light'
import { Frame } from './screens/Frame'
import { MapScreen } from './map/MapScreen'
import { keepSyncing, useSync } from './sync/sync'
import { PAGE_SIZE, useTextSize } from './textsize'
import { followTrail, useTrailOn } from './trail'
import { watchForUpdates } from './updates'

/** The map is what one opens the app for; the other screens come behind it, and are there before they are asked for. */
const SCREENS = {
  AddScreen: () => import('./screens/AddScreen').then((m) => ({ default: m.AddScreen })),
  DrawScreen: () => import('./map/DrawScreen').then((m) => ({ default: m.DrawScreen })),
  ListScreen: () => import('./screens/ListScreen').then((m) => ({ default: m.ListScreen })),
  MeasureScreen: () => import('./map/MeasureScreen').then((m) => ({ default: m.MeasureScreen })),
  SketchScreen: () => import('./map/SketchScreen').then((m) => ({ default: m.SketchScreen })),
  OutboxScreen: () => import('./screens/OutboxScreen').then((m) => ({ default: m.OutboxScreen })),
  OutingScreen: () => import('./screens/OutingScreen').then((m) => ({ default: m.OutingScreen })),
  PlaceScreen: () => import('./map/PlaceScreen').then((m) => ({ default: m.PlaceScreen })),
  PackScreen: () => import('./packs/PackScreen').then((m) => ({ default: m.PackScreen })),
  TakeScreen: () => import('./packs/TakeScreen').then((m) => ({ default: m.TakeScreen })),
  FieldSignIn: () => import('./screens/FieldSignIn').then((m) => ({ default: m.FieldSignIn })),
  RecordScreen: () => import('./screens/RecordScreen').then((m) => ({ default: m.RecordScreen })),
}
const AddScreen = lazy(SCREENS.AddScreen)
const DrawScreen = lazy(SCREENS.DrawScreen)
const ListScreen = lazy(SCREENS.ListScreen)
const MeasureScreen = lazy(SCREENS.MeasureScreen)
const SketchScreen = lazy(SCREENS.SketchScreen)
const OutboxScreen = lazy(SCREENS.OutboxScreen)
const OutingScreen = lazy(SCREENS.OutingScreen)
const PlaceScreen = lazy(SCREENS.PlaceScreen)
const PackScreen = lazy(SCREENS.PackScreen)
const TakeScreen = lazy(SCREENS.TakeScreen)
const FieldSignIn = lazy(SCREENS.FieldSignIn)
const RecordScreen = lazy(SCREENS.RecordScreen)

function fetchScreens() {
  const later = setTimeout(() => { for (const screen of Object.values(SCREENS)) void screen().catch(() => undefined) }, 1_500)
  return () => clearTimeout(later)
}

function Insecure() {
  return <Empty title={t('field.insecure')}>{t('field.insecure.text')}</Empty>
}

function FieldApp() {
  const stored = useLiveQuery(async () => ({ me: (await meta<Me>('me')) ?? null, light: (await meta<Light>('light')) ?? 'sun', packs: await db.packs.toArray().then((packs) => { for (const pack of packs) carryMarks(pack.marks ?? {}); return packs.length }) }))
  const { signIn } = useSync()
  const [asked, setAsked] = useState(false)
  useEffect(keepSyncing, [])
  useEffect(watchForUpdates, [])
  useEffect(fetchScreens, [])
  const trail = useTrailOn()?.programme
  useEffect(() => (trail === undefined ? undefined : followTrail(trail)), [trail])
  const light = stored?.light ?? 'sun'
  const size = PAGE_SIZE[useTextSize()]
  useEffect(() => { document.documentElement.style.fontSize = `${size}px` }, [size])
  const theme = useMemo(() => makeTheme(18, light === 'night'), [light])
  const lightValue = useMemo(() => ({ light, setLight: (next: Light) => void setMeta('light', next) }), [light])
  if (!stored) return null
  // Signed out by the server is no reason to stop work: the strip says so, and everything stays here until then.
  const mustSignIn = !stored.me || asked
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <LightContext value={lightValue}>
        <Suspense fallback={null}>{mustSignIn ? (
          <FieldSignIn onDone={() => setAsked(false)} />
        ) : (
          <Frame onSignIn={signIn ? () => setAsked(true) : undefined}>
            <Suspense fallback={null}><Routes>
              <Route path="/field" element={stored.packs > 0 ? <MapScreen /> : <Navigate to="/field/packs" replace />} />
              <Route path="/field/packs" element={<PackScreen />} />
              <Route path="/field/packs/:programme" element={<TakeScreen />} />
              <Route path="/field/add/:layer" element={<AddScreen />} />
              <Route path="/field/draw/:layer" element={<DrawScreen />} />
              <Route path="/field/place/:layer" element={<PlaceScreen />} />
              <Route path="/field/measure" element={<MeasureScreen />} />
              <Route path="/field/sketch" element={<SketchScreen />} />
              <Route path="/field/list" element={<ListScreen />} />
              <Route path="/field/record/:id" element={<RecordScreen />} />
              <Route path="/field/outings" element={<OutingScreen />} />
              <Route path="/field/outbox" element={<OutboxScreen />} />
              <Route path="*" element={<Navigate to="/field" replace />} />
            </Routes></Suspense>
          </Frame>
        )}</Suspense>
      </LightContext>
    </ThemeProvider>
  )
}

mount(makeTheme(18), window.isSecureContext ? <FieldApp /> : <Insecure />)
