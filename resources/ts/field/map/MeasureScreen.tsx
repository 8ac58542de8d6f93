import GpsFixed from '@mui/icons-material/GpsFixed'
import Undo from '@mui/icons-material/Undo'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useRef, useState } from 'react'
import { measure, shapeOf, type Place } from '../../shared/form/geodesic'
import { LazyMap } from '../../shared/map/LazyMap'
import { DRAWN_STYLE } from '../../shared/map/drawn'
import type { MapLayer } from '../../shared/map/MapView'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'
import { db, setMeta } from '../db'
import { useMeta } from '../phoneState'
import { areaIn, lengthIn, UNITS, type Units } from '../units'
import { usePosition } from '../position'
import { Head } from '../screens/Head'
import { Crosshair, Tool } from './MapTools'
import { leftAt } from './lastView'

/** How far it is and how large, corner by corner under the cross; nothing of it is kept. */
export function MeasureScreen() {
  const { position } = usePosition()
  const map = useRef<MapLibre | null>(null)
  const [corners, setCorners] = useState<Place[]>([])
  const [centre, setCentre] = useState<Place | null>(null)
  const units = useMeta<Units>('units') ?? 'metric'
  const data = useLiveQuery(async () => ({
    packs: await db.packs.toArray(),
    backdrops: await db.backdrops.toArray(),
  }))
  const [opening] = useState<Extent | null>(leftAt)
  // The edge to the cross is measured before it is taken, so that one sees how far it is without a tap.
  const ahead = useMemo(
    () => (centre && corners.length > 0 ? [...corners, centre] : corners),
    [corners, centre],
  )
  const line = shapeOf('line', ahead)
  const ring = ahead.length > 2 ? shapeOf('area', ahead) : null
  const layers: MapLayer[] = useMemo(
    () => [
      {
        source: 'drawn',
        layers: DRAWN_STYLE,
        data: {
          type: 'FeatureCollection',
          features: [
            ...(ring ? [{ type: 'Feature' as const, properties: {}, geometry: ring }] : []),
            ...(line ? [{ type: 'Feature' as const, properties: {}, geometry: line }] : []),
          ],
        },
      },
    ],
    [line, ring],
  )
  const pack = data?.packs[0]
  if (!data || !pack) return null
  return (
    <>
      <Head title={t('measure.title')} under={t('measure.hint')} />
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <LazyMap
          label={t('measure.title')}
          controls={false}
          backdrops={data.backdrops}
          extent={opening ?? pack.area}
          layers={layers}
          position={position}
          onReady={(m) => {
            map.current = m
          }}
          onMove={({ lon, lat }) => setCentre([lon, lat])}>
          <Crosshair />
          <Box sx={{ position: 'absolute', right: 12, bottom: 44, zIndex: 3, display: 'grid', gap: 2 }}>
            <Tool
              label={t('draw.back')}
              disabled={corners.length === 0}
              onClick={() => setCorners(corners.slice(0, -1))}>
              <Undo />
            </Tool>
            <Tool
              label={t('field.here')}
              disabled={!position}
              onClick={() => position && map.current?.easeTo({ center: [position.lon, position.lat] })}>
              <GpsFixed />
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
        <Box
          role="status"
          sx={{
            display: 'flex',
            justifyContent: 'space-between',
            gap: 3,
            fontSize: '1.3rem',
            fontWeight: 700,
            fontVariantNumeric: 'tabular-nums',
          }}>
          <span>{lengthIn(measure(line).length ?? 0, units)}</span>
          <span>{ring ? areaIn(measure(ring).area ?? 0, units) : ''}</span>
        </Box>
        <Segments
          label={t('measure.units')}
          value={units}
          onChange={(u) => void setMeta('units', u)}
          options={UNITS.map((value) => ({ value, label: t(`measure.units.${value}`) }))}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 2fr', gap: 2.5 }}>
          <Button
            variant="outlined"
            color="inherit"
            disabled={corners.length === 0}
            onClick={() => setCorners([])}
            sx={{ minHeight: 60 }}>
            {t('draw.anew')}
          </Button>
          <Button
            disabled={!centre}
            onClick={() => centre && setCorners([...corners, centre])}
            sx={{ minHeight: 60, fontSize: '1.1rem' }}>
            {t('draw.cross')}
          </Button>
        </Box>
      </Box>
    </>
  )
}
