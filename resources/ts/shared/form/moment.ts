/**
 * Dates (`2026-05-01`), times of day (`06:30`, `06:30:15`) and moments (`2026-05-01T06:30:00Z`) as text,
 * by the same rules as core/Formula/Moment.php. In these forms the order of texts is the order of time.
 */
const pad = (n: number, width = 2) => String(n).padStart(width, '0')

const dayNumber = (date: string) =>
  Date.UTC(Number(date.slice(0, 4)), Number(date.slice(5, 7)) - 1, Number(date.slice(8, 10))) / 86_400_000

export function isDate(text: unknown): text is string {
  if (typeof text !== 'string' || !/^[1-9]\d{3}-\d\d-\d\d$/.test(text)) return false
  const date = new Date(`${text}T00:00:00Z`)
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text
}

/** In its shortest form: seconds only where there are some. */
export const timeShort = (time: string) =>
  time.length === 8 && time.endsWith(':00') ? time.slice(0, 5) : time

export function asTime(text: unknown): string | null {
  return typeof text === 'string' && /^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/.test(text)
    ? timeShort(text)
    : null
}

/** In UTC, to the second. */
export function asInstant(text: unknown): string | null {
  if (
    typeof text !== 'string' ||
    !/^[1-9]\d{3}-\d\d-\d\d[Tt]([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d{1,9})?([Zz]|[+-]([01]\d|2[0-3]):[0-5]\d)$/.test(
      text,
    ) ||
    !isDate(text.slice(0, 10))
  )
    return null
  const ms = Date.parse(text.toUpperCase())
  return Number.isNaN(ms) ? null : instantOf(Math.floor(ms / 1000))
}

export function instantOf(s: number): string | null {
  const date = new Date(s * 1000)
  if (Number.isNaN(date.getTime()) || date.getUTCFullYear() < 1000 || date.getUTCFullYear() > 9999)
    return null
  return `${date.toISOString().slice(0, 19)}Z`
}

export const seconds = (instant: string) => Math.floor(Date.parse(instant) / 1000)
export const dateOf = (text: string) => text.slice(0, 10)
export const days = (from: string, to: string) => dayNumber(to) - dayNumber(from)

/** Whole calendar months, towards zero. */
export function months(from: string, to: string): number {
  const n =
    (Number(to.slice(0, 4)) - Number(from.slice(0, 4))) * 12 +
    Number(to.slice(5, 7)) -
    Number(from.slice(5, 7))
  const [a, b] = [from.slice(8, 10), to.slice(8, 10)]
  return n > 0 && b < a ? n - 1 : n < 0 && b > a ? n + 1 : n
}

export function addDays(date: string, n: number): string | null {
  const at = new Date((dayNumber(date) + n) * 86_400_000)
  const text = Number.isNaN(at.getTime()) ? '' : at.toISOString().slice(0, 10)
  return isDate(text) ? text : null
}

/** The same day of another month, or its last day where it is shorter. */
export function addMonths(date: string, n: number): string | null {
  const all = Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1 + n
  const [year, month] = [Math.trunc(all / 12), (all % 12) + 1]
  if (year < 1000 || year > 9999) return null
  const last = new Date(Date.UTC(year, month, 0)).getUTCDate()
  return `${pad(year, 4)}-${pad(month)}-${pad(Math.min(Number(date.slice(8, 10)), last))}`
}

const clocks = new Map<string, Intl.DateTimeFormat>()
function clock(zone: string): Intl.DateTimeFormat {
  let made = clocks.get(zone)
  if (!made) {
    made = new Intl.DateTimeFormat('en-GB', {
      timeZone: zone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    })
    clocks.set(zone, made)
  }
  return made
}

/** What a clock of the zone shows at a moment. */
export function local(instant: string, zone: string): { date: string; time: string } {
  const parts = Object.fromEntries(
    clock(zone)
      .formatToParts(new Date(instant))
      .map((p) => [p.type, p.value]),
  )
  return {
    date: `${parts.year?.padStart(4, '0')}-${parts.month}-${parts.day}`,
    time: `${parts.hour}:${parts.minute}:${parts.second}`,
  }
}

/**
 * The moment when a clock of the zone shows this; of an hour that comes twice the first, of one that is left
 * out the later.
 */
export function at(date: string, time: string, zone: string): string | null {
  const wall = Date.parse(`${date}T${time.length === 5 ? `${time}:00` : time}Z`) / 1000
  const offset = (s: number) => {
    const shown = local(instantOf(s) ?? '1970-01-01T00:00:00Z', zone)
    return Date.parse(`${shown.date}T${shown.time}Z`) / 1000 - s
  }
  // The offsets a day before and after bracket any change; the earlier one rules in doubt, as in PHP.
  const before = offset(wall - 86_400)
  const after = offset(wall + 86_400)
  if (before !== after && offset(wall - before) !== before && offset(wall - after) === after)
    return instantOf(wall - after)
  return instantOf(wall - before)
}
