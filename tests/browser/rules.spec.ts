import { expect, test } from '@playwright/test'
import { validateStyleMin, type StyleSpecification } from '@maplibre/maplibre-gl-style-spec'
import Ajv2020 from 'ajv/dist/2020.js'
import { IntlMessageFormat } from 'intl-messageformat'
import { readFileSync } from 'node:fs'
import { backdropStyle } from '../../resources/ts/shared/map/backdrop'
import { pastedChoices, keyFrom, finished, blankDesign } from '../../resources/ts/desk/build/design'
import { compileRules, filled, readWhole } from '../../resources/ts/shared/form/rules'
import type { Design, MapView } from '../../resources/ts/shared/types'
import { bearing, compassPoint, metres } from '../../resources/ts/field/position'
import { apiAs } from './yard'

const read = <T>(file: string) => JSON.parse(readFileSync(new URL(`../${file}`, import.meta.url), 'utf8')) as T
type ValueCase = { name: string; with: Record<string, unknown>; off: Record<string, string> }
type ValueVectors = { design: Design; base: Record<string, unknown>; cases: ValueCase[] }

test('ajv on the phone judges values as PHP does, by the schema that PHP compiled', async ({ request }) => {
  const vectors = read<ValueVectors>('vectors/values.json')
  const api = await apiAs(request)
  const { value_schema, design } = (await (await api.post('/designs/check', vectors.design)).json()) as { value_schema: object; design: Design }
  const rules = compileRules(design, value_schema)
  for (const c of vectors.cases) {
    const found = Object.fromEntries(rules({ ...vectors.base, ...c.with }).map((p) => [p.field, p.code]))
    expect(found, c.name).toEqual(c.off)
  }
})

test('the phone says the same sentences as the server', async ({ request }) => {
  const vectors = read<ValueVectors>('vectors/values.json')
  const api = await apiAs(request)
  const { value_schema, design } = (await (await api.post('/designs/check', vectors.design)).json()) as { value_schema: object; design: Design }
  const { cases, base } = vectors
  const last = cases[cases.length - 1]!
  expect(compileRules(design, value_schema)({ ...base, ...last.with }).map((p) => p.message).sort()).toEqual([
    '“XX” is not in the list of Species. Choose one of: CC, CM, OLD.', 'Clutch is 900; the highest allowed is 250.', 'Code is needed.', 'Seen needs a date as year-month-day; “soon” is none.',
  ].sort())
})

test('ajv reads the published schema of designs as opis/json-schema does', () => {
  // Source: JSON Schema draft 2020-12, ajv 8.
  const schema = JSON.parse(readFileSync(new URL('../../core/Design/layer-design.schema.json', import.meta.url), 'utf8')) as object
  const check = new Ajv2020({ allErrors: true, strict: false }).compile(schema)
  const { cases } = read<{ cases: { name: string; document: unknown; codes: string[]; schema?: boolean }[] }>('vectors/designs.json')
  for (const c of cases) expect(check(c.document), c.name).toBe(c.schema ?? c.codes.length === 0)
})

test('every text of the catalogue is a sound ICU message', () => {
  const texts = JSON.parse(readFileSync(new URL('../../resources/texts/en.json', import.meta.url), 'utf8')) as Record<string, string>
  for (const [key, text] of Object.entries(texts)) expect(() => new IntlMessageFormat(text, 'en'), key).not.toThrow()
})

test('maps are sound style documents', async ({ request }) => {
  // Source: MapLibre style specification, version 8, by its own validator.
  const api = await apiAs(request)
  const [programme] = (await api.get<{ id: number; name: string }[]>('/programmes')).filter((p) => p.name === 'Nest Patrol')
  const [map] = await api.get<{ id: number }[]>(`/programmes/${programme!.id}/maps`)
  const view = await api.get<MapView>(`/maps/${map!.id}/view`)
  const style = backdropStyle([{ key: 'world', data: '/backdrop/world.json' }, { key: 'cays', data: '/backdrop/cays.json' }]) as StyleSpecification
  style.sources[view.source] = { type: 'geojson', data: view.features }
  style.layers.push(...(view.layers as StyleSpecification['layers']))
  expect(validateStyleMin(style).map((e) => e.message)).toEqual([])
})

test('whole numbers are read as they are typed, and nothing else becomes one', () => {
  for (const [text, value] of [['12', 12], [' -7 ', -7], ['+3', 3], ['', null], ['  ', null], ['12.5', '12.5'], ['1e3', '1e3'], ['0x10', '0x10'], ['twelve', 'twelve'], ['99999999999999999999', '99999999999999999999']] as const) {
    expect(readWhole(text)).toBe(value)
  }
  expect(filled({ a: null, b: '', c: 0, d: 'x' })).toEqual({ c: 0, d: 'x' })
})

test('choices come out of a spreadsheet with or without codes', () => {
  expect(pastedChoices('CC\tLoggerhead\r\nCM\tGreen\r\n')).toEqual([{ code: 'CC', label: 'Loggerhead' }, { code: 'CM', label: 'Green' }])
  expect(pastedChoices('Loggerhead\n\n Green ')).toEqual([{ code: '', label: 'Loggerhead' }, { code: '', label: 'Green' }])
  expect(keyFrom('Größe (cm)', [])).toBe('gro_e_cm')
  expect(keyFrom('Nest code', ['nest_code'])).toBe('nest_code_2')
  expect(keyFrom('عش', [])).toBe('field')
  expect(keyFrom('Lat', [])).toBe('lat_2')
  const design = { ...blankDesign(), fields: [{ key: 'k', label: 'K', kind: 'one_choice' as const, choices: [{ code: '', label: 'A b' }, { code: '', label: 'A-b' }, { code: '', label: '' }] }] }
  expect(finished(design).fields[0]!.choices).toEqual([{ code: 'a_b', label: 'A b' }, { code: 'a_b_2', label: 'A-b' }])
})

test('distances and bearings on the phone', () => {
  // Source: Flinders Peak to Buninyong, 54 972.271 m and 306° 52' 05.37" (ICSM, GDA Technical Manual; GRS 80).
  // The phone's figures are spherical: within 0.6 % of the distance.
  const flinders = { lon: 144 + 25 / 60 + 29.52442 / 3600, lat: -(37 + 57 / 60 + 3.7203 / 3600) }
  const buninyong = { lon: 143 + 55 / 60 + 35.3839 / 3600, lat: -(37 + 39 / 60 + 10.15611 / 3600) }
  expect(Math.abs(metres(flinders, buninyong) / 54972.271 - 1)).toBeLessThan(0.006)
  expect(Math.abs(bearing(flinders, buninyong) - (306 + 52 / 60 + 5.37 / 3600))).toBeLessThan(0.3)
  expect([0, 44, 46, 180, 359].map(compassPoint)).toEqual(['north', 'north-east', 'north-east', 'south', 'north'])
})
