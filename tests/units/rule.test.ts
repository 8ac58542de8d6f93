import { expect, test } from 'vitest'
import {
  blank,
  emptyGroup,
  fromFilter,
  isGroup,
  lineOn,
  toFilter,
  valueOf,
  withPart,
  type Group,
  type Line,
  type Subject,
} from '../../resources/ts/desk/slices/rule'

/* The rule of a slice, as one builds it at the desk. */

const subject = (
  field: string,
  kind: Subject['kind'],
  tests: Subject['tests'],
  more: Partial<Subject> = {},
): Subject => ({
  field,
  of: 'record',
  label: field,
  kind,
  unit: null,
  tests,
  choices: [],
  ...more,
})
const SUBJECTS = [
  subject('clutch', 'whole_number', ['is', 'at_least', 'between', 'missing']),
  subject('species', 'one_choice', ['is', 'one_of', 'missing'], {
    choices: [{ code: 'CC', label: 'Loggerhead' }],
  }),
  subject('laid', 'date', ['is', 'since', 'between', 'last_days', 'today']),
  subject('@own', null, ['is']),
  subject('@crew', null, ['one_of', 'none_of']),
  subject('@place', null, ['in_area', 'within', 'in_shape']),
  subject('eggs', 'decimal', ['is', 'at_least'], { of: 'visit' }),
]
const [clutch, species, laid, own, , place, eggs] = SUBJECTS as [
  Subject,
  Subject,
  Subject,
  Subject,
  Subject,
  Subject,
  Subject,
]
const line = (of: Subject, test: Line['test'], value: unknown): Line => ({ ...lineOn(of), test, value })
const all = (...parts: Group['parts']): Group => ({ ...emptyGroup(), parts })

test('numbers are read as people type them, and what is half typed is not sent', () => {
  expect(valueOf(line(clutch, 'is', ' 12 '), clutch)).toBe(12)
  expect(valueOf(line(eggs, 'at_least', '2,5'), eggs)).toBe(2.5)
  expect(valueOf(line(eggs, 'at_least', '−3.25'), eggs)).toBe(-3.25)
  for (const text of ['', '-', '1e9', '12a', 'Infinity', '1.2.3', '٣'])
    expect(valueOf(line(clutch, 'is', text), clutch)).toBeUndefined()
  expect(valueOf(line(clutch, 'between', ['3', '9']), clutch)).toEqual([3, 9])
  expect(valueOf(line(clutch, 'between', ['10', '9']), clutch)).toBeUndefined()
  expect(valueOf(line(laid, 'between', ['2026-05-01', '']), laid)).toBeUndefined()
  expect(valueOf(line(laid, 'last_days', '0'), laid)).toBeUndefined()
  expect(valueOf(line(species, 'one_of', []), species)).toBeUndefined()
  expect(valueOf(line(place, 'within', { lon: 1, lat: 2, metres: '50' }), place)).toEqual({
    lon: 1,
    lat: 2,
    metres: 50,
  })
})

test('a rule is sent when all of its lines are complete', () => {
  const rule = all(line(clutch, 'is', ''), line(species, 'is', 'CC'), {
    ...emptyGroup('none'),
    parts: [line(laid, 'is', '')],
  })
  expect(toFilter(rule, SUBJECTS)).toEqual({ open: 2 })
  expect(toFilter(all(line(laid, 'today', null), lineOn(own)), SUBJECTS)).toEqual({
    filter: {
      all: [
        { field: 'laid', test: 'today' },
        { field: '@own', test: 'is', value: true },
      ],
    },
  })
  // A field that has left the design meanwhile keeps the rule from being sent, and is not lost.
  expect(toFilter(all({ ...lineOn(clutch), field: 'gone', value: '3' }), SUBJECTS)).toEqual({ open: 1 })
})

test('a saved rule comes back as it was', () => {
  const filter = {
    any: [
      { field: 'clutch', test: 'between', value: [3, 9] },
      { none: [{ of: 'visit', field: 'eggs', test: 'at_least', value: 2.5 }] },
      { all: [] },
      { field: '@place', test: 'within', value: { lon: -11.6, lat: -14.1, metres: 250 } },
      { field: 'species', test: 'one_of', value: ['CC'] },
      { field: 'laid', test: 'between', value: ['2026-05-01', '2026-05-09'] },
      { field: 'laid', test: 'last_days', value: 7 },
      // Numbers of crews stay numbers.
      { field: '@crew', test: 'one_of', value: [1, 2] },
    ],
  }
  expect(toFilter(fromFilter(filter), SUBJECTS)).toEqual({ filter })
})

test('another comparison keeps what still fits', () => {
  expect(blank(clutch, 'between', '5')).toEqual(['5', ''])
  expect(blank(clutch, 'at_least', ['5', '9'])).toBe('5')
  expect(blank(species, 'one_of', 'CC')).toEqual(['CC'])
  expect(blank(species, 'is', ['CC', 'CM'])).toBe('CC')
  expect(blank(clutch, 'missing', '5')).toBeNull()
  expect(blank(laid, 'last_days', '2026-05-01')).toBe('30')
  expect(blank(place, 'within', { layer: 1, record: 'x' })).toBeNull()
})

test('a part is changed and taken out wherever it stands', () => {
  const inner = lineOn(clutch)
  const rule = all(lineOn(species), { ...emptyGroup('any'), parts: [inner] })
  const changed = withPart(rule, inner.id, { ...inner, value: '7' })
  const group = changed.parts[1]
  expect(group && isGroup(group) && group.parts[0]).toMatchObject({ value: '7' })
  const without = withPart(rule, inner.id, null).parts[1]
  expect(without && isGroup(without) && without.parts).toEqual([])
  expect(withPart(rule, rule.id, null)).toBe(rule)
})
