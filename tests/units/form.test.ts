import { expect, test } from 'vitest'
import { alike, KIND_GROUPS, KIND_MARK, newField } from '../../resources/ts/desk/build/design'
import { testsFor } from '../../resources/ts/desk/build/condition'
import {
  addDays,
  addMonths,
  asInstant,
  asTime,
  at,
  isDate,
  local,
  months,
} from '../../resources/ts/shared/form/moment'
import { defaults, filled } from '../../resources/ts/shared/form/rules'
import { shownValue } from '../../resources/ts/shared/form/shownValue'
import type { Design, Field, FieldKind } from '../../resources/ts/shared/types'

const field = (kind: FieldKind, more: Partial<Field> = {}): Field => ({ key: 'a', label: 'A', kind, ...more })
const CHOICES = [
  { code: 'a', label: 'Ash' },
  { code: 'b', label: 'Birch', retired: true },
]

test('values are shown as people read them', () => {
  expect(shownValue(field('decimal', { unit: 'kg' }), 2.5)).toBe('2.5 kg')
  expect(shownValue(field('decimal', { decimals: 2 }), 2.5)).toBe('2.50')
  expect(shownValue(field('decimal'), 0.1 + 0.2)).toBe('0.3')
  expect(shownValue(field('whole_number', { unit: 'eggs' }), 1200)).toBe('1,200 eggs')
  expect(shownValue(field('yes_no'), false)).toBe('no')
  expect(shownValue(field('one_choice', { choices: CHOICES }), 'b')).toBe('Birch')
  expect(shownValue(field('several_choices', { choices: CHOICES }), ['a', 'gone'])).toBe('Ash, gone')
  expect(shownValue(field('date'), '2026-05-01')).toBe('May 1, 2026')
  expect(shownValue(field('date_time'), '2026-05-01T23:30:00Z', 'Asia/Kathmandu')).toBe('May 2, 05:15')
  expect(shownValue(field('calculated'), '2026-05-01')).toBe('May 1, 2026')
  expect(shownValue(field('short_text'), '2026-05-01')).toBe('2026-05-01')
  for (const nothing of [null, undefined, '']) expect(shownValue(field('short_text'), nothing)).toBe('')
})

test("a new record begins with the defaults, those that move by the programme's clock", () => {
  const design = {
    fields: [
      field('date', { key: 'd', default: 'today' }),
      field('date_time', { key: 't', default: 'now' }),
      field('yes_no', { key: 'y', default: false }),
      field('short_text', { key: 's' }),
      field('whole_number', { key: 'n', default: 0 }),
    ],
  } as Design
  const now = new Date('2026-05-01T23:30:20Z')
  expect(defaults(design, { now, zone: 'Asia/Kathmandu' })).toEqual({
    d: '2026-05-02',
    t: '2026-05-01T23:30:20Z',
    y: false,
    n: 0,
  })
  expect(filled({ a: [], b: ['x'], c: false, d: '', e: null, f: 0 })).toEqual({ b: ['x'], c: false, f: 0 })
})

test('dates, times and moments are taken in one form, and nothing else is', () => {
  expect(['2026-02-28', '2024-02-29', '1000-01-01'].every(isDate)).toBe(true)
  expect(['2026-02-29', '0999-01-01', '2026-1-1', '2026-05-01 ', '', 5].some(isDate)).toBe(false)
  expect([
    asTime('06:15'),
    asTime('06:15:00'),
    asTime('06:15:30'),
    asTime('24:00'),
    asTime('6:15'),
    asTime(615),
  ]).toEqual(['06:15', '06:15', '06:15:30', null, null, null])
  // Source: RFC 3339, section 5.6.
  expect([
    asInstant('2026-05-01T08:15:00.5+02:00'),
    asInstant('2026-05-01t06:15:00z'),
    asInstant('2026-05-01T06:15:00'),
    asInstant('2026-02-30T06:15:00Z'),
    asInstant('2026-05-01'),
  ]).toEqual(['2026-05-01T06:15:00Z', '2026-05-01T06:15:00Z', null, null, null])
  expect([addDays('2026-12-31', 1), addDays('2024-03-01', -1), addDays('9999-12-31', 1)]).toEqual([
    '2027-01-01',
    '2024-02-29',
    null,
  ])
  expect([
    addMonths('2026-01-31', 1),
    addMonths('2026-03-31', -1),
    addMonths('2026-05-15', 12),
    addMonths('9999-12-01', 1),
  ]).toEqual(['2026-02-28', '2026-02-28', '2027-05-15', null])
  expect([
    months('2026-01-31', '2026-02-28'),
    months('2026-02-28', '2026-01-31'),
    months('2026-05-01', '2027-05-01'),
  ]).toEqual([0, 0, 12])
})

test('a clock of a zone and the moment that it shows lead to each other', () => {
  // Source: IANA time zone data, as the browser's engine carries it.
  for (const zone of [
    'UTC',
    'Europe/Berlin',
    'America/New_York',
    'Asia/Kathmandu',
    'Australia/Lord_Howe',
    'Pacific/Auckland',
  ]) {
    for (const instant of [
      '2026-01-15T00:00:00Z',
      '2026-03-29T00:59:59Z',
      '2026-07-01T12:34:56Z',
      '2026-11-02T09:00:00Z',
    ]) {
      const shown = local(instant, zone)
      expect(at(shown.date, shown.time, zone), `${instant} in ${zone}`).toBe(instant)
    }
  }
})

test('every kind of field can be added, has its mark, and has conditions that fit it', () => {
  const kinds = KIND_GROUPS.flatMap((g) => [...g.kinds])
  expect([...kinds].sort()).toEqual(Object.keys(KIND_MARK).sort())
  expect(new Set(Object.values(KIND_MARK)).size).toBe(kinds.length)
  for (const kind of kinds) {
    const made = newField(kind, [])
    expect(made.choices !== undefined).toBe(kind === 'one_choice' || kind === 'several_choices')
    if (kind !== 'heading' && kind !== 'calculated') expect(testsFor(made)).toContain('given')
  }
  expect(testsFor(field('several_choices'))[0]).toBe('has')
  expect(alike({ a: 1, b: { c: [1, 2], d: null } }, { b: { d: null, c: [1, 2] }, a: 1 })).toBe(true)
  expect(alike({ a: [1, 2] }, { a: [2, 1] })).toBe(false)
})
