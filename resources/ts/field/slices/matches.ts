import { liesIn } from '../../shared/form/geodesic'
import { local } from '../../shared/form/moment'
import { conditionsOf, isRule, partsOf, type Asked, type Condition, type Rule, type Rules } from './rule'

/*
 * Which records a slice lets through, told on the phone from its own records as the server tells it by SQL
 * (App\Layers\FilterSql); tests/vectors/slices.json holds both together. Every condition is true or false, never neither.
 */

/** Whether a phone can tell at all: it does not know who is in which crew, what was accepted, nor layers that it does not carry. */
export const canTell = (rule: Rule, rules: Rules): boolean =>
  conditionsOf(rule).every((c) => {
    if (c.field === '@crew' || c.field === '@accepted') return false
    const area = c.value as { layer: number; record: string }
    return c.test !== 'in_area' || rules.areaOf(area.layer, area.record) !== undefined
  })

export function matches(rule: Rule, record: Asked, rules: Rules): boolean {
  const holds = (part: Rule | Condition) =>
    isRule(part) ? matches(part, record, rules) : condition(part, record, rules)
  const parts = partsOf(rule)
  if ('all' in rule) return parts.every(holds)
  return 'any' in rule ? parts.some(holds) : !parts.some(holds)
}

function condition(c: Condition, record: Asked, rules: Rules): boolean {
  if (c.field === '@own') return record.mine === true
  if (c.field === '@place') return place(c, record, rules)
  if (c.field === '@visits') return value(c, rules.visitsTo(record.id).length, 'whole_number', rules)
  const asked = c.of === 'visit' ? latest(rules.visitsTo(record.id)) : record
  if (!asked) return false
  return c.field === 'collected_at'
    ? value(c, asked.collected_at, 'date_time', rules)
    : value(c, asked.values[c.field], rules.kindOf(c.field, c.of === 'visit'), rules)
}

/** Of those of the same moment the one with the greatest id, as the server has it. */
const latest = (visits: Asked[]): Asked | undefined =>
  visits.reduce<Asked | undefined>(
    (best, v) => (!best || [v.collected_at, v.id].join() > [best.collected_at, best.id].join() ? v : best),
    undefined,
  )

function value(c: Condition, given: unknown, told: string | undefined, rules: Rules): boolean {
  const kind = told ?? kindBy(given)
  const asked = c.value
  const several = Array.isArray(asked) ? (asked as unknown[]) : [asked]
  const missing =
    given === null || given === undefined || given === '' || (Array.isArray(given) && given.length === 0)
  if (c.test === 'missing') return missing
  if (c.test === 'there') return !missing
  if (missing) return ['is_not', 'none_of', 'has_not'].includes(c.test)
  if (kind === 'date' || kind === 'date_time') return day(c, String(given), kind, rules)
  const same = (a: unknown) =>
    typeof a === 'string' && typeof given === 'string' && isText(kind)
      ? folded(a) === folded(given)
      : kind === 'time'
        ? time(a) === time(given)
        : a === given
  switch (c.test) {
    case 'is':
      return same(asked)
    case 'is_not':
      return !same(asked)
    case 'one_of':
      return Array.isArray(given) ? several.some((code) => given.includes(code)) : several.some(same)
    case 'none_of':
      return !several.some(same)
    case 'contains':
      return folded(String(given)).includes(folded(String(asked)))
    case 'has':
      return Array.isArray(given) && given.includes(asked)
    case 'has_not':
      return !(Array.isArray(given) && given.includes(asked))
    case 'at_least':
      return ordered(given, kind) >= ordered(asked, kind)
    case 'at_most':
      return ordered(given, kind) <= ordered(asked, kind)
    case 'between':
      return (
        ordered(given, kind) >= ordered(several[0], kind) && ordered(given, kind) <= ordered(several[1], kind)
      )
    default:
      return false
  }
}

/** What a calculated value is, told by what came out. */
function kindBy(given: unknown): string | undefined {
  if (typeof given !== 'string') return undefined
  if (/^\d{4}-\d\d-\d\d$/.test(given)) return 'date'
  if (/^\d{4}-\d\d-\d\dT/.test(given)) return 'date_time'
  return /^\d\d:\d\d(:\d\d)?$/.test(given) ? 'time' : 'short_text'
}

const isText = (kind: string | undefined) => kind === 'short_text' || kind === 'long_text'

/** Without accents and capitals, as the database compares words. */
const folded = (text: string) =>
  text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replaceAll('ß', 'ss').trimEnd()

const time = (text: unknown) => (typeof text === 'string' && text.length === 5 ? `${text}:00` : text)
const ordered = (v: unknown, kind: string | undefined): number | string =>
  kind === 'time' ? String(time(v)) : Number(v)

/** Days by the programme's calendar; weeks begin on Monday (ISO 8601). */
function day(c: Condition, given: string, kind: 'date' | 'date_time', rules: Rules): boolean {
  const on = kind === 'date' ? given.slice(0, 10) : local(given, rules.zone).date
  const [first, last] = span(c, rules.today)
  return (first === null || on >= first) && (last === null || on <= last)
}

function span(c: Condition, today: string): [string | null, string | null] {
  const asked = c.value
  switch (c.test) {
    case 'is':
      return [asked as string, asked as string]
    case 'since':
      return [asked as string, null]
    case 'until':
      return [null, asked as string]
    case 'between':
      return asked as [string, string]
    case 'today':
      return [today, today]
    case 'this_week': {
      const monday = shifted(today, -((new Date(`${today}T00:00:00Z`).getUTCDay() + 6) % 7))
      return [monday, shifted(monday, 6)]
    }
    case 'last_days':
      return [shifted(today, 1 - Number(asked)), today]
    default:
      return ['9', '0']
  }
}

const shifted = (date: string, days: number) =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)

function place(c: Condition, { lon, lat }: Asked, rules: Rules): boolean {
  if (c.test === 'within') {
    const around = c.value as { lon: number; lat: number; metres: number }
    return flatMetres(around, lon, lat) <= around.metres
  }
  const asked = c.value as { layer: number; record: string }
  const shape =
    c.test === 'in_shape'
      ? (c.value as GeoJSON.Polygon | GeoJSON.MultiPolygon)
      : rules.areaOf(asked.layer, asked.record)
  return shape ? liesIn(shape, lon, lat) : false
}

/** The same reckoning as App\Layers\PlaceSql::around, so that no record is in a slice on one side alone (WGS 84). */
function flatMetres(from: { lon: number; lat: number }, lon: number, lat: number): number {
  const radians = Math.PI / 180
  const flattening = 1 / 298.257223563
  const e2 = flattening * (2 - flattening)
  const w2 = 1 - e2 * Math.sin(from.lat * radians) ** 2
  const across = (radians * 6_378_137) / Math.sqrt(w2)
  const up = (across * (1 - e2)) / w2
  const east = ((((lon - from.lon + 540) % 360) + 360) % 360) - 180
  return Math.hypot((lat - from.lat) * up, east * across * Math.cos(((lat + from.lat) / 2) * radians))
}
