import { liesIn, measure, type Place } from '../../shared/form/geodesic'
import { indexOf } from '../../shared/map/classes'
import type { InsideLook, Tally, Values } from '../../shared/types'

/*
 * What areas are coloured by, told on the phone from the records that it has, as the server tells it (PinYard\Carto\Tally);
 * tests/vectors/tallies.json holds both together.
 */

export type TallyState = {
  records: number
  /** Records with a value of the measured field. */
  known: number
  sum: number
  least: number | null
  most: number | null
  /** Records in the slice whose share is told. */
  share: number
}

type Area = { id: string; shape?: GeoJSON.Geometry | null; values: Values }
type Counted = { lon: number; lat: number; values: Values }
type Outline = GeoJSON.Polygon | GeoJSON.MultiPolygon

/** Code of the class of areas with too few records to say anything. */
export const FEW = 'few'

/** What lies in each area, by its id; areas without a shape are not among them. */
export function tallied<R extends Counted>(
  of: Tally,
  areas: Area[],
  records: R[],
  inShare: (record: R) => boolean,
): Map<string, TallyState> {
  const states = new Map<string, TallyState>()
  for (const area of areas) {
    if (area.shape?.type !== 'Polygon' && area.shape?.type !== 'MultiPolygon') continue
    const shape = area.shape
    const box = boxOf(shape)
    const state: TallyState = { records: 0, known: 0, sum: 0, least: null, most: null, share: 0 }
    for (const record of records) {
      if (
        box &&
        !(record.lon >= box[0] && record.lon <= box[2] && record.lat >= box[1] && record.lat <= box[3])
      )
        continue
      if (!liesIn(shape, record.lon, record.lat)) continue
      state.records++
      const value = of.field === null ? null : number(record.values[of.field])
      if (value !== null) {
        state.known++
        state.sum += value
        state.least = state.least === null ? value : Math.min(state.least, value)
        state.most = state.most === null ? value : Math.max(state.most, value)
      }
      if (of.measure === 'share' && inShare(record)) state.share++
    }
    states.set(area.id, state)
  }
  return states
}

/** What an area has of what a rate is told by: square metres, or its own number. */
export const byOf = (of: Tally, area: Area): number | null =>
  of.measure !== 'rate'
    ? null
    : of.by === null
      ? measure(area.shape ?? null).area
      : number(area.values[of.by])

export const isFew = (of: Tally, state: TallyState): boolean => {
  const n = of.field === null || of.measure === 'rate' ? state.records : state.known
  return n < of.least && (n > 0 || of.measure === 'rate')
}

/** null where there is none: no record with a value, nothing to divide by. */
export function valueOf(of: Tally, state: TallyState, by: number | null): number | null {
  const sum = state.known > 0 || state.records === 0 ? state.sum : null
  const value = {
    count: () => state.records,
    sum: () => sum,
    mean: () => (state.known > 0 ? state.sum / state.known : null),
    least: () => state.least,
    most: () => state.most,
    share: () => (state.records > 0 ? (state.share / state.records) * 100 : null),
    rate: () => rate(of, of.field === null ? state.records : sum, by),
  }[of.measure]()
  return value === null || !Number.isFinite(value) ? null : Math.round(value * 1e6) / 1e6
}

const SQUARE_METRES = 1_000_000

function rate(of: Tally, amount: number | null, given: number | null): number | null {
  const by = given === null || of.by !== null ? given : given / SQUARE_METRES
  return amount === null || by === null || by <= 0 ? null : (amount / by) * of.times
}

/** By which class an area is drawn; undefined: by the mark for what has no value. */
export function classOfArea(look: InsideLook, state: TallyState, by: number | null): string | undefined {
  if (isFew(look.of, state)) return FEW
  const value = valueOf(look.of, state, by)
  return value === null ? undefined : String(indexOf(look.breaks, value))
}

const number = (value: unknown) => (typeof value === 'number' && Number.isFinite(value) ? value : null)

/** null for one over the antimeridian, where a box tells nothing. */
function boxOf(shape: Outline): [number, number, number, number] | null {
  const outer = (
    shape.type === 'Polygon' ? [shape.coordinates[0]] : shape.coordinates.map((p) => p[0])
  ).flatMap((ring) => (ring ?? []) as Place[])
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [lon, lat] of outer) {
    if (lon < west) west = lon
    if (lon > east) east = lon
    if (lat < south) south = lat
    if (lat > north) north = lat
  }
  return east - west > 180 ? null : [west, south, east, north]
}
