import GpsFixed from '@mui/icons-material/GpsFixed'
import Box from '@mui/material/Box'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useRef, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { paint } from '../../shared/paint'
import { showPlace, type Spot } from '../../shared/form/coordinates'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { t } from '../../shared/texts'
import { db } from '../db'
import { useFormat } from '../format'
import { farAway, metres, usePosition } from '../position'
import { WideButton } from '../screens/WideButton'
import { Head } from '../screens/Head'
import { Crosshair, Tool } from './MapTools'

const STYLE = [
  {
    id: 'was',
    type: 'circle',
    source: 'was',
    paint: {
      'circle-radius': 8,
      'circle-color': paint.ink,
      'circle-opacity': 0.35,
      'circle-stroke-color': paint.ink,
      'circle-stroke-width': 2,
    },
  },
]
/** Half a degree's thousandth or so: some four hundred metres, enough to see the beach that one stands on. */
const AROUND = 0.002

/** Puts the place of a draft elsewhere: the map is moved until the cross is on the spot. */
export function PlaceScreen() {
  const { layer = '' } = useParams()
  const key = useSearchParams()[0].get('mend') ?? ''
  const navigate = useNavigate()
  const { position } = usePosition()
  const format = useFormat()
  const map = useRef<MapLibre | null>(null)
  const [centre, setCentre] = useState<Spot | null>(null)
  const data = useLiveQuery(
    async () => ({ draft: await db.drafts.get(key), backdrops: await db.backdrops.toArray() }),
    [key],
  )
  const draft = data?.draft
  const layers: MapLayer[] = useMemo(
    () =>
      draft
        ? [
            {
              source: 'was',
              layers: STYLE,
              data: {
                type: 'FeatureCollection',
                features: [
                  {
                    type: 'Feature',
                    properties: {},
                    geometry: { type: 'Point', coordinates: [draft.lon, draft.lat] },
                  },
                ],
              },
            },
          ]
        : [],
    [draft],
  )
  if (!data || !draft) return null
  const back = `/field/add/${layer}?mend=${key}`
  const put = async () => {
    if (!centre) return
    await db.drafts.put({
      ...draft,
      lon: Number(centre.lon.toFixed(7)),
      lat: Number(centre.lat.toFixed(7)),
      fix: null,
    })
    await navigate(back, { replace: true })
  }
  return (
    <>
      <Head
        title={t('place.move')}
        to={back}
        under={centre ? `${showPlace(centre, format)} · ${farAway(metres(draft, centre))}` : null}
      />
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <LazyMap
          label={t('place.move')}
          controls={false}
          backdrops={data.backdrops}
          extent={[draft.lon - AROUND, draft.lat - AROUND, draft.lon + AROUND, draft.lat + AROUND]}
          layers={layers}
          position={position}
          onReady={(m) => {
            map.current = m
          }}
          onMove={({ lon, lat }) => setCentre({ lon, lat })}>
          <Crosshair />
          <Box sx={{ position: 'absolute', right: 12, bottom: 44, zIndex: 3 }}>
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
          flex: 'none',
        }}>
        <WideButton disabled={!centre} onClick={() => void put()}>
          {t('place.here')}
        </WideButton>
      </Box>
    </>
  )
}
