import '../units/english'
import {
  validateStyleMin,
  type LayerSpecification,
  type StyleSpecification,
} from '@maplibre/maplibre-gl-style-spec'
import { readFileSync } from 'node:fs'
import { backdropStyle, served } from '../../resources/ts/shared/map/backdrop'
import { work, type Tree } from '../../resources/ts/shared/form/formula'
import { compileRules } from '../../resources/ts/shared/form/rules'
import type { Design, MapView, RuleTrees, Values } from '../../resources/ts/shared/types'
import { expect, test } from './test'
import { apiAs } from './yard'

const read = <T>(file: string) =>
  JSON.parse(readFileSync(new URL(`../${file}`, import.meta.url), 'utf8')) as T
type Checked = { value_schema: object; design: Design; rules: RuleTrees }
type ValueCase = {
  name: string
  with: Record<string, unknown>
  off: Record<string, string>
  asks?: Record<string, string>
}
type ValueVectors = { design: Design; base: Record<string, unknown>; cases: ValueCase[] }

test('ajv on the phone judges values as PHP does, by the schema that PHP compiled', async ({ request }) => {
  const vectors = read<ValueVectors>('vectors/values.json')
  const api = await apiAs(request)
  const {
    value_schema,
    design,
    rules: trees,
  } = (await (await api.post('/designs/check', vectors.design)).json()) as Checked
  const rules = compileRules(design, value_schema, trees)
  for (const c of vectors.cases) {
    const judged = rules({ ...vectors.base, ...c.with })
    expect(Object.fromEntries(judged.problems.map((p) => [p.field, p.code])), c.name).toEqual(c.off)
    expect(Object.fromEntries(judged.asks.map((p) => [p.field, p.code])), c.name).toEqual(c.asks ?? {})
  }
})

test('the phone says the same sentences as the server', async ({ request }) => {
  const vectors = read<ValueVectors>('vectors/values.json')
  const api = await apiAs(request)
  const { value_schema, design, rules } = (await (
    await api.post('/designs/check', vectors.design)
  ).json()) as Checked
  const { cases, base } = vectors
  const last = cases[cases.length - 1]!
  expect(
    compileRules(
      design,
      value_schema,
      rules,
    )({ ...base, ...last.with })
      .problems.map((p) => p.message)
      .sort(),
  ).toEqual(
    [
      '“XX” is not in the list of Species. Choose one of: CC, CM, OLD.',
      'Clutch is 900; the highest allowed is 250.',
      'Code is needed.',
      'Seen needs a date as year-month-day; “soon” is none.',
    ].sort(),
  )
})

test('maps are sound style documents', async ({ request }) => {
  // Source: MapLibre style specification, version 8, by its own validator.
  const api = await apiAs(request)
  const [programme] = (await api.get<{ id: number; name: string }[]>('/programmes')).filter(
    (p) => p.name === 'Nest Patrol',
  )
  const maps = await api.get<{ id: number }[]>(`/programmes/${programme!.id}/maps`)
  // By categories and by classes of a number.
  expect(maps.length).toBeGreaterThanOrEqual(3)
  for (const map of maps) {
    const view = await api.get<MapView>(`/maps/${map.id}/view`)
    const style = backdropStyle(view.backdrops.map(served)) as StyleSpecification
    expect(Object.keys(style.sources)).toEqual(['world', 'cays'])
    for (const layer of view.layers) {
      const features = await api.get<GeoJSON.FeatureCollection>(
        `/maps/${map.id}/layers/${layer.id}/features.geojson?v=${layer.version}`,
      )
      const drawn = layer.style as LayerSpecification[]
      style.sources[(drawn[0] as { source: string }).source] = { type: 'geojson', data: features }
      style.layers.push(...drawn)
    }
    expect(validateStyleMin(style).map((e) => e.message)).toEqual([])
  }
})

test('formulas give on the phone what they give in PHP', async ({ request }) => {
  type Case = [string, unknown]
  const vectors = read<{
    design: Design
    values: Values
    now: string
    zone: string
    lon: number
    lat: number
    cases: Case[]
    zones: [string, string, unknown][]
  }>('vectors/formulas.json')
  const random = read<{ zone: string; cases: Case[] }>('vectors/formulas-random.json')
  const all = [
    ...vectors.cases.map((c) => [vectors.zone, ...c] as const),
    ...vectors.zones,
    ...random.cases.map((c) => [random.zone, ...c] as const),
  ]
  const api = await apiAs(request)
  const labels = Object.fromEntries(
    vectors.design.fields
      .filter((f) => f.choices)
      .map((f) => [f.key, Object.fromEntries(f.choices!.map((c) => [c.code, c.label]))]),
  )
  const wrong: string[] = []
  // Their trees come from PHP, as calculated fields of a design, so many at a time as a design may have.
  for (let from = 0; from < all.length; from += 180) {
    const some = all.slice(from, from + 180)
    const fields = [
      ...vectors.design.fields,
      ...some.map(([, formula], i) => ({
        key: `x${i}`,
        label: `X ${i}`,
        kind: 'calculated' as const,
        formula,
      })),
    ]
    const answer = await api.post('/designs/check', { ...vectors.design, fields })
    expect(answer.status(), await answer.text()).toBe(200)
    const { rules } = (await answer.json()) as Checked
    some.forEach(([zone, formula, expected], i) => {
      const got = work(rules.formulas[`x${i}`] as Tree, {
        values: vectors.values,
        now: new Date(vectors.now),
        zone,
        labels,
        lon: vectors.lon,
        lat: vectors.lat,
      })
      const same =
        typeof got === 'number' && typeof expected === 'number'
          ? Math.abs(got - expected) <= 1e-9 * Math.max(1, Math.abs(expected))
          : got === expected
      if (!same) wrong.push(`${formula} gave ${JSON.stringify(got)}, not ${JSON.stringify(expected)}`)
    })
  }
  expect(wrong).toEqual([])
  expect(all.length).toBeGreaterThan(550)
})
