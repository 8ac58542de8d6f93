import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { ThemeProvider } from '@mui/material/styles'
import CssBaseline from '@mui/material/CssBaseline'
import { Suspense, useEffect, useMemo, useState } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { Empty } from '../shared/parts/Sheet'
import { mount } from '../shared/Root'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Me } from '../shared/types'
import { setMeta } from './db'
import { useMeta, usePacks, useStoreGone } from './phoneState'
import { bringScreens, screen } from './laterScreens'
import { learnGate, type KnownGate } from './gallery/gates'
import { LightContext, type Light } from './colours'
import { Coming } from './screens/ComingScreen'
import { Frame } from './screens/Frame'
import { MapScreen } from './map/MapScreen'
import { keepSyncing, useSync } from './sync/sync'
import { PAGE_SIZE, useTextSize } from './textsize'
import { followTrail, useTrailOn } from './trail'
import { watchForUpdates } from './updates'

const AddScreen = screen(() => import('./screens/AddScreen').then((m) => m.AddScreen))
const DrawScreen = screen(() => import('./map/DrawScreen').then((m) => m.DrawScreen))
const FieldSignIn = screen(() => import('./screens/FieldSignIn').then((m) => m.FieldSignIn))
const GalleryScreen = screen(() => import('./gallery/GalleryScreen').then((m) => m.GalleryScreen))
const ListScreen = screen(() => import('./screens/ListScreen').then((m) => m.ListScreen))
const MeasureScreen = screen(() => import('./map/MeasureScreen').then((m) => m.MeasureScreen))
const OutboxScreen = screen(() => import('./screens/OutboxScreen').then((m) => m.OutboxScreen))
const OutingScreen = screen(() => import('./screens/OutingScreen').then((m) => m.OutingScreen))
const PackScreen = screen(() => import('./packs/PackScreen').then((m) => m.PackScreen))
const PlaceScreen = screen(() => import('./map/PlaceScreen').then((m) => m.PlaceScreen))
const RecordScreen = screen(() => import('./screens/RecordScreen').then((m) => m.RecordScreen))
const SketchScreen = screen(() => import('./map/SketchScreen').then((m) => m.SketchScreen))
const TakeScreen = screen(() => import('./packs/TakeScreen').then((m) => m.TakeScreen))

function Insecure() {
  return <Empty title={t('field.insecure')}>{t('field.insecure.text')}</Empty>
}

function FieldApp() {
  const me = useMeta<Me>('me')
  const light = useMeta<Light>('light') ?? 'sun'
  const packs = usePacks()
  const { signIn } = useSync()
  const [asked, setAsked] = useState(() => new URLSearchParams(location.search).has('signin'))
  useEffect(keepSyncing, [])
  useEffect(watchForUpdates, [])
  useEffect(bringScreens, [])
  const [gate] = useState(() => new URLSearchParams(location.search).get('gate'))
  useEffect(() => {
    if (gate) void learnGate(gate).catch(() => undefined)
  }, [gate])
  const gates = useMeta<KnownGate[]>('gates')
  const trail = useTrailOn()?.programme
  useEffect(() => (trail === undefined ? undefined : followTrail(trail)), [trail])
  const size = PAGE_SIZE[useTextSize()]
  useEffect(() => {
    document.documentElement.style.fontSize = `${size}px`
  }, [size])
  const theme = useMemo(() => makeTheme(18, light === 'night'), [light])
  const lightValue = useMemo(
    () => ({ light, setLight: (next: Light) => void setMeta('light', next) }),
    [light],
  )
  // Signed out by the server is no reason to stop work: the strip says so, and everything stays here until
  // then.
  const mustSignIn = !me || asked
  const gone = useStoreGone()
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <LightContext value={lightValue}>
        <Suspense fallback={<Coming />}>
          {gone ? (
            <StoreGone />
          ) : !me && !asked && (gate || gates?.length) ? (
            <Box
              sx={{
                height: '100dvh',
                display: 'flex',
                flexDirection: 'column',
                maxWidth: 640,
                mx: 'auto',
                bgcolor: 'background.default',
              }}>
              <GalleryScreen onSignIn={() => setAsked(true)} />
            </Box>
          ) : mustSignIn ? (
            <FieldSignIn onDone={() => setAsked(false)} />
          ) : (
            <Frame onSignIn={signIn ? () => setAsked(true) : undefined}>
              <Suspense fallback={<Coming />}>
                <Routes>
                  <Route
                    path="/field"
                    element={packs?.length ? <MapScreen /> : <Navigate to="/field/packs" replace />}
                  />
                  <Route path="/field/packs" element={<PackScreen />} />
                  <Route path="/field/packs/:programme" element={<TakeScreen />} />
                  <Route path="/field/add/:layer" element={<AddScreen />} />
                  <Route path="/field/draw/:layer" element={<DrawScreen />} />
                  <Route path="/field/place/:layer" element={<PlaceScreen />} />
                  <Route path="/field/measure" element={<MeasureScreen />} />
                  <Route path="/field/sketch" element={<SketchScreen />} />
                  <Route path="/field/list" element={<ListScreen />} />
                  <Route path="/field/record/:id" element={<RecordScreen />} />
                  <Route path="/field/gallery" element={<GalleryScreen onSignIn={() => setAsked(true)} />} />
                  <Route path="/field/outings" element={<OutingScreen />} />
                  <Route path="/field/outbox" element={<OutboxScreen />} />
                  <Route path="*" element={<Navigate to="/field" replace />} />
                </Routes>
              </Suspense>
            </Frame>
          )}
        </Suspense>
      </LightContext>
    </ThemeProvider>
  )
}

/**
 * What the phone kept was removed under the open app: said, instead of an empty map that claims all is sent.
 */
function StoreGone() {
  return (
    <Empty
      title={t('field.storegone')}
      action={<Button onClick={() => location.reload()}>{t('field.coming.again')}</Button>}>
      {t('field.storegone.text')}
    </Empty>
  )
}

function NoStore() {
  return <Empty title={t('field.nostore')}>{t('field.nostore.text')}</Empty>
}

/** Draws the app; `store` tells whether the browser gives one. */
export const start = (store: boolean) =>
  mount(makeTheme(18), !window.isSecureContext ? <Insecure /> : store ? <FieldApp /> : <NoStore />)
