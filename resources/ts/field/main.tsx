import { ThemeProvider } from '@mui/material/styles'
import CssBaseline from '@mui/material/CssBaseline'
import { useLiveQuery } from 'dexie-react-hooks'
import { useEffect, useMemo, useState } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { Empty } from '../shared/parts/Sheet'
import { carryMarks } from '../shared/map/marks'
import { mount } from '../shared/Root'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Me } from '../shared/types'
import { db, meta, setMeta } from './db'
import { LightContext, type Light } from './light'
import { AddScreen } from './screens/AddScreen'
import { DrawScreen } from './map/DrawScreen'
import { Frame } from './screens/Frame'
import { ListScreen } from './screens/ListScreen'
import { MapScreen } from './map/MapScreen'
import { MeasureScreen } from './map/MeasureScreen'
import { SketchScreen } from './map/SketchScreen'
import { OutboxScreen } from './screens/OutboxScreen'
import { OutingScreen } from './screens/OutingScreen'
import { PlaceScreen } from './map/PlaceScreen'
import { PackScreen } from './packs/PackScreen'
import { TakeScreen } from './packs/TakeScreen'
import { FieldSignIn } from './screens/FieldSignIn'
import { RecordScreen } from './screens/RecordScreen'
import { keepSyncing, useSync } from './sync'
import { PAGE_SIZE, useTextSize } from './textsize'
import { followTrail, useTrailOn } from './trail'
import { watchForUpdates } from './updates'

function Insecure() {
  return <Empty title={t('field.insecure')}>{t('field.insecure.text')}</Empty>
}

function FieldApp() {
  const stored = useLiveQuery(async () => ({ me: (await meta<Me>('me')) ?? null, light: (await meta<Light>('light')) ?? 'sun', packs: await db.packs.toArray().then((packs) => { for (const pack of packs) carryMarks(pack.marks ?? {}); return packs.length }) }))
  const { signIn } = useSync()
  const [asked, setAsked] = useState(false)
  useEffect(keepSyncing, [])
  useEffect(watchForUpdates, [])
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
        {mustSignIn ? (
          <FieldSignIn onDone={() => setAsked(false)} />
        ) : (
          <Frame onSignIn={signIn ? () => setAsked(true) : undefined}>
            <Routes>
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
            </Routes>
          </Frame>
        )}
      </LightContext>
    </ThemeProvider>
  )
}

mount(makeTheme(18), window.isSecureContext ? <FieldApp /> : <Insecure />)
