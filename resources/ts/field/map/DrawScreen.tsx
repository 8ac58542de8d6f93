import GpsFixed from '@mui/icons-material/GpsFixed'
import Undo from '@mui/icons-material/Undo'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useMemo, useRef, useState } from 'react'
import { Navigate, useNavigate, useParams, useSearchParams } from 'react-router'
import { paint } from '../../shared/paint'
import { measure, shapeOf, shownArea, shownLength, type Place } from '../../shared/form/geodesic'
import { LazyMap } from '../../shared/map/LazyMap'
import { DRAWN_STYLE } from '../../shared/map/drawn'
import type { MapLayer } from '../../shared/map/MapView'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'
import { db, type Draft } from '../db'
import { blank, newKey } from '../drafts'
import { usePosition } from '../position'
import { designOf } from '../save'
import { WideButton } from '../screens/WideButton'
import { Head } from '../screens/Head'
import { Crosshair, Tool } from './MapTools'

const STYLE = [
  ...DRAWN_STYLE,
  {
    id: 'drawn-corners',
    type: 'circle',
    source: 'drawn',
    filter: ['==', ['geometry-type'], 'Point'],
    paint: {
      'circle-radius': 6,
      'circle-color': paint.buoy,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 2,
    },
  },
]

/**
 * A line or an area, corner by corner: where the crosshair is, or where one stands. Every corner is kept at
 * once, so a killed app loses none.
 */
export function DrawScreen() {
  const { layer: id } = useParams()
  const [search] = useSearchParams()
  const navigate = useNavigate()
  const { position } = usePosition()
  const map = useRef<MapLibre | null>(null)
  const latest = useRef<Place[] | null>(null)
  const [draft, setDraft] = useState<Draft | null | undefined>(undefined)
  const [centre, setCentre] = useState<Place | null>(null)
  const data = useLiveQuery(async () => ({
    packs: await db.packs.toArray(),
    backdrops: await db.backdrops.toArray(),
  }))
  const mend = search.get('mend')
  useEffect(() => {
    void db.drafts
      .get(mend ?? newKey(Number(id), search.get('visited')))
      .then(async (kept) =>
        setDraft(kept ?? (mend ? null : blank(Number(id), await designOf(Number(id)), search))),
      )
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only when the screen opens
  }, [id])
  const pack = data?.packs.find((p) => p.layers.some((l) => l.id === Number(id)))
  const layer = pack?.layers.find((l) => l.id === Number(id))
  const kind = layer?.design.geometry === 'area' ? 'area' : 'line'
  const corners = useMemo(() => draft?.corners ?? [], [draft])
  const shape = shapeOf(kind, corners)
  const layers: MapLayer[] = useMemo(() => {
    // The next edge is shown before it is taken, so that one sees what a tap will do.
    const ahead = centre && corners.length > 0 ? [...corners, centre] : corners
    const drawn =
      shapeOf(kind, ahead) ??
      (ahead.length > 1 ? ({ type: 'LineString', coordinates: ahead } as const) : null)
    const points = corners.map((c) => ({
      type: 'Feature' as const,
      properties: {},
      geometry: { type: 'Point' as const, coordinates: c },
    }))
    return [
      {
        source: 'drawn',
        layers: STYLE,
        data: {
          type: 'FeatureCollection',
          features: [
            ...(drawn ? [{ type: 'Feature' as const, properties: {}, geometry: drawn }] : []),
            ...points,
          ],
        },
      },
    ]
  }, [corners, centre, kind])
  const [extent] = useState<Extent | null>(() => {
    const [lon, lat] = [Number(search.get('lon')), Number(search.get('lat'))]
    return search.get('lon') ? [lon - 0.004, lat - 0.004, lon + 0.004, lat + 0.004] : null
  })
  if (draft === null) return <Navigate to="/field" replace />
  if (!data || !layer || !draft || !pack) return null
  latest.current ??= corners
  const put = async (next: Place[]) => {
    // The next tap goes on from here at once; it is shown when it is stored, so that what one sees is what a
    // killed app keeps.
    latest.current = next
    const changed = { ...draft, corners: next }
    await db.drafts.put(changed)
    setDraft(changed)
  }
  const add = (place: Place) => void put([...(latest.current ?? corners), place])
  const { length, area } = measure(shape)
  const around: Extent =
    extent ??
    (corners[0]
      ? [corners[0][0] - 0.004, corners[0][1] - 0.004, corners[0][0] + 0.004, corners[0][1] + 0.004]
      : pack.area)
  return (
    <>
      <Head
        title={t(`draw.${kind}`)}
        under={
          <>
            {t('draw.corners', { n: corners.length })}
            {length !== null && (
              <>
                {' '}
                · <b>{area === null ? shownLength(length) : shownArea(area)}</b>
              </>
            )}
          </>
        }
      />
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <LazyMap
          label={t(`draw.${kind}`)}
          controls={false}
          backdrops={data.backdrops}
          extent={around}
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
              onClick={() => void put((latest.current ?? corners).slice(0, -1))}>
              <Undo />
            </Tool>
            <Tool
              label={t('field.here')}
              disabled={!position}
              onClick={() =>
                position &&
                map.current?.easeTo({
                  center: [position.lon, position.lat],
                  zoom: Math.max(16, map.current.getZoom()),
                })
              }>
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
        <Box sx={{ display: 'grid', gridTemplateColumns: position ? '1fr 1fr' : '1fr', gap: 2.5 }}>
          <Button
            variant="outlined"
            color="inherit"
            disabled={!centre}
            onClick={() => centre && add(centre)}
            sx={{ minHeight: 56 }}>
            {t('draw.cross')}
          </Button>
          {position && (
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => add([position.lon, position.lat])}
              sx={{ minHeight: 56 }}>
              {t('draw.here')}
            </Button>
          )}
        </Box>
        <WideButton
          disabled={!shape}
          onClick={() => void navigate(`/field/add/${layer.id}?mend=${draft.key}`, { replace: true })}>
          {t('draw.done')}
        </WideButton>
      </Box>
    </>
  )
}
