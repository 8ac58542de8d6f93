import { expect, test } from 'vitest'
import Ajv2020 from 'ajv/dist/2020.js'
import { IntlMessageFormat } from 'intl-messageformat'
import { readFileSync } from 'node:fs'
import { pastedChoices, keyFrom, finished, blankDesign } from '../../resources/ts/desk/build/design'
import { simple, written } from '../../resources/ts/desk/build/condition'
import { filled, readDecimal, readWhole } from '../../resources/ts/shared/form/rules'
import type { Design, Field, Value } from '../../resources/ts/shared/types'
import { nameBy } from '../../resources/ts/field/name'
import { bearing, compassPoint, metres } from '../../resources/ts/field/position'

const read = <T>(file: string) =>
  JSON.parse(readFileSync(new URL(`../${file}`, import.meta.url), 'utf8')) as T

test('ajv reads the published schema of designs as opis/json-schema does', () => {
  // Source: JSON Schema draft 2020-12, ajv 8.
  const schema = JSON.parse(
    readFileSync(new URL('../../core/Design/layer-design.schema.json', import.meta.url), 'utf8'),
  ) as object
  const check = new Ajv2020({ allErrors: true, strict: false }).compile(schema)
  const { cases } = read<{ cases: { name: string; document: unknown; codes: string[]; schema?: boolean }[] }>(
    'vectors/designs.json',
  )
  for (const c of cases) expect(check(c.document), c.name).toBe(c.schema ?? c.codes.length === 0)
})

test('every text of the catalogue is a sound ICU message', () => {
  const texts = JSON.parse(
    readFileSync(new URL('../../resources/texts/en.json', import.meta.url), 'utf8'),
  ) as Record<string, string>
  for (const [key, text] of Object.entries(texts))
    expect(() => new IntlMessageFormat(text, 'en'), key).not.toThrow()
})

test('whole numbers are read as they are typed, and nothing else becomes one', () => {
  for (const [text, value] of [
    ['12', 12],
    [' -7 ', -7],
    ['+3', 3],
    ['', null],
    ['  ', null],
    ['12.5', '12.5'],
    ['1e3', '1e3'],
    ['0x10', '0x10'],
    ['twelve', 'twelve'],
    ['99999999999999999999', '99999999999999999999'],
  ] as const) {
    expect(readWhole(text)).toBe(value)
  }
  expect(filled({ a: null, b: '', c: 0, d: 'x' })).toEqual({ c: 0, d: 'x' })
})

test('choices come out of a spreadsheet with or without codes', () => {
  expect(pastedChoices('CC\tLoggerhead\r\nCM\tGreen\r\n')).toEqual([
    { code: 'CC', label: 'Loggerhead' },
    { code: 'CM', label: 'Green' },
  ])
  expect(pastedChoices('Loggerhead\n\n Green ')).toEqual([
    { code: '', label: 'Loggerhead' },
    { code: '', label: 'Green' },
  ])
  // Semicolons and commas part only where every line has one; headings and a title merged over both columns
  // are no choices.
  expect(pastedChoices('code;label\nCC;Loggerhead\nCM;Green')).toEqual([
    { code: 'CC', label: 'Loggerhead' },
    { code: 'CM', label: 'Green' },
  ])
  expect(pastedChoices('Species of the season\t\nCode\tLabel\nCC\tLoggerhead\nCM\tGreen')).toEqual([
    { code: 'CC', label: 'Loggerhead' },
    { code: 'CM', label: 'Green' },
  ])
  expect(pastedChoices('CC,Loggerhead\nCM,"Green ""sea"" turtle"')).toEqual([
    { code: 'CC', label: 'Loggerhead' },
    { code: 'CM', label: 'Green "sea" turtle' },
  ])
  expect(pastedChoices('Sand, fine\nSand, coarse, wet\nRock')).toEqual([
    { code: '', label: 'Sand, fine' },
    { code: '', label: 'Sand, coarse, wet' },
    { code: '', label: 'Rock' },
  ])
  expect(keyFrom('Größe (cm)', [])).toBe('grosse_cm')
  expect(keyFrom('Nest code', ['nest_code'])).toBe('nest_code_2')
  expect(keyFrom('عش', [])).toBe('field')
  expect(keyFrom('Lat', [])).toBe('lat_2')
  const design = {
    ...blankDesign(),
    fields: [
      {
        key: 'k',
        label: 'K',
        kind: 'one_choice' as const,
        choices: [
          { code: '', label: 'A b' },
          { code: '', label: 'A-b' },
          { code: '', label: '' },
        ],
      },
    ],
  }
  expect(finished(design).fields[0]!.choices).toEqual([
    { code: 'a_b', label: 'A b' },
    { code: 'a_b_2', label: 'A-b' },
  ])
})

test('distances and bearings on the phone', () => {
  // Source: Flinders Peak to Buninyong, 54 972.271 m and 306° 52' 05.37" (ICSM, GDA Technical Manual; GRS
  // 80).
  // The phone's figures are spherical: within 0.6 % of the distance.
  const flinders = { lon: 144 + 25 / 60 + 29.52442 / 3600, lat: -(37 + 57 / 60 + 3.7203 / 3600) }
  const buninyong = { lon: 143 + 55 / 60 + 35.3839 / 3600, lat: -(37 + 39 / 60 + 10.15611 / 3600) }
  expect(Math.abs(metres(flinders, buninyong) / 54972.271 - 1)).toBeLessThan(0.006)
  expect(Math.abs(bearing(flinders, buninyong) - (306 + 52 / 60 + 5.37 / 3600))).toBeLessThan(0.3)
  expect([0, 44, 46, 180, 359].map(compassPoint)).toEqual([
    'north',
    'north-east',
    'north-east',
    'south',
    'north',
  ])
})

test('words can be read on every colour that they stand on', async () => {
  // Source: WCAG 2.2, relative luminance and contrast ratio; 4.5 to 1 for text (1.4.3), 3 to 1 for marks
  // (1.4.11).
  const channel = (v: number) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4)
  const luminance = (hex: string) => {
    const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => channel(Number.parseInt(hex.slice(i, i + 2), 16)))
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const contrast = (a: string, b: string) => {
    const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number]
    return (light + 0.05) / (dark + 0.05)
  }
  expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 5)
  const text: [string, string][] = [
    ['#1D2B2E', '#F4EFE4'],
    ['#1D2B2E', '#FFFCF5'],
    ['#55635F', '#F4EFE4'],
    ['#55635F', '#FFFCF5'],
    ['#FFFFFF', '#0F5C53'],
    ['#FFFFFF', '#C8420E'],
    ['#4F4733', '#E9DFC8'],
    ['#0F5C53', '#E3EEE6'],
    ['#8F2E08', '#FBE6DA'],
    ['#27507A', '#E2EAF2'],
    ['#F4EFE4', '#1D2B2E'],
    ['#9B2226', '#FFFCF5'],
    ['#0B1314', '#FFFFFF'],
    ['#38474A', '#FFFFFF'],
    ['#F4EFE4', '#12191B'],
    ['#B4C0BE', '#12191B'],
    ['#10201D', '#7BC2A8'],
    ['#F2857F', '#12191B'],
  ]
  for (const [ink, ground] of text)
    expect(contrast(ink, ground), `${ink} on ${ground}`).toBeGreaterThanOrEqual(4.5)
  // Pegs have a dark outline, so each stands out from land and sea whatever its colour.
  for (const ground of ['#E7E6CB', '#CFDDDD', '#B6C093', '#ABCDCA'])
    expect(contrast('#1D2B2E', ground)).toBeGreaterThanOrEqual(3)
})

test('conditions chosen from lists are formulas, and are read back', () => {
  const design: Design = {
    ...blankDesign(),
    fields: [
      { key: 'n', label: 'N', kind: 'whole_number' },
      { key: 'c', label: 'C', kind: 'one_choice' },
      { key: 's', label: 'S', kind: 'several_choices' },
      { key: 'y', label: 'Y', kind: 'yes_no' },
    ],
  }
  for (const [condition, text] of [
    [{ field: 'n', test: 'at_least', value: '4,5' }, 'n >= 4.5'],
    [{ field: 'c', test: 'is_not', value: 'a"b' }, 'c != "a\\"b"'],
    [{ field: 's', test: 'has', value: 'x' }, 'has(s, "x")'],
    [{ field: 'y', test: 'is', value: 'true' }, 'y == true'],
    [{ field: 'n', test: 'missing', value: '' }, 'missing(n)'],
  ] as const) {
    expect(written(condition, design)).toBe(text)
    expect(simple(text, design)).toEqual({ ...condition, value: condition.value.replace(',', '.') })
  }
  expect(simple('n > 3 and y', design)).toBeNull()
  expect([
    readDecimal('1,5'),
    readDecimal('.5'),
    readDecimal('-2.'),
    readDecimal('1e5'),
    readDecimal(' '),
    readDecimal('1.2.3'),
  ]).toEqual([1.5, 0.5, -2, '1e5', null, '1.2.3'])
})

test('records are called what the server calls them', () => {
  const { cases } = read<{ cases: [Field, Value, string | null][] }>('vectors/names.json')
  for (const [field, value, name] of cases)
    expect(nameBy(field, value), JSON.stringify([field, value])).toBe(name)
})

test('keys are made from labels as the server makes them', () => {
  const { cases } = read<{ cases: [string, string][] }>('vectors/keys.json')
  for (const [label, key] of cases) expect(keyFrom(label, []), label).toBe(key)
  expect(keyFrom('Côde', ['code'])).toBe('code_2')
})
