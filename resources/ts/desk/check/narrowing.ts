import type { Outing } from '../../shared/outing'
import type { Api } from '../../shared/types'

export type Reason = Api['FlagKind'] | 'any'

/** Whose records: those of a crew, or those of an outing, which has its days as well. */
export type By = { kind: 'crew' | 'outing'; id: number }

/** `today`, `yesterday`, `week`, or one day (YYYY-MM-DD). */
export type Day = string

/** What of a layer's records is listed. */
export type Narrowing = {
  list: 'all' | 'waiting' | 'flagged'
  /** Of those that are flagged. */
  reason: Reason
  slice: number | null
  by: By | null
  day: Day | null
}

export const ALL: Narrowing = { list: 'all', reason: 'any', slice: null, by: null, day: null }

const TO_CHECK = { field: '@accepted', test: 'is', value: false }

/**
 * The conditions that a list is narrowed by beside its slice, as the server reads them; null where there are none.
 *
 * @param outings those of the programme; one that is not there narrows nothing
 * @param now by whose day it is today, in the programme's time zone
 */
export function filterOf(narrowing: Narrowing, outings: Outing[], zone: string, now: Date): object | null {
  const all: object[] = narrowing.list === 'waiting' ? [TO_CHECK] : []
  const outing = narrowing.by?.kind === 'outing' ? outings.find((o) => o.id === narrowing.by?.id) : undefined
  const crew = narrowing.by?.kind === 'crew' ? narrowing.by.id : outing?.crew
  if (crew != null) all.push({ field: '@crew', test: 'one_of', value: [crew] })
  if (outing) all.push({ field: 'collected_at', test: 'between', value: [outing.from, outing.to] })
  const days = narrowing.day === null ? null : daysOf(narrowing.day, zone, now)
  if (days) all.push({ field: 'collected_at', ...days })
  return all.length === 0 ? null : { all }
}

function daysOf(day: Day, zone: string, now: Date): object {
  if (day === 'today') return { test: 'today' }
  if (day === 'week') return { test: 'last_days', value: 7 }
  const one = day === 'yesterday' ? dayBefore(now, zone) : day
  return { test: 'between', value: [one, one] }
}

/** The day before today by the clock of a time zone, also where a day there has 23 or 25 hours. */
export function dayBefore(now: Date, zone: string): string {
  const today = new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(now)
  return new Date(Date.parse(`${today}T12:00:00Z`) - 86_400_000).toISOString().slice(0, 10)
}

/** How the server is asked for them. */
export function askedFor(narrowing: Narrowing, filter: object | null): Record<string, string> {
  return {
    ...(narrowing.slice === null ? {} : { slice: String(narrowing.slice) }),
    ...(filter === null ? {} : { filter: JSON.stringify(filter) }),
    ...(narrowing.list === 'flagged' ? { flag: narrowing.reason } : {}),
  }
}

/** Whether it is of some alone, beside those that wait. */
export const isNarrowed = (narrowing: Narrowing) => narrowing.by !== null || narrowing.day !== null
