import { boxAround, padded, placesOf } from '../../shared/map/around'
import { DRAWN_STYLE } from '../../shared/map/drawn'
import type { MapLayer } from '../../shared/map/MapView'
import { SPOT_STYLE } from '../../shared/map/spot'
import type { Box, RecordRow } from '../../shared/types'

export type Spot = { lon: number; lat: number }

/** How what is picked, or is being drawn, lies on the map. */
const SHOWN_STYLE = [...DRAWN_STYLE, SPOT_STYLE]

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
  const shape = record?.geometry ? boxAround(placesOf(record.geometry)) : null
  return shape && record?.geometry?.type !== 'Point'
    ? padded(shape, 0.002, 0.002)
    : padded([at.lon, at.lat, at.lon, at.lat], 0.012, 0.012)
}
