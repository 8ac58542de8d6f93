import type { Box } from '../types'

/** Web Mercator shows no more of the world. */
const NORTHMOST = 85
const QUARTER = 90

/**
 * The smallest box around places, in degrees. What lies on both sides of the antimeridian is framed across it, its west
 * being greater than its east (RFC 7946, section 5.2), where a quarter of the world or more is left out that way; what is
 * spread over more of it is framed as maps show the world.
 *
 * @returns null where there are no places
 */
export function boxAround(places: readonly GeoJSON.Position[]): Box | null {
  const lons: number[] = []
  let [south, north] = [Infinity, -Infinity]
  for (const [lon, lat] of places) {
    if (lon === undefined || lat === undefined) continue
    lons.push(wrapped(lon))
    south = Math.min(south, lat)
    north = Math.max(north, lat)
  }
  const sorted = Float64Array.from(lons).sort()
  const last = sorted.length - 1
  if (last < 0) return null
  // From the eastmost over the antimeridian to the westmost: what is left out, unless there is a wider stretch.
  let gap = Math.max(QUARTER, sorted[0]! + 360 - sorted[last]!)
  let [west, east] = [sorted[0]!, sorted[last]!]
  for (let i = 1; i <= last; i++) {
    if (sorted[i]! - sorted[i - 1]! > gap) {
      gap = sorted[i]! - sorted[i - 1]!
      ;[west, east] = [sorted[i]!, sorted[i - 1]!]
    }
  }
  return [west, south, east, north]
}

/** How far a box goes from west to east, in degrees; also across the antimeridian. */
export const widthOf = ([west, , east]: Box) => (east < west ? east + 360 - west : east - west)

/** A box made wider by so many degrees on each side: around the world at most, and not beyond what maps show. */
export function padded(box: Box, eastWest: number, northSouth: number): Box {
  const [west, south, east, north] = box
  const lats: [number, number] = [
    Math.max(-NORTHMOST, south - northSouth),
    Math.min(NORTHMOST, north + northSouth),
  ]
  if (widthOf(box) + 2 * eastWest >= 360) return [-180, lats[0], 180, lats[1]]
  // What lies on one side of the antimeridian may reach beyond it, as maps do: it is not cut there.
  return west <= east && west - eastWest >= -180 && east + eastWest <= 180
    ? [west - eastWest, lats[0], east + eastWest, lats[1]]
    : [wrapped(west - eastWest), lats[0], wrapped(east + eastWest), lats[1]]
}

/**
 * The places that a geometry goes through, of whatever kind: its corners, and some of those between two that lie far from
 * each other. As everywhere here, a side of more than half of the world goes the other way around it; one all around goes
 * around.
 */
export function placesOf(geometry: GeoJSON.Geometry): GeoJSON.Position[] {
  switch (geometry.type) {
    case 'Point':
      return [geometry.coordinates]
    case 'MultiPoint':
      return geometry.coordinates
    case 'LineString':
      return geometry.coordinates.flatMap(along)
    case 'MultiLineString':
    case 'Polygon':
      return geometry.coordinates.flatMap((line) => line.flatMap(along))
    case 'MultiPolygon':
      return geometry.coordinates.flat().flatMap((ring) => ring.flatMap(along))
    case 'GeometryCollection':
      return geometry.geometries.flatMap(placesOf)
  }
}

/** A corner, after what lies between it and the one before. */
function along(to: GeoJSON.Position, i: number, line: GeoJSON.Position[]): GeoJSON.Position[] {
  const from = i === 0 ? to : line[i - 1]!
  const [far, up] = [to[0]! - from[0]!, to[1]! - from[1]!]
  if (Math.abs(far) <= QUARTER || (Math.abs(far) > 180 && Math.abs(far) < 360)) return [to]
  const between = [0.25, 0.5, 0.75].map((share) => [from[0]! + share * far, from[1]! + share * up])
  return [...between, to]
}

/** A longitude from -180 to 180; both of these stay what they are. */
const wrapped = (lon: number) => (lon >= -180 && lon <= 180 ? lon : ((((lon + 180) % 360) + 360) % 360) - 180)
