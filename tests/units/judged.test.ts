import { describe, expect, test } from 'vitest'
import type { Draft, PackLayer } from '../../resources/ts/field/db'
import { judged, outgrownOf, sameAs } from '../../resources/ts/field/judged'
import type { compileRules, Here } from '../../resources/ts/shared/form/rules'
import type { Design, Values } from '../../resources/ts/shared/types'

const layer = (design: Partial<Design> = {}): PackLayer => ({
  id: 1,
  title: 'Straße',
  visits_of: null,
  design_version: 1,
  design: {
    geometry: 'point',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text' },
      { key: 'eggs', label: 'Eier', kind: 'whole_number' },
      { key: 'sum', label: 'Sum', kind: 'calculated' },
    ],
    photos: { allowed: false, least: 0, most: 0, max_bytes: 0 },
    ...design,
  } as Design,
  name_field: 'code',
  value_schema: {},
  rules: {} as PackLayer['rules'],
  look: {} as PackLayer['look'],
  style: [],
  records: 0,
  rights: { add: true, change: 'all', delete: 'all', see: 'all' },
})
const draft = (part: Partial<Draft> = {}): Draft =>
  ({
    key: 'new-1',
    begun_at: '2026-05-01T06:00:00Z',
    layer: 1,
    design: 1,
    record: 'r',
    values: { code: 'N-1', eggs: 400 },
    photos: [],
    lon: 10,
    lat: 50,
    fix: null,
    ...part,
  }) as Draft
type Rules = ReturnType<typeof compileRules>
/** Rules that find one thing unusual and hand on what they were given. */
const asking = ((values: Values) => ({
  values,
  problems: [],
  asks: 'eggs' in values ? [{ field: 'eggs', code: 'ask', message: 'more than 200' }] : [],
})) as unknown as Rules
const silent = ((values: Values) => ({ values, problems: [], asks: [] })) as unknown as Rules
const here = { zone: 'UTC', lon: 10, lat: 50, altitude: null, areas: [] } as unknown as Here
const judge = (l: PackLayer, d: Draft, rules = silent, shape: GeoJSON.Geometry | null = null) =>
  judged(l, d, rules, here, shape)

describe('a form is saved', () => {
  test('when nothing is in its way', () =>
    expect(judge(layer(), draft())).toEqual({
      values: { code: 'N-1', eggs: 400 },
      problems: [],
      refused: [],
    }))

  test('when what is unusual was said to be right, and only as long as it stays the same', () => {
    const asked = judge(layer(), draft(), asking)
    expect(asked.problems.map((p) => [p.field, p.message])).toEqual([
      ['eggs', expect.stringContaining('Eier')],
    ])
    expect(judge(layer(), draft({ confirmed: { eggs: 400 } }), asking).problems).toEqual([])
    expect(judge(layer(), draft({ confirmed: { eggs: 399 } }), asking).problems).toHaveLength(1)
  })

  test('without what its design does not know, which is kept for the note', () => {
    const old = draft({ values: { code: 'N-1', gone: 'Küste', nothing: '', none: null } })
    expect(judge(layer(), old).values).toEqual({ code: 'N-1' })
    expect(outgrownOf(layer(), old)).toEqual([['gone', 'Küste']])
  })
})

describe('a form is refused', () => {
  test.each([
    ['a place outside the world', {}, { lon: 181 }, 1],
    ['a place that is no number', {}, { lat: NaN }, 1],
    ['the ends of the world', {}, { lon: -180, lat: 90 }, 0],
    ['a poor fix', { fix: { refuse_above: 10 } }, { fix: { accuracy: 10.4 } }, 1],
    ['a fix that is just good enough', { fix: { refuse_above: 10 } }, { fix: { accuracy: 10 } }, 0],
    ['no fix where none is asked for', { fix: { refuse_above: 10 } }, { fix: null }, 0],
    ['no altitude', { altitude: { required: true } }, {}, 1],
    ['at sea level', { altitude: { required: true } }, { altitude: 0 }, 0],
    ['a line without corners', { geometry: 'line' }, { lon: NaN, lat: NaN }, 1],
    [
      'all at once',
      { fix: { refuse_above: 1 }, altitude: { required: true } },
      { lat: 91, fix: { accuracy: 2 } },
      3,
    ],
  ] as [string, object, object, number][])('%s: %#', (_, design, part, said) => {
    const found = judge(layer(design as Partial<Design>), draft(part as Partial<Draft>)).refused
    expect(found).toHaveLength(said)
    for (const line of found) expect(line).toMatch(/\S \S/)
  })

  test('for a missing photo when it is new, and not when it is changed: its files are elsewhere', () => {
    const wanted = layer({
      slots: [{ key: 'tag', label: 'Tag', kind: 'photo', least: 1, most: 2 }],
    } as unknown as Partial<Design>)
    expect(judge(wanted, draft()).refused).toHaveLength(1)
    const photo = { id: 'p', blob: new Blob(['x']), name: 'a.jpg', slot: 'tag' }
    expect(judge(wanted, draft({ photos: [photo] })).refused).toEqual([])
    expect(
      judge(wanted, draft({ from: { values: {} } as unknown as NonNullable<Draft['from']> })).refused,
    ).toEqual([])
  })
})

test('the same as last is all but what names a record and what is worked out', () => {
  expect(sameAs({ code: 'N-1', eggs: 0, sum: 7, gone: 1 }, layer())).toEqual({ eggs: 0 })
  expect(sameAs({ eggs: null }, layer())).toEqual({})
  expect(sameAs(undefined, layer())).toEqual({})
})
