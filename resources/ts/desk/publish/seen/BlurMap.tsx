import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { BACKDROPS } from '../../../shared/map/backdrop'
import { boxPolygon } from '../../../shared/map/boxPolygon'
import { LazyMap } from '../../../shared/map/LazyMap'
import type { MapLayer } from '../../../shared/map/MapView'
import { Problems } from '../../../shared/parts/Problems'
import { formatNumber, t } from '../../../shared/texts'
import type { Api, Box as Extent } from '../../../shared/types'
import { blurredOf } from '../../queries/audiences'

const LOOK = [
  {
    id: 'blurred-cell',
    type: 'fill',
    source: 'blurred',
    filter: ['==', ['geometry-type'], 'Polygon'],
    paint: { 'fill-color': '#2D5D87', 'fill-opacity': 0.3, 'fill-outline-color': '#1D2B2E' },
  },
  {
    id: 'blurred-place',
    type: 'circle',
    source: 'blurred',
    filter: ['==', ['geometry-type'], 'Point'],
    paint: {
      'circle-radius': 6,
      'circle-color': '#C8420E',
      'circle-stroke-color': '#fff',
      'circle-stroke-width': 2,
    },
  },
]

/** One record before and after: its place, and the cell that is told instead. */
export function BlurMap({ layer, metres }: { layer: number; metres: number }) {
  const { data, error } = useQuery(blurredOf(layer, metres))
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
              key={data.cell.join()}
              label={t('seen.map')}
              backdrops={BACKDROPS}
              extent={around(data.cell)}
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
              <Box component="span" aria-hidden sx={{ color: '#2D5D87' }}>
                ■
              </Box>{' '}
              {t('seen.map.cell', { least: formatNumber(data.least), most: formatNumber(data.most) })}
            </span>
          </Box>
        </>
      )}
    </Box>
  )
}

/** The cell with half as much around it. */
function around(cell: number[]): Extent {
  const [west = 0, south = 0, east = 0, north = 0] = cell
  const [w, h] = [(east - west) / 2, (north - south) / 2]
  return [
    Math.max(-180, west - w),
    Math.max(-85, south - h),
    Math.min(180, east + w),
    Math.min(85, north + h),
  ]
}

function shapes({ lon, lat, cell }: Api['BlurredPlace']): GeoJSON.FeatureCollection {
  const [west = 0, south = 0, east = 0, north = 0] = cell
  return {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: {},
        geometry: boxPolygon(west, south, east, north),
      },
      { type: 'Feature', properties: {}, geometry: { type: 'Point', coordinates: [lon, lat] } },
    ],
  }
}
