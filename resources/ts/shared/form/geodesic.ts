import geodesic from 'geographiclib-geodesic'
import { decimal } from '../texts'

/**
 * Lengths, areas and places of lines and areas where there is no server: as core/Geo/Shape.php has them
 * (Karney 2013).
 */

export type Place = [number, number]
export type Shape = GeoJSON.LineString | GeoJSON.Polygon
export type Measured = { length: number | null; area: number | null; lon: number | null; lat: number | null }

const earth = geodesic.Geodesic.WGS84

export const metresAlong = (places: Place[]) => {
  const line = earth.Polygon(true)
  for (const [lon, lat] of places) line.AddPoint(lat, lon)
  return places.length < 2 ? 0 : line.Compute(false, true).perimeter
}

/**
 * How far it is from one place to another, in metres, and in which direction it begins, in degrees from
 * north.
 */
export function wayTo(
  from: { lon: number; lat: number },
  to: { lon: number; lat: number },
): { metres: number; degrees: number } {
  const { s12, azi1 } = earth.Inverse(from.lat, from.lon, to.lat, to.lon)
  return { metres: s12 ?? 0, degrees: ((azi1 ?? 0) + 360) % 360 }
}

function areaOf(ring: Place[]): number {
  const polygon = earth.Polygon(false)
  for (const [lon, lat] of ring) polygon.AddPoint(lat, lon)
  return Math.abs(polygon.Compute(false, true).area ?? 0)
}

/** A line or an area from its corners, or null while there are too few. */
export function shapeOf(kind: 'line' | 'area', corners: Place[], holes: Place[][] = []): Shape | null {
  if (kind === 'line') return corners.length < 2 ? null : { type: 'LineString', coordinates: corners }
  const [first] = corners
  return !first || corners.length < 3
    ? null
    : { type: 'Polygon', coordinates: [[...corners, first], ...holes] }
}

/** The corners that people move: of a line, or of an area's outline without the one that closes it. */
export function cornersOf(shape: GeoJSON.Geometry | null | undefined): Place[] {
  if (shape?.type === 'LineString') return shape.coordinates as Place[]
  return shape?.type === 'Polygon' ? ((shape.coordinates[0] ?? []).slice(0, -1) as Place[]) : []
}

export const holesOf = (shape: GeoJSON.Geometry | null | undefined): Place[][] =>
  shape?.type === 'Polygon' ? (shape.coordinates.slice(1) as Place[][]) : []

export function measure(shape: GeoJSON.Geometry | null | undefined): Measured {
  if (shape?.type === 'LineString') {
    const places = shape.coordinates as Place[]
    const [lon, lat] = halfWay(places)
    return { length: metresAlong(places), area: null, lon, lat }
  }
  if (shape?.type === 'Polygon') {
    const [outer = [], ...holes] = shape.coordinates as Place[][]
    const [lon, lat] = inside([outer, ...holes])
    return {
      length: [outer, ...holes].reduce((sum, ring) => sum + metresAlong(ring), 0),
      area: areaOf(outer) - holes.reduce((sum, hole) => sum + areaOf(hole), 0),
      lon,
      lat,
    }
  }
  if (shape?.type === 'MultiPolygon' || shape?.type === 'MultiLineString') {
    // Of several parts the largest stands for the whole.
    const parts = partsOf(shape).map(measure)
    const size = (m: Measured) => m.area ?? m.length ?? 0
    const largest = parts.reduce((a, b) => (size(b) > size(a) ? b : a))
    const sum = (of: (m: Measured) => number | null) => parts.reduce((total, m) => total + (of(m) ?? 0), 0)
    return {
      length: sum((m) => m.length),
      area: shape.type === 'MultiPolygon' ? sum((m) => m.area) : null,
      lon: largest.lon,
      lat: largest.lat,
    }
  }
  return { length: null, area: null, lon: null, lat: null }
}

const partsOf = (shape: GeoJSON.MultiPolygon | GeoJSON.MultiLineString): GeoJSON.Geometry[] =>
  shape.type === 'MultiPolygon'
    ? shape.coordinates.map((coordinates) => ({ type: 'Polygon' as const, coordinates }))
    : shape.coordinates.map((coordinates) => ({ type: 'LineString' as const, coordinates }))

const eastward = (from: number, to: number) => {
  const by = (to - from) % 360
  return by > 180 ? by - 360 : by < -180 ? by + 360 : by
}
const wrap = (lon: number) => (lon > 180 ? lon - 360 : lon < -180 ? lon + 360 : lon)

function halfWay(places: Place[]): Place {
  let rest = metresAlong(places) / 2
  for (let i = 1; i < places.length; i++) {
    const [from, to] = [places[i - 1]!, places[i]!]
    const metres = metresAlong([from, to])
    if (metres >= rest) {
      const share = metres > 0 ? rest / metres : 0
      return [wrap(from[0] + share * eastward(from[0], to[0])), from[1] + share * (to[1] - from[1])]
    }
    rest -= metres
  }
  return places[0] ?? [0, 0]
}

/** The middle of the widest stretch inside, on the latitude half way between the ends. */
function inside(rings: Place[][]): Place {
  const outer = rings[0] ?? []
  const first = outer[0]?.[0] ?? 0
  const lats = outer.map((p) => p[1])
  let lat = (Math.min(...lats) + Math.max(...lats)) / 2
  if (lats.includes(lat)) lat = (lat + Math.min(...lats.filter((l) => l > lat))) / 2
  const crossings: number[] = []
  for (const ring of rings) {
    for (let i = 1; i < ring.length; i++) {
      const [[lon1, lat1], [lon2, lat2]] = [ring[i - 1]!, ring[i]!]
      if (lat1 > lat !== lat2 > lat)
        crossings.push(eastward(first, lon1) + ((lat - lat1) / (lat2 - lat1)) * eastward(lon1, lon2))
    }
  }
  crossings.sort((a, b) => a - b)
  let widest = -1
  let lon = 0
  for (let i = 1; i < crossings.length; i += 2) {
    const [west, east] = [crossings[i - 1]!, crossings[i]!]
    if (east - west > widest) [widest, lon] = [east - west, (west + east) / 2]
  }
  return [wrap(first + lon), lat]
}

/** A length as people read it. */
export const shownLength = (metres: number) =>
  metres < 1000
    ? `${decimal(metres.toFixed(metres < 100 ? 1 : 0))} m`
    : `${decimal((metres / 1000).toFixed(metres < 10_000 ? 2 : 1))} km`
/** An area as people read it: square metres, hectares, square kilometres. */
export const shownArea = (m2: number) =>
  m2 < 10_000
    ? `${m2.toFixed(0)} m²`
    : m2 < 1_000_000
      ? `${decimal((m2 / 10_000).toFixed(2))} ha`
      : `${decimal((m2 / 1_000_000).toFixed(2))} km²`

/** Whether a place lies in an area: the even-odd rule, as core/Geo/PointInArea.php. */
export function liesIn(shape: GeoJSON.Polygon | GeoJSON.MultiPolygon, lon: number, lat: number): boolean {
  let isIn = false
  for (const ring of (shape.type === 'Polygon' ? shape.coordinates : shape.coordinates.flat()) as Place[][]) {
    const here = eastward(ring[0]?.[0] ?? 0, lon)
    let east = 0
    for (let i = 1; i < ring.length; i++) {
      const [[lon1, lat1], [lon2, lat2]] = [ring[i - 1]!, ring[i]!]
      const by = eastward(lon1, lon2)
      if (lat1 > lat !== lat2 > lat && east + ((lat - lat1) / (lat2 - lat1)) * by > here) isIn = !isIn
      east += by
    }
  }
  return isIn
}
