import { cornersOf, holesOf, measure, shapeOf, type Place } from '../../shared/form/geodesic'
import type { GeometryKind, RecordRow } from '../../shared/types'

/** Where a record is while it is being written: one spot, or the corners of a line or an area. */
export type Placing = {
  spot: { lon: number; lat: number } | null
  corners: Place[]
  holes: Place[][]
  /** a shape of several parts, which stays as it is until another is drawn */ whole?: GeoJSON.Geometry
}

export const NOWHERE: Placing = { spot: null, corners: [], holes: [] }

/** Where a record is, as far as whoever looks may know it. */
export const spotOf = (record: RecordRow) =>
  record.lon === null || record.lat === null ? null : { lon: record.lon, lat: record.lat }

export const placingOf = (record: RecordRow): Placing => ({
  spot: spotOf(record),
  corners: cornersOf(record.geometry),
  holes: holesOf(record.geometry),
  ...(record.geometry?.type.startsWith('Multi') ? { whole: record.geometry } : {}),
})

export const isPoint = (kind: GeometryKind): kind is 'point' => kind === 'point'

/** The GeoJSON geometry, or null while there is not enough for one. */
export function geometryOf(kind: GeometryKind, placing: Placing): GeoJSON.Geometry | null {
  if (!isPoint(kind)) return shapeOf(kind, placing.corners, placing.holes) ?? placing.whole ?? null
  return placing.spot && { type: 'Point', coordinates: [placing.spot.lon, placing.spot.lat] }
}

/** What formulas see of it. */
export function surroundings(kind: GeometryKind, placing: Placing) {
  const shape = isPoint(kind) ? null : geometryOf(kind, placing)
  return shape
    ? measure(shape)
    : { lon: placing.spot?.lon ?? null, lat: placing.spot?.lat ?? null, length: null, area: null }
}
