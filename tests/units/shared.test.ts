import { expect, test, vi } from 'vitest'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { FORMATS, readPlace, showPlace, type Format } from '../../resources/ts/shared/form/coordinates'
import { wayTo } from '../../resources/ts/shared/form/geodesic'
import { fromUtm, toUtm } from '../../resources/ts/shared/form/utm'
import { after, placeOf } from '../../resources/ts/field/mergedRecord'
import { foremost, placesNamed, plain, reader, search } from '../../resources/ts/field/recordSearch'
import { headingOf } from '../../resources/ts/field/heading'
import { gridLines } from '../../resources/ts/field/map/graticule'
import type { Operation, PackLayer, PhoneRecord, Told } from '../../resources/ts/field/db'
import { areaIn, lengthIn } from '../../resources/ts/field/units'
import { isStep } from '../../resources/ts/field/trail'
import { fixQuery, readFix } from '../../resources/ts/field/position'

/* What the screens work out by themselves, without a browser. */

const vectors = JSON.parse(readFileSync(new URL('../vectors/places.json', import.meta.url), 'utf8')) as {
  read: [string, number, number][]
  refused: string[]
}

test('the phone reads typed places as the server does', () => {
  for (const [text, lat, lon] of vectors.read) {
    const spot = readPlace(text)
    expect(spot, text).not.toBeNull()
    expect(Math.abs(spot!.lat - lat), text).toBeLessThan(4e-6)
    expect(Math.abs(spot!.lon - lon), text).toBeLessThan(4e-6)
  }
  for (const text of vectors.refused) expect(readPlace(text), text).toBeNull()
})

test('what is shown is read again to within a metre or two, in every format', () => {
  for (const [lon, lat] of [
    [-11.6512, -14.1668],
    [0, 0],
    [179.9999, 83.5],
    [-179.9999, -79.5],
    [15, 42],
    [11.5167, 48.1173],
    [-0.00001, 0.00001],
    [3.99999, -3.99999],
  ] as const) {
    for (const format of ['decimal', 'minutes', 'utm'] as const) {
      const back = readPlace(showPlace({ lon, lat }, format))
      expect(back, `${format} ${lon} ${lat}`).not.toBeNull()
      expect(Math.abs(back!.lat - lat), format).toBeLessThan(2e-5)
      expect(Math.abs(back!.lon - lon) * Math.cos((lat * Math.PI) / 180), format).toBeLessThan(2e-5)
    }
  }
  expect(showPlace({ lon: -11.6512, lat: -14.1668 }, 'minutes')).toBe('14°10′00.5″S 11°39′04.3″W')
  expect(showPlace({ lon: 59.999999, lat: -0.999999 }, 'minutes')).toBe('1°00′00.0″S 60°00′00.0″E')
  expect(showPlace({ lon: 10, lat: 89 }, 'utm')).toBe('89.00000, 10.00000')
})

// Source: GeoConvert of geographiclib-tools (Karney 2011).
test('UTM on the phone is what GeoConvert says, both ways', () => {
  const points = Array.from({ length: 60 }, (_, i): [number, number] => [
    ((i * 37.77) % 358) - 179,
    ((i * 13.31) % 158) - 79,
  ])
  for (const [lon, lat] of points) {
    const { zone, north, easting, northing } = toUtm(lon, lat)
    const [, east, nord] = execFileSync('GeoConvert', ['-u', '-z', String(zone), '-p', '4'], {
      input: `${lat} ${lon}\n`,
    })
      .toString()
      .trim()
      .split(/\s+/)
    expect(Math.abs(easting - Number(east)), `${lon} ${lat}`).toBeLessThan(0.002)
    expect(Math.abs(northing - Number(nord)), `${lon} ${lat}`).toBeLessThan(0.002)
    const back = fromUtm({ zone, north, easting, northing })
    expect(Math.abs(back.lat - lat)).toBeLessThan(1e-8)
    expect(Math.abs(back.lon - lon)).toBeLessThan(1e-8)
  }
})

test('a day of walking makes a small trail, standing makes almost none', () => {
  const day: unknown[][] = []
  let last: { lon: number; lat: number; at: number } | undefined
  // Eight hours at 1.2 metres a second, a fix each second, with the noise of a phone.
  for (let s = 0; s < 8 * 3600; s++) {
    const noise = ((s * 7919) % 13) / 13 - 0.5
    const fix = {
      lon: Number((-11.65 + (s * 1.2) / 107_900).toFixed(6)),
      lat: Number((-14.16 + noise * 3e-5).toFixed(6)),
      at: 1_780_000_000_000 + s * 1000,
      accuracy: 4 + (s % 5),
    }
    if (isStep(last, fix)) {
      last = fix
      day.push([fix.at, fix.lon, fix.lat, fix.accuracy])
    }
  }
  expect(day.length).toBeGreaterThan(2_000)
  expect(JSON.stringify(day).length).toBeLessThan(200_000)
  let points = 0
  last = undefined
  for (let s = 0; s < 3600; s++) {
    const fix = { lon: -11.65, lat: -14.16, at: s * 1000, accuracy: 5 }
    if (isStep(last, fix)) {
      last = fix
      points++
    }
  }
  expect(points).toBeLessThan(35)
  expect(isStep(undefined, { lon: 0, lat: 0, at: 0, accuracy: 80 })).toBe(false)
})

test('a record on the phone is what was told, with what was done here over it', () => {
  const layer = {
    name_field: 'code',
    design: {
      fields: [
        { key: 'code', label: 'Code', kind: 'short_text' },
        { key: 'n', label: 'N', kind: 'whole_number' },
      ],
    },
  } as unknown as PackLayer
  const told: Told = {
    id: 'r',
    layer: 1,
    lon: 1,
    lat: 2,
    shape: null,
    values: { code: 'A', n: 1 },
    collected_at: '2026-05-01T06:00:00Z',
    author: 'Ann',
    name: 'A',
    photos: 1,
    version: 3,
    mine: false,
  }
  const op = (part: Partial<Operation>): Operation => ({
    op: 'o',
    kind: 'change',
    seq: 1,
    layer: 1,
    design: 1,
    record: 'r',
    captured_at: '2026-05-01T07:00:00Z',
    values: {},
    geometry: null,
    fix: null,
    photos: [],
    ...part,
  })
  expect(
    after(
      told,
      op({
        values: { code: 'B' },
        photos: [{ id: 'p', name: 'p', type: 'image/jpeg', bytes: 1, sha256: '' }],
      }),
      layer,
    ),
  ).toMatchObject({ name: 'B', values: { code: 'B', n: 1 }, photos: 2, version: 3, author: 'Ann', lon: 1 })
  expect(
    after(told, op({ kind: 'move', geometry: { type: 'Point', coordinates: [5, 6] } }), layer),
  ).toMatchObject({ lon: 5, lat: 6, values: { code: 'A' } })
  expect(after(told, op({ kind: 'delete' }), layer)).toMatchObject({ gone: true, values: { code: 'A' } })
  expect(after({ ...told, gone: true }, op({ kind: 'restore' }), layer)).toMatchObject({ gone: false })
  expect(after({ ...told, gone: true }, op({ values: { n: 2 } }), layer)).toMatchObject({
    gone: false,
    values: { n: 2 },
  })
  expect(after(null, op({ values: { n: 2 } }), layer)).toBeNull()
  expect(
    after(
      null,
      op({
        kind: 'add',
        values: { code: 'N' },
        geometry: {
          type: 'LineString',
          coordinates: [
            [0, 0],
            [0, 1],
          ],
        },
      }),
      layer,
    ),
  ).toMatchObject({ id: 'r', name: 'N', version: 0, mine: true, lat: 0.5 })
  // What the server told of an added record counts more than the operation that added it.
  expect(after(told, op({ kind: 'add', values: { code: 'old' } }), layer)).toMatchObject({
    values: { code: 'A' },
  })
  expect(placeOf({ type: 'Point', coordinates: [3, 4] })).toEqual({ lon: 3, lat: 4, shape: null })
})

test('a fix goes through an address and back', () => {
  const at = Date.parse('2026-05-01T06:00:00.000Z')
  expect(
    readFix(
      new URLSearchParams(
        fixQuery({ lon: 1, lat: 2, accuracy: 3.46, at, altitude: 7.25, satellites: 11, type: 'dgnss' }),
      ),
    ),
  ).toEqual({ accuracy: 3.5, at: '2026-05-01T06:00:00.000Z', altitude: 7.3, satellites: 11, type: 'dgnss' })
  expect(readFix(new URLSearchParams(fixQuery({ lon: 1, lat: 2, accuracy: 3, at, altitude: null })))).toEqual(
    { accuracy: 3, at: '2026-05-01T06:00:00.000Z', altitude: null },
  )
  expect(readFix(new URLSearchParams(''))).toBeNull()
})

// One nautical mile is 1,852 m, a foot 0.3048 m, an acre 4,046.8564224 m², by definition.
test('lengths and areas are shown in the units of the trade', () => {
  expect([0, 12.4, 999, 1852, 25_000].map((m) => lengthIn(m, 'metric'))).toEqual([
    '0.0 m',
    '12.4 m',
    '999 m',
    '1.85 km',
    '25.0 km',
  ])
  expect([100, 1852, 18_520, 185_200].map((m) => lengthIn(m, 'nautical'))).toEqual([
    '100 m',
    '1.00 NM',
    '10.0 NM',
    '100 NM',
  ])
  expect([0.3048, 30.48, 1609.344].map((m) => lengthIn(m, 'feet'))).toEqual(['1 ft', '100 ft', '1.00 mi'])
  expect([9_999, 10_000, 2_500_000].map((m) => areaIn(m, 'metric'))).toEqual([
    '9999 m²',
    '1.00 ha',
    '2.50 km²',
  ])
  expect([0.09290304, 4_046.8564224].map((m) => areaIn(m, 'feet'))).toEqual(['1 ft²', '1.00 acres'])
  expect(areaIn(1852 ** 2, 'nautical')).toBe('1.00 NM²')
})

test('the field app is small before its map is fetched', () => {
  const page = readFileSync(new URL('../../public/app/field.html', import.meta.url), 'utf8')
  const scripts = [...new Set([...page.matchAll(/assets\/[\w.-]+\.(?:js|css)/g)].map((m) => m[0]))]
  const bytes = scripts
    .map((file) => gzipSync(readFileSync(new URL(`../../public/app/${file}`, import.meta.url))).length)
    .reduce((a, b) => a + b, 0)
  expect(scripts.length).toBeGreaterThan(3)
  expect(bytes, scripts.join(' ')).toBeLessThan(350 * 1024)
})

// Source: GeodSolve of geographiclib-tools (Karney 2013), azimuth in decimal degrees and distance in metres.
test('the way to a record is what GeodSolve says', () => {
  const pairs = Array.from({ length: 40 }, (_, i) => ({
    from: { lon: ((i * 71.3) % 359) - 179, lat: ((i * 23.7) % 176) - 88 },
    to: { lon: ((i * 113.9 + 5) % 359) - 179, lat: ((i * 41.1 + 2) % 176) - 88 },
  }))
  const near = Array.from({ length: 20 }, (_, i) => ({
    from: { lon: -11.65, lat: -14.17 },
    to: { lon: -11.65 + Math.sin(i) * 0.001 * (i + 1), lat: -14.17 + Math.cos(i) * 0.001 * (i + 1) },
  }))
  for (const { from, to } of [...pairs, ...near]) {
    const [azimuth, , distance] = execFileSync('GeodSolve', ['-i', '-p', '6'], {
      input: `${from.lat} ${from.lon} ${to.lat} ${to.lon}\n`,
    })
      .toString()
      .trim()
      .split(/\s+/)
      .map(Number)
    const way = wayTo(from, to)
    expect(Math.abs(way.metres - distance!)).toBeLessThan(0.001)
    expect(Math.abs(((way.degrees - azimuth! + 540) % 360) - 180)).toBeLessThan(1e-6)
  }
})

test('a phone that is held flat knows which way it points', () => {
  const of = (alpha: number | null, absolute = true, screen = 0, more = {}) =>
    headingOf({ alpha, absolute, ...more } as Parameters<typeof headingOf>[0], screen)
  // Device Orientation specification, W3C: alpha grows against the clock, so 90 degrees mean that the top
  // points west.
  expect([of(0), of(90), of(359.5), of(270)]).toEqual([0, 270, 0.5, 90])
  expect(of(90, true, 90)).toBe(0)
  expect([of(90, false), of(null)]).toEqual([null, null])
  expect(of(null, false, 0, { webkitCompassHeading: 123 })).toBe(123)
})

test('a grid has round numbers, few lines, and no line too many', () => {
  const labels = (view: [number, number, number, number], format: Format) =>
    gridLines(view, format).flatMap((f) => f.properties.label ?? [])
  expect(labels([-11.68, -14.19, -11.62, -14.15], 'decimal')).toEqual([
    '11.68°W',
    '11.67°W',
    '11.66°W',
    '11.65°W',
    '11.64°W',
    '11.63°W',
    '11.62°W',
    '14.19°S',
    '14.18°S',
    '14.17°S',
    '14.16°S',
    '14.15°S',
  ])
  expect(labels([-11.68, -14.19, -11.62, -14.15], 'minutes')).toContain('11°39′30″W')
  expect(labels([-20, -20, 20, 20], 'decimal')).toContain('0°')
  // Over the antimeridian the numbers turn.
  expect(labels([178, -2, -178, 2], 'decimal')).toEqual(expect.arrayContaining(['178°E', '180°', '179°W']))
  expect(labels([-180, -90, 180, 90], 'minutes').length).toBeLessThan(30)
  for (const format of FORMATS) {
    for (let span = 0.0004; span < 300; span *= 1.7) {
      const lines = gridLines(
        [-11.65 - span / 2, Math.max(-84, -14.17 - span), -11.65 + span / 2, Math.min(84, -14.17 + span)],
        format,
      ).filter((f) => f.geometry.type === 'LineString')
      expect(lines.length, `${format} ${span}`).toBeGreaterThan(3)
      expect(lines.length, `${format} ${span}`).toBeLessThan(60)
    }
  }
})

// Source: GeoConvert of geographiclib-tools.
test('lines of a UTM grid run where GeoConvert has them', () => {
  const lines = gridLines([-11.7, -14.2, -11.6, -14.1], 'utm')
  const text = lines.flatMap((f) => f.properties.label ?? [])
  expect(text.every((l) => /^(29L )?\d+(\.\d+)? (km|m) [EN]$/.test(l))).toBe(true)
  for (const { geometry } of lines) {
    if (geometry.type !== 'LineString') continue
    const told = geometry.coordinates.map(([lon, lat]) =>
      execFileSync('GeoConvert', ['-u', '-z', '29', '-p', '2'], { input: `${lat} ${lon}\n` })
        .toString()
        .trim()
        .split(/\s+/)
        .slice(1)
        .map(Number),
    )
    const constant = [0, 1].find((axis) => told.every((p) => Math.abs(p[axis]! - told[0]![axis]!) < 0.05))
    expect(constant).toBeDefined()
    expect(Math.abs(Math.round(told[0]![constant!]! / 1000) * 1000 - told[0]![constant!]!)).toBeLessThan(0.05)
  }
})

test('records and places are found by words, among twenty thousand at once', () => {
  const layer = {
    id: 1,
    design: {
      fields: [
        { key: 'state', label: 'State', kind: 'one_choice', choices: [{ code: 'op', label: 'Opened' }] },
      ],
    },
  } as unknown as PackLayer
  const read = reader(new Map([[1, layer]]))
  const record = (i: number) =>
    ({
      id: String(i),
      layer: 1,
      name: `N-${i}`,
      values: { state: 'op', note: i % 1000 === 7 ? 'Café am Strand' : 'x', n: i },
    }) as unknown as PhoneRecord
  const all = Array.from({ length: 20_000 }, (_, i) => {
    const it = record(i)
    return { it, text: read(it) }
  })
  expect(search(all, 'cafe OPENED')).toHaveLength(20)
  expect(search(all, '')).toHaveLength(20_000)
  const numbers = Array.from({ length: 5_000 }, (_, i) => (i * 7919) % 5_003)
  for (const few of [1, 2, 3, 40, 4_999, 5_000, 6_000])
    expect(foremost(numbers, (n) => n, few)).toEqual([...numbers].sort((a, b) => a - b).slice(0, few))
  expect(foremost([], () => 0, 3)).toEqual([])
  const places = [
    ['Port Maria Harbour', 'a'],
    ['Maria', 'b'],
    ['Santa María', 'c'],
    ['Marianne', 'd'],
  ].map(([name, of]) => ({ name: name!, of: of!, lon: 0, lat: 0, text: plain(name!) }))
  expect(placesNamed(places, 'maria').map((p) => p.name)).toEqual([
    'Maria',
    'Marianne',
    'Santa María',
    'Port Maria Harbour',
  ])
  expect(placesNamed(places, 'har mar').map((p) => p.name)).toEqual(['Port Maria Harbour'])
  expect(placesNamed(places, 'm')).toEqual([])
})

test('numbers are typed with either decimal mark, and shown with that of the page', async () => {
  const page = { language: 'en' }
  vi.doMock('../../resources/ts/shared/language', () => ({ languageOfPage: () => page.language }))
  const { numberIn, typedNumber } = await import('../../resources/ts/shared/typedNumber')
  expect(typedNumber(1234.5)).toBe('1234.5')
  expect(typedNumber(undefined)).toBe('')
  const cases: [string, number | null][] = [
    ['12', 12],
    [' 0,5 ', 0.5],
    ['1.', 1],
    ['.25', 0.25],
    ['−3,5', -3.5],
    ['1e-7', 1e-7],
    ['', null],
    ['-', null],
    ['1,234.5', null],
    ['1 000', null],
    ['0x10', null],
    ['Infinity', null],
    ['acht', null],
  ]
  for (const [text, number] of cases) expect(numberIn(text), text).toBe(number)
  page.language = 'de'
  expect(typedNumber(-1234.5)).toBe('-1234,5')
  expect(numberIn(typedNumber(0.1))).toBe(0.1)
  vi.doUnmock('../../resources/ts/shared/language')
})
