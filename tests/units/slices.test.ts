import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { canTell, matches } from '../../resources/ts/field/slices/matches'
import type { Asked, Rule, Rules } from '../../resources/ts/field/slices/rule'
import { local } from '../../resources/ts/shared/form/moment'
import type { Field } from '../../resources/ts/shared/types'

type Vectors = {
  now: string
  fields: Field[]
  records: { captured_at: string; geometry: GeoJSON.Point; values: Asked['values'] }[]
  cases: [string, Rule, number[]][]
}
const vectors = JSON.parse(
  readFileSync(new URL('../vectors/slices.json', import.meta.url), 'utf8'),
) as Vectors

const NONE: Rules = {
  today: '2026-06-05',
  zone: 'UTC',
  kindOf: () => undefined,
  areaOf: () => undefined,
  visitsTo: () => [],
}
const record = (values: Asked['values'], more: Partial<Asked> = {}): Asked => ({
  id: 'r',
  lon: 0,
  lat: 0,
  collected_at: '2026-06-05T10:00:00Z',
  values,
  ...more,
})

describe('a slice on the phone', () => {
  it('lets through what it lets through on the server', () => {
    const kinds = new Map(vectors.fields.map((f) => [f.key, f.kind]))
    const records = vectors.records.map((r, i) =>
      record(r.values, {
        id: String(i),
        lon: r.geometry.coordinates[0]!,
        lat: r.geometry.coordinates[1]!,
        collected_at: r.captured_at,
      }),
    )
    expect(vectors.cases.length).toBeGreaterThan(400)
    for (const [zone, rule, found] of vectors.cases) {
      const rules = {
        ...NONE,
        zone,
        today: local(vectors.now, zone).date,
        kindOf: (k: string) => kinds.get(k),
      }
      expect(
        records.flatMap((r, i) => (matches(rule, r, rules) ? [i] : [])),
        `${zone} ${JSON.stringify(rule)}`,
      ).toEqual(found)
    }
  })

  it('asks visits: how many, and what the latest says', () => {
    const visit = (id: string, at: string, side: string) => record({ side }, { id, collected_at: at })
    const rules: Rules = {
      ...NONE,
      kindOf: () => 'one_choice',
      visitsTo: (id) =>
        id === 'r'
          ? [visit('a', '2026-06-01T00:00:00Z', 'left'), visit('b', '2026-06-03T00:00:00Z', 'right')]
          : [],
    }
    const of = (test: string, value: unknown): Rule => ({
      all: [{ of: 'visit', field: 'side', test, value }],
    })
    expect(matches(of('is', 'right'), record({}), rules)).toBe(true)
    expect(matches(of('is', 'left'), record({}), rules)).toBe(false)
    // A record without visits has no latest one, whatever is asked of it.
    expect(matches(of('is_not', 'left'), record({}, { id: 'x' }), rules)).toBe(false)
    const many = (value: number): Rule => ({ all: [{ field: '@visits', test: 'at_least', value }] })
    expect(matches(many(2), record({}), rules)).toBe(true)
    expect(matches(many(3), record({}), rules)).toBe(false)
  })

  it('knows calculated values by what came out, and words without accents and capitals', () => {
    const is = (test: string, value: unknown): Rule => ({ all: [{ field: 'f', test, value }] })
    expect(matches(is('since', '2026-06-01'), record({ f: '2026-06-01' }), NONE)).toBe(true)
    expect(matches(is('last_days', 5), record({ f: '2026-05-31' }), NONE)).toBe(false)
    expect(matches(is('at_least', 3), record({ f: 3 }), NONE)).toBe(true)
    expect(matches(is('is', 'sud'), record({ f: 'Süd' }), NONE)).toBe(true)
    expect(matches(is('contains', 'STRASSE'), record({ f: 'Straße 5' }), NONE)).toBe(true)
    expect(matches(is('between', ['08:00', '09:30']), record({ f: '09:30' }), NONE)).toBe(true)
  })

  it('says where it cannot tell, and knows an area that it carries', () => {
    const inArea: Rule = {
      all: [{ none: [{ field: '@place', test: 'in_area', value: { layer: 7, record: 'x' } }] }],
    }
    expect(canTell({ any: [{ field: '@crew', test: 'one_of', value: [1] }] }, NONE)).toBe(false)
    expect(canTell(inArea, NONE)).toBe(false)
    const square: GeoJSON.Polygon = {
      type: 'Polygon',
      coordinates: [
        [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
          [-1, -1],
        ],
      ],
    }
    const rules = { ...NONE, areaOf: () => square }
    expect(canTell(inArea, rules)).toBe(true)
    expect(matches(inArea, record({}), rules)).toBe(false)
    expect(matches(inArea, record({}, { lon: 5 }), rules)).toBe(true)
    // One that is no more has nothing in it.
    expect(matches(inArea, record({}), { ...NONE, areaOf: () => null })).toBe(true)
  })

  it('is whose it is', () => {
    const own: Rule = { all: [{ field: '@own', test: 'is', value: true }] }
    expect(matches(own, record({}, { mine: true }), NONE)).toBe(true)
    expect(matches(own, record({}), NONE)).toBe(false)
  })
})
