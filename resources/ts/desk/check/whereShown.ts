import { paint } from '../../shared/paint'
import { cornersOf } from '../../shared/form/geodesic'
import { DRAWN_STYLE } from '../../shared/map/drawn'
import type { MapLayer } from '../../shared/map/MapView'
import type { Box, RecordRow } from '../../shared/types'

export type Spot = { lon: number; lat: number }

/** How what is picked, or is being drawn, lies on the map. */
const SHOWN_STYLE = [
  ...DRAWN_STYLE,
  {
    id: 'spot',
    type: 'circle',
    source: 'drawn',
    filter: ['==', ['geometry-type'], 'Point'],
    paint: {
      'circle-radius': 6,
      'circle-color': paint.kelp,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 2,
    },
  },
]

export const shownAt = (geometry: GeoJSON.Geometry): MapLayer => ({
  source: 'drawn',
  layers: SHOWN_STYLE,
  data: {
    type: 'FeatureCollection',
    features: [{ type: 'Feature', properties: { id: 'spot' }, geometry }],
  },
})

/** Around a place, or around what a record is on the ground. */
export function extentOf(at: Spot | null, record: RecordRow | null): Box | null {
  if (!at) return null
  const around = 0.012
  const places = record?.geometry ? cornersOf(record.geometry) : []
  if (places.length === 0) return [at.lon - around, at.lat - around, at.lon + around, at.lat + around]
  const [lons, lats] = [places.map((p) => p[0]), places.map((p) => p[1])]
  return [
    Math.min(...lons) - 0.002,
    Math.min(...lats) - 0.002,
    Math.max(...lons) + 0.002,
    Math.max(...lats) + 0.002,
  ]
}
