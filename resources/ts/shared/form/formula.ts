import {
  at,
  dateOf,
  days,
  local,
  months,
  addDays,
  addMonths,
  isDate,
  seconds,
  instantOf,
  timeShort,
} from './moment'
import { metresBetween } from './lambert'

/**
 * Works out the portable tree of a formula where there is no server, exactly as core/Formula/Evaluator.php
 * does. What the formula means was decided in PHP; here it is only carried out. tests/vectors/formulas.json
 * keeps both alike.
 */
export type Tree = [string, ...unknown[]]
export type Known = number | string | boolean | string[]
export type Worked = Known | null

export type Surroundings = {
  values: Record<string, unknown>
  now: Date
  zone: string
  labels?: Record<string, Record<string, string>>
  lon?: number | null
  lat?: number | null
  /** Metres of a line or around an area, square metres, metres of altitude. */
  length?: number | null
  area?: number | null
  altitude?: number | null
  visits?: number
  latest?: Record<string, unknown>
  /** Values of the area of a layer (by title) that a place lies in. */
  areas?: ((title: string, lon: number, lat: number) => Record<string, unknown> | null) | undefined
}

const UNITS: Record<string, number> = { seconds: 1, minutes: 60, hours: 3600, days: 86_400, weeks: 604_800 }

const plain = (v: unknown): Worked =>
  v === undefined || v === '' || (Array.isArray(v) && v.length === 0) ? null : (v as Worked)

export function work(tree: Tree, s: Surroundings): Worked {
  const go = (n: unknown): Worked => work(n as Tree, s)
  const [op, ...parts] = tree
  switch (op) {
    case 'n':
    case 's':
    case 'b':
      return parts[0] as Known
    case 'z':
      return null
    case 'f':
      return plain(s.values[parts[0] as string])
    case 'area_of':
      return s.lon == null || s.lat == null
        ? null
        : plain(s.areas?.(parts[0] as string, s.lon, s.lat)?.[parts[1] as string])
    case 'latest_visit':
      return plain(s.latest?.[parts[0] as string])
    case 'and':
      return either(go, parts, false)
    case 'or':
      return either(go, parts, true)
    case 'choose': {
      const condition = go(parts[0])
      return condition === null ? null : go(condition === true ? parts[1] : parts[2])
    }
    case 'first_given': {
      for (const part of parts) {
        const value = go(part)
        if (value !== null) return value
      }
      return null
    }
    case 'missing':
      return go(parts[0]) === null
    case 'given':
      return go(parts[0]) !== null
    case 'join': {
      const [separator, ...rest] = parts.map(go)
      const given = rest.filter((v) => v !== null)
      return separator === null || given.length === 0 ? null : given.join(String(separator))
    }
    case 'in': {
      const value = go(parts[0])
      return value === null ? null : (parts[1] as unknown[]).slice(1).includes(value)
    }
    case 'label':
    case 'labels':
      return label(parts[0] as Tree, s)
  }
  const values: Known[] = []
  for (const part of parts) {
    const value = go(part)
    if (value === null) return null
    values.push(value)
  }
  const result = carryOut(op, values, s)
  return typeof result === 'number' ? (Number.isFinite(result) ? result + 0 : null) : result
}

function either(go: (n: unknown) => Worked, parts: unknown[], decides: boolean): boolean | null {
  const left = go(parts[0])
  if (left === decides) return decides
  const right = go(parts[1])
  return right === decides ? decides : left === null || right === null ? null : !decides
}

function label(node: Tree, s: Surroundings): string | null {
  const value = work(node, s)
  if (value === null || node[0] !== 'f') return typeof value === 'string' ? value : null
  const labels = s.labels?.[node[1] as string] ?? {}
  return (Array.isArray(value) ? value : [String(value)]).map((code) => labels[code] ?? code).join(', ')
}

// eslint would have this split; it is one table, and its twin in PHP is one table too.
function carryOut(op: string, v: Known[], s: Surroundings): Worked {
  const n = v as number[]
  const t = v as string[]
  const [a, b, c] = n as [number, number, number]
  const [ta, tb, tc] = t as [string, string, string]
  switch (op) {
    case 'plus':
      return a + b
    case 'minus':
      return a - b
    case 'times':
      return a * b
    case 'over':
      return b === 0 ? null : a / b
    case 'rest':
      return b === 0 ? null : a % b
    case 'power':
      return (a === 0 && b < 0) || (a < 0 && Math.floor(b) !== b) ? null : a ** b
    case 'minus_of':
      return -a
    case 'same':
      return a
    case 'not':
      return !v[0]
    case 'eq':
    case 'eq_text':
      return v[0] === v[1]
    case 'ne':
    case 'ne_text':
      return v[0] !== v[1]
    case 'lt':
      return v[0]! < v[1]!
    case 'le':
      return v[0]! <= v[1]!
    case 'gt':
      return v[0]! > v[1]!
    case 'ge':
      return v[0]! >= v[1]!
    case 'cat':
      return ta + tb
    case 'contains':
      return ta.includes(tb)
    case 'starts':
      return ta.startsWith(tb)
    case 'ends':
      return ta.endsWith(tb)
    case 'round':
      return round(a, b ?? 0)
    case 'ceiling':
      return Math.ceil(a)
    case 'floor':
      return Math.floor(a)
    case 'absolute':
      return Math.abs(a)
    case 'root':
      return a < 0 ? null : Math.sqrt(a)
    case 'least':
      return v.reduce((x, y) => (y < x ? y : x))
    case 'most':
      return v.reduce((x, y) => (y > x ? y : x))
    case 'number':
      return /^\s*[+-]?\d{1,15}(\.\d{1,15})?\s*$/.test(ta) ? Number(ta) : null
    case 'text_number':
      return numberText(a, b)
    case 'text_date':
      return shaped(tb, ta, '00:00')
    case 'text_instant':
      return shaped(tb, local(ta, s.zone).date, local(ta, s.zone).time)
    case 'length':
      return [...ta].length
    case 'part':
      return b < 1 || c < 0
        ? null
        : [...ta].slice(Math.trunc(b) - 1, Math.trunc(b) - 1 + Math.trunc(c)).join('')
    case 'upper':
      return ta.toUpperCase()
    case 'lower':
      return ta.toLowerCase()
    case 'has':
      return (v[0] as unknown as string[]).includes(tb)
    case 'count':
      return (v[0] as unknown as string[]).length
    case 'between_dates':
      return betweenDates(ta, tb, tc)
    case 'between_instants':
      return (seconds(tb) - seconds(ta)) / UNITS[tc]!
    case 'between_times':
      return (daySeconds(tb) - daySeconds(ta)) / UNITS[tc]!
    case 'add_date':
      return addToDate(ta, b, tc)
    case 'add_instant':
      return Math.abs(b) > 1e9 ? null : instantOf(seconds(ta) + Math.floor(b * UNITS[tc]!))
    case 'today':
      return local(instantOf(Math.floor(s.now.getTime() / 1000))!, s.zone).date
    case 'now':
      return instantOf(Math.floor(s.now.getTime() / 1000))
    case 'date':
      return makeDate(a, b, c)
    case 'at':
      return at(ta, tb, s.zone)
    case 'date_of':
      return local(ta, s.zone).date
    case 'time_of':
      return timeShort(local(ta, s.zone).time)
    case 'year':
      return Number(ta.slice(0, 4))
    case 'month':
      return Number(ta.slice(5, 7))
    case 'day':
      return Number(ta.slice(8, 10))
    case 'weekday':
      return ((new Date(`${dateOf(ta)}T00:00:00Z`).getUTCDay() + 6) % 7) + 1
    case 'hour':
      return Number(ta.slice(0, 2))
    case 'minute':
      return Number(ta.slice(3, 5))
    case 'longitude':
      return s.lon ?? null
    case 'latitude':
      return s.lat ?? null
    case 'altitude':
      return s.altitude ?? null
    case 'line_length':
      return s.length ?? null
    case 'area_size':
      return s.area ?? null
    case 'visits':
      return s.visits ?? 0
    case 'distance_to':
      return s.lon == null || s.lat == null || Math.abs(b) > 90 || Math.abs(a) > 180
        ? null
        : metresBetween(s.lon, s.lat, a, b)
    default:
      throw new Error(`unknown operation ${op}`)
  }
}

/** Half away from zero, in the very steps that PHP and SQL take. */
export function round(x: number, digits: number): number {
  const scale = 10 ** Math.abs(digits)
  const magnitude =
    digits >= 0
      ? Math.floor(Math.abs(x) * scale + 0.5) / scale
      : Math.floor(Math.abs(x) / scale + 0.5) * scale
  return Number.isFinite(magnitude) ? (x < 0 ? -magnitude : magnitude) : x
}

export function numberText(x: number, decimals?: number): string | null {
  if (Math.abs(x) >= 1e15 || (decimals !== undefined && decimals < 0)) return null
  let text = (round(x, decimals ?? 6) + 0).toFixed(decimals ?? 6)
  if (decimals === undefined) text = text.replace(/0+$/, '').replace(/\.$/, '')
  return /^-0(\.0*)?$/.test(text) ? text.slice(1) : text
}

const shaped = (shape: string, date: string, time: string) =>
  shape.replace(
    /YYYY|MM|DD|hh|mm/g,
    (word) =>
      ({
        YYYY: date.slice(0, 4),
        MM: date.slice(5, 7),
        DD: date.slice(8, 10),
        hh: time.slice(0, 2),
        mm: time.slice(3, 5),
      })[word]!,
  )

const daySeconds = (time: string) =>
  Number(time.slice(0, 2)) * 3600 + Number(time.slice(3, 5)) * 60 + Number(time.slice(6, 8) || 0)

function betweenDates(from: string, to: string, unit: string): number {
  if (unit === 'days') return days(from, to)
  if (unit === 'weeks') return days(from, to) / 7
  return unit === 'months' ? months(from, to) : Math.trunc(months(from, to) / 12)
}

function addToDate(date: string, amount: number, unit: string): string | null {
  if (Math.abs(amount) > 1e6) return null
  const whole = Math.floor(amount * ({ days: 1, weeks: 7, months: 1, years: 12 }[unit] ?? 1))
  return unit === 'days' || unit === 'weeks' ? addDays(date, whole) : addMonths(date, whole)
}

function makeDate(y: number, m: number, d: number): string | null {
  if (Math.max(Math.abs(y), Math.abs(m), Math.abs(d)) > 9999) return null
  const pad = (x: number, width: number) => String(Math.trunc(x)).padStart(width, '0')
  const text = `${pad(y, 4)}-${pad(m, 2)}-${pad(d, 2)}`
  return isDate(text) ? text : null
}
