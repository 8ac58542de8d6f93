import Undo from '@mui/icons-material/Undo'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useRef, useState, type PointerEvent } from 'react'
import { useNavigate } from 'react-router'
import type { Place } from '../../shared/form/geodesic'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { TextInput } from '../../shared/parts/Labelled'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import { db } from '../db'
import { Head } from '../screens/Head'
import { WideButton } from '../screens/WideButton'
import { Tool } from './MapTools'
import { keepSketch, sketchLayer } from './sketches'
import { leftAt } from './lastView'

/** A stroke's points are this many pixels apart, so that it stays small. */
const APART = 4

/** Draws on the map with a finger, with a note beside it. The map holds still while one draws. */
export function SketchScreen() {
  const navigate = useNavigate()
  const map = useRef<MapLibre | null>(null)
  const [mode, setMode] = useState<'draw' | 'move'>('draw')
  const [ready, setReady] = useState(false)
  const [lines, setLines] = useState<Place[][]>([])
  const [going, setGoing] = useState<Place[] | null>(null)
  const [note, setNote] = useState('')
  // A finger may move several times before the screen is drawn anew.
  const stroke = useRef<Place[] | null>(null)
  const last = useRef<[number, number]>([0, 0])
  const data = useLiveQuery(async () => ({
    packs: await db.packs.toArray(),
    backdrops: await db.backdrops.toArray(),
    sketches: await db.sketches.toArray(),
  }))
  const [opening] = useState(leftAt)
  const all = useMemo(() => (going ? [...lines, going] : lines).filter((l) => l.length > 1), [lines, going])
  const layers: MapLayer[] = useMemo(
    () => [sketchLayer([...(data?.sketches ?? []), { id: 0, at: '', note: '', lines: all, lon: 0, lat: 0 }])],
    [data?.sketches, all],
  )
  const pack = data?.packs[0]
  if (!data || !pack) return null
  const spot = (e: PointerEvent): Place | null => {
    const box = e.currentTarget.getBoundingClientRect()
    const [x, y] = [e.clientX - box.left, e.clientY - box.top]
    if (stroke.current && Math.hypot(x - last.current[0], y - last.current[1]) < APART) return null
    last.current = [x, y]
    const at = map.current?.unproject([x, y])
    return at ? [Number(at.lng.toFixed(7)), Number(at.lat.toFixed(7))] : null
  }
  const begin = (e: PointerEvent) => {
    e.currentTarget.setPointerCapture(e.pointerId)
    const at = spot(e)
    stroke.current = at ? [at] : null
    setGoing(stroke.current)
  }
  const go = (e: PointerEvent) => {
    const at = stroke.current && spot(e)
    if (at) setGoing((stroke.current = [...stroke.current!, at]))
  }
  const end = () => {
    const drawn = stroke.current
    if (drawn && drawn.length > 1) setLines((all) => [...all, drawn])
    setGoing((stroke.current = null))
  }
  const keep = async () => {
    const centre = map.current?.getCenter()
    // The note stands over the middle of what was drawn.
    const [xs, ys] = [lines.flat().map(([x]) => x), lines.flat().map(([, y]) => y)]
    const [lon, lat] = xs.length
      ? [(Math.min(...xs) + Math.max(...xs)) / 2, Math.max(...ys)]
      : [centre?.lng ?? 0, centre?.lat ?? 0]
    await keepSketch({ at: new Date().toISOString(), note: note.trim(), lines, lon, lat })
    await navigate('/field')
  }
  return (
    <>
      <Head title={t('sketch.title')} under={t('sketch.hint')} />
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <LazyMap
          label={t('sketch.title')}
          controls={false}
          backdrops={data.backdrops}
          extent={opening ?? pack.area}
          padding={0}
          layers={layers}
          onReady={(m) => {
            map.current = m
            setReady(true)
          }}>
          {ready && mode === 'draw' && (
            <Box
              data-testid="sheet"
              onPointerDown={begin}
              onPointerMove={go}
              onPointerUp={end}
              onPointerCancel={end}
              sx={{ position: 'absolute', inset: 0, zIndex: 2, touchAction: 'none', cursor: 'crosshair' }}
            />
          )}
          <Box sx={{ position: 'absolute', right: 12, top: 12, zIndex: 3 }}>
            <Tool
              label={t('sketch.back')}
              disabled={lines.length === 0}
              onClick={() => setLines(lines.slice(0, -1))}>
              <Undo />
            </Tool>
          </Box>
        </LazyMap>
      </Box>
      <Box
        sx={{
          borderTop: '2px solid',
          borderColor: 'text.primary',
          bgcolor: 'background.paper',
          p: 3.5,
          display: 'grid',
          gap: 2.5,
          flex: 'none',
        }}>
        <Segments
          label={t('sketch.mode')}
          value={mode}
          onChange={setMode}
          options={[
            { value: 'draw', label: t('sketch.draw') },
            { value: 'move', label: t('sketch.move') },
          ]}
        />
        <TextInput
          label={t('sketch.note')}
          value={note}
          onChange={setNote}
          inputProps={{ maxLength: 200, autoComplete: 'off', enterKeyHint: 'done' }}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 2fr', gap: 2.5 }}>
          <Button
            variant="outlined"
            color="inherit"
            disabled={lines.length === 0}
            onClick={() => setLines([])}
            sx={{ minHeight: 60 }}>
            {t('draw.anew')}
          </Button>
          <WideButton disabled={lines.length === 0 && note.trim() === ''} onClick={() => void keep()}>
            {t('sketch.keep')}
          </WideButton>
        </Box>
      </Box>
    </>
  )
}
