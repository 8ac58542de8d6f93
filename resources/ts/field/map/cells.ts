import { boxPolygon } from '../../shared/map/boxPolygon'
import { indexOf } from '../../shared/map/classes'
import type { DensityLook, Values } from '../../shared/types'

/*
 * Records counted in the cells of a grid, on the phone from the records that it has, as the server counts them
 * (App\Maps\DensityCells, PinYard\Geo\ZOrder); tests/vectors/cells.json holds both together.
 */

/** Steps of a side of the Web Mercator square, in bits. */
const BITS = 31
const SIZE = 2 ** BITS
/** Latitude of its upper edge: atan(sinh(pi)). */
const EDGE = 85.05112877980659

type Counted = { lon: number; lat: number; values: Values }

const radians = (degrees: number) => (degrees * Math.PI) / 180
const clamp = (step: number) => Math.max(0, Math.min(SIZE - 1, Math.floor(step)))
const across = (lon: number) => clamp(((lon + 180) / 360) * SIZE)
const down = (lat: number) =>
  clamp(((1 - Math.asinh(Math.tan(radians(Math.max(-EDGE, Math.min(EDGE, lat))))) / Math.PI) / 2) * SIZE)

/** Column and row of the cell that a place lies in. */
export const cellOf = (lon: number, lat: number, bits: number): [number, number] => [
  Math.floor(across(lon) / 2 ** bits),
  Math.floor(down(lat) / 2 ** bits),
]

function outlineOf([column, row]: [number, number], bits: number): GeoJSON.Polygon {
  const side = 2 ** bits
  const lon = (x: number) => (x / SIZE) * 360 - 180
  const lat = (y: number) => (Math.atan(Math.sinh(Math.PI * (1 - (2 * y) / SIZE))) * 180) / Math.PI
  const [west, east] = [lon(column * side), lon((column + 1) * side)]
  const [north, south] = [lat(row * side), lat((row + 1) * side)]
  return boxPolygon(west, south, east, north)
}

/** A square for each cell with records, with the class of how many they are, or of the sum of theirs. */
export function cellsOf(look: DensityLook, records: Counted[]): GeoJSON.FeatureCollection {
  const cells = new Map<string, { at: [number, number]; value: number | null }>()
  for (const record of records) {
    const at = cellOf(record.lon, record.lat, look.bits)
    const cell = cells.get(at.join()) ?? { at, value: null }
    const adds = look.field === null ? 1 : record.values[look.field]
    if (typeof adds === 'number' && Number.isFinite(adds)) cell.value = (cell.value ?? 0) + adds
    cells.set(at.join(), cell)
  }
  return {
    type: 'FeatureCollection',
    features: [...cells].map(([id, { at, value }]) => ({
      type: 'Feature',
      geometry: outlineOf(at, look.bits),
      properties: {
        id: `cell-${id}`,
        ...(value === null ? {} : { class: String(indexOf(look.breaks, value)) }),
      },
    })),
  }
}
