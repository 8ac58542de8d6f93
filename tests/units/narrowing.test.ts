import { expect, test } from 'vitest'
import { ALL, askedFor, dayBefore, filterOf, type Narrowing } from '../../resources/ts/desk/check/narrowing'
import type { Outing } from '../../resources/ts/shared/outing'

/* What of a layer's records Check lists. */

const NOON = new Date('2026-03-29T12:00:00Z')
const outing = { id: 7, crew: 3, from: '2026-03-01', to: '2026-03-04' } as Outing
const asked = (narrowing: Partial<Narrowing>) =>
  askedFor({ ...ALL, ...narrowing }, filterOf({ ...ALL, ...narrowing }, [outing], 'UTC', NOON))
const days = (value: unknown, test = 'between') => ({ field: 'collected_at', test, value })
const only = (...all: object[]) => ({ filter: JSON.stringify({ all }) })
const CREW = { field: '@crew', test: 'one_of', value: [3] }

test('nothing is narrowed by itself, and each part by its own', () => {
  expect(asked({})).toEqual({})
  expect(asked({ slice: 4 })).toEqual({ slice: '4' })
  expect(asked({ list: 'waiting' })).toEqual(only({ field: '@accepted', test: 'is', value: false }))
  expect(asked({ list: 'flagged', reason: 'double' })).toEqual({ flag: 'double' })
  // A reason that was chosen in another list narrows nothing here.
  expect(asked({ list: 'all', reason: 'double' })).toEqual({})
  expect(asked({ by: { kind: 'crew', id: 3 } })).toEqual(only(CREW))
  expect(asked({ by: { kind: 'outing', id: 7 } })).toEqual(only(CREW, days(['2026-03-01', '2026-03-04'])))
  expect(asked({ by: { kind: 'outing', id: 8 } })).toEqual({})
  expect(asked({ day: 'week' })).toEqual(only(days(7, 'last_days')))
  expect(asked({ day: '2026-03-02' })).toEqual(only(days(['2026-03-02', '2026-03-02'])))
  expect(asked({ day: 'yesterday' })).toEqual(only(days(['2026-03-28', '2026-03-28'])))
})

test('yesterday is by the clock of the programme, also where a day has 23 hours', () => {
  expect(dayBefore(new Date('2026-03-29T23:30:00Z'), 'Europe/Berlin')).toBe('2026-03-29')
  expect(dayBefore(new Date('2026-03-29T22:30:00Z'), 'Europe/Berlin')).toBe('2026-03-29')
  expect(dayBefore(new Date('2026-03-29T00:30:00Z'), 'Pacific/Honolulu')).toBe('2026-03-27')
  expect(dayBefore(new Date('2026-03-01T00:30:00Z'), 'UTC')).toBe('2026-02-28')
  expect(dayBefore(new Date('2026-01-01T10:30:00Z'), 'Pacific/Kiritimati')).toBe('2026-01-01')
})
