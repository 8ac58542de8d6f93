import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { paint } from '../../../shared/paint'
import { LazyMap } from '../../../shared/map/LazyMap'
import type { MapLayer } from '../../../shared/map/MapView'
import { Problems } from '../../../shared/parts/Problems'
import { formatNumber, t } from '../../../shared/texts'
import type { Api, Box as Extent } from '../../../shared/types'
import { placeTold } from '../../queries/audiences'

const LOOK = [
  {
    id: 'blurred-cell',
    type: 'fill',
    source: 'blurred',
    filter: ['==', ['get', 'is'], 'told'],
    paint: { 'fill-color': paint.tide, 'fill-opacity': 0.3 },
  },
  {
    id: 'blurred-edge',
    type: 'line',
    source: 'blurred',
    filter: ['==', ['get', 'is'], 'told'],
    paint: { 'line-color': paint.tide, 'line-width': 2 },
  },
  {
    id: 'blurred-shape',
    type: 'line',
    source: 'blurred',
    filter: ['all', ['==', ['get', 'is'], 'was'], ['!=', ['geometry-type'], 'Point']],
    paint: { 'line-color': paint.buoy, 'line-width': 3 },
  },
  {
    id: 'blurred-place',
    type: 'circle',
    source: 'blurred',
    filter: ['all', ['==', ['get', 'is'], 'was'], ['==', ['geometry-type'], 'Point']],
    paint: {
      'circle-radius': 6,
      'circle-color': paint.buoy,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 2,
    },
  },
]

type Props = { layer: number; points: boolean } & (
  { metres: number; areas?: never } | { areas: number; metres?: never }
)

/** One record before and after: where it is, and the cells or the area that is told instead. */
export function PlaceMap({ layer, points, metres, areas }: Props) {
  const { data, error } = useQuery(placeTold(layer, areas === undefined ? { metres } : { areas }))
  const drawn = useMemo<MapLayer[]>(
    () => (data ? [{ source: 'blurred', data: shapes(data), layers: LOOK }] : []),
    [data],
  )
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Problems error={error} />
      {data && (
        <>
          <Box
            sx={{
              height: 200,
              borderRadius: 1,
              overflow: 'hidden',
              border: '1px solid',
              borderColor: 'divider',
            }}>
            <LazyMap
              // A map that has been made does not follow to another place.
              key={around(data).join()}
              label={t('seen.map')}
              extent={around(data)}
              layers={drawn}
              controls={false}
            />
          </Box>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontSize: '0.84rem' }}>
            <span>
              <Box component="span" aria-hidden sx={{ color: 'secondary.main' }}>
                ●
              </Box>{' '}
              {t('seen.map.place')}
            </span>
            <span>
              <Box component="span" aria-hidden sx={{ color: paint.tide }}>
                ■
              </Box>{' '}
              {data.least === null || data.most === null
                ? t(data.told ? 'seen.map.area' : 'seen.map.no_area')
                : t(points ? 'seen.map.cell' : 'seen.map.cells', {
                    least: formatNumber(data.least),
                    most: formatNumber(data.most),
                  })}
            </span>
          </Box>
          {data.outside > 0 && (
            <Typography variant="body2" sx={{ color: paint.buoyDark }}>
              {t('seen.map.outside', { n: data.outside, of: data.of })}
            </Typography>
          )}
        </>
      )}
    </Box>
  )
}

/** What is told with half as much around it; without that some of the ground around the record. */
function around({ was, told }: Api['PlaceTold']): Extent {
  const [west, south, east, north] = boundsOf(told ?? was)
  const [w, h] = [Math.max((east - west) / 2, 0.001), Math.max((north - south) / 2, 0.001)]
  return [
    Math.max(-180, west - w),
    Math.max(-85, south - h),
    Math.min(180, east + w),
    Math.min(85, north + h),
  ]
}

function boundsOf(shape: GeoJSON.Geometry): Extent {
  const box: Extent = [180, 90, -180, -90]
  const take = (c: unknown): void => {
    if (!Array.isArray(c)) return
    const [lon, lat] = c as unknown[]
    if (typeof lon !== 'number' || typeof lat !== 'number') return c.forEach(take)
    box[0] = Math.min(box[0], lon)
    box[1] = Math.min(box[1], lat)
    box[2] = Math.max(box[2], lon)
    box[3] = Math.max(box[3], lat)
  }
  take('coordinates' in shape ? shape.coordinates : null)
  return box
}

const shapes = ({ was, told }: Api['PlaceTold']): GeoJSON.FeatureCollection => ({
  type: 'FeatureCollection',
  features: [
    ...(told ? [{ type: 'Feature' as const, properties: { is: 'told' }, geometry: told }] : []),
    { type: 'Feature', properties: { is: 'was' }, geometry: was },
  ],
})
