import { validateStyleMin } from '@maplibre/maplibre-gl-style-spec'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { feature } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { afterAll, expect, test } from 'vitest'
import { checked, Unsound } from '../../ops/backdrop/checked.mjs'
import { addressed, backdropStyle, isOf, type BackdropData } from '../../resources/ts/shared/map/backdrop'

/* Backdrops are data: those that ship, and others that are added to a copy. */

const root = new URL('../../', import.meta.url)
const read = (path: string) => JSON.parse(readFileSync(new URL(path, root), 'utf8'))
const point = {
  type: 'Feature',
  properties: {},
  geometry: { type: 'Point', coordinates: [10, 54] },
}
const line = { id: 'shore', type: 'line', paint: { 'line-color': '#123456' } }
const collection = (...features: unknown[]) => ({ type: 'FeatureCollection', features })
const refused = (data: unknown, style: unknown, key = 'lagoon'): string => {
  try {
    checked(key, data, style)
  } catch (error) {
    if (error instanceof Unsound) return error.reasons.join(' ')
    throw error
  }
  return 'taken'
}

test('those that ship are sound themselves, without a correction but of their box', () => {
  for (const key of ['cays', 'world']) {
    // The world is made with the build; its style is looked at here.
    const data = key === 'cays' ? read('public/backdrop/cays.json') : collection(point)
    const { corrections } = checked(key, data, read(`public/backdrop/${key}.style.json`))
    expect(corrections.filter((c) => !c.startsWith('Its box'))).toEqual([])
  }
})

test('the widest lies under the others, labels over all, and each is drawn at its zooms alone', () => {
  const style = (key: string, more: object): BackdropData => ({
    key,
    data: `/backdrop/${key}.json`,
    style: {
      attribution: null,
      box: null,
      zoom: null,
      layers: [{ id: `${key}-a`, type: 'fill', source: key, minzoom: 3 }],
      labels: [{ id: `${key}-b`, type: 'symbol', source: key }],
      ...more,
    },
  })
  const made = backdropStyle([
    style('bay', { box: [179, -18, -179, -16], zoom: [5, 12], attribution: 'Müller & <b>Sons</b>' }),
    style('earth', {}),
    style('island', { box: [178, -19, 180, -15], zoom: [2, 20] }),
  ])
  expect(made.layers.map((l) => l.id)).toEqual([
    'sea',
    'earth-a',
    'island-a',
    'bay-a',
    'earth-b',
    'island-b',
    'bay-b',
  ])
  expect(made.layers.find((l) => l.id === 'bay-a')).toMatchObject({ minzoom: 5, maxzoom: 12 })
  expect(made.layers.find((l) => l.id === 'island-a')).toMatchObject({ minzoom: 3, maxzoom: 20 })
  expect(made.sources['bay']).toMatchObject({ attribution: 'Müller &amp; &lt;b>Sons&lt;/b>' })
})

test('a map has those that show something of what it opens with, also across the antimeridian', () => {
  const of = (box: [number, number, number, number] | null) =>
    ({
      key: 'a',
      data: '',
      style: { attribution: null, box, zoom: null, layers: [], labels: [] },
    }) as BackdropData
  const fiji = of([177, -19, -178, -16])
  expect(isOf(of(null), [0, 0, 1, 1])).toBe(true)
  expect(isOf({ key: 'old', data: '' }, [0, 0, 1, 1])).toBe(true)
  expect(isOf(fiji, [178, -18, 179, -17])).toBe(true)
  expect(isOf(fiji, [-179, -18, -178.5, -17])).toBe(true)
  expect(isOf(fiji, [179.5, -18, -179.5, -17])).toBe(true)
  expect(isOf(fiji, [-180, -85, 180, 85])).toBe(true)
  expect(isOf(fiji, [0, -18, 10, -17])).toBe(false)
  expect(isOf(fiji, [178, -15, 179, -14])).toBe(false)
  expect(isOf(of([0, 0, 1, 1]), [1, 0, 2, 1])).toBe(false)
})

test('one that an older app took without its style is drawn plainly, and soundly', () => {
  const made = backdropStyle([{ key: 'world', data: collection(point) as GeoJSON.FeatureCollection }])
  expect(validateStyleMin(made)).toEqual([])
  expect(made.layers.map((l) => l.type)).toEqual(['background', 'fill', 'line'])
})

test('what was kept as it came is read from an address that goes with its map', async () => {
  const read = collection(point) as GeoJSON.FeatureCollection
  const [ground, release] = addressed([
    { key: 'world', data: new Blob([JSON.stringify(read)]) },
    { key: 'cays', data: read },
    { key: 'roads', data: '/backdrop/roads.json' },
  ])
  const [world, cays, roads] = ground.map((b) => b.data)
  expect([cays, roads]).toEqual([read, '/backdrop/roads.json'])
  expect(await (await fetch(String(world))).json()).toEqual(read)
  release()
  await expect(fetch(String(world))).rejects.toThrow()
  expect(validateStyleMin(backdropStyle(ground))).toEqual([])
})

test('countries of a stranger’s file are taken, with what was corrected said', () => {
  // Source: Natural Earth 1:110m (public domain) by way of world-atlas.
  const atlas = read(createRequire(import.meta.url).resolve('world-atlas/countries-110m.json')) as Topology
  const data = feature(atlas, atlas.objects['countries'] as GeometryCollection)
  const taken = checked('countries', data, {
    attribution: 'Natural Earth',
    zoom: [0, 9],
    layers: [line],
    labels: [{ id: 'names', type: 'symbol', layout: { 'text-field': ['get', 'name'] } }],
  })
  expect(taken.data.features).toHaveLength(177)
  expect(taken.corrections).toEqual([
    expect.stringMatching(/^Its box is that of its data: -180, -85\.6\d+, 180, 83\.6\d+\.$/),
    'Layer 1 of “layers” draws “countries”.',
    'Layer “shore” is called “countries-shore”.',
    'Layer 1 of “labels” draws “countries”.',
    'Layer “names” is called “countries-names”.',
    'Layer 1 of “labels” is written in Atkinson Hyperlegible Next Variable, which ships.',
  ])
  const style = { attribution: null, zoom: null, ...taken.style }
  expect(validateStyleMin(backdropStyle([{ key: 'countries', data: taken.data, style }]))).toEqual([])
})

test.each([
  ['a name that is none', collection(point), { layers: [line] }, 'Küste', 'cannot be its name'],
  ['a list', [], { layers: [line] }, 'lagoon', 'no GeoJSON object'],
  [
    'metres',
    collection({ ...point, geometry: { type: 'Point', coordinates: [565_000, 5_930_000] } }),
    { layers: [line] },
    'lagoon',
    'ogr2ogr',
  ],
  [
    'another system',
    { ...collection(point), crs: { properties: { name: 'urn:ogc:def:crs:EPSG::25832' } } },
    { layers: [line] },
    'lagoon',
    'EPSG:4326',
  ],
  [
    'no shape',
    collection({ ...point, geometry: null }),
    { layers: [line] },
    'lagoon',
    'no feature with a shape',
  ],
  [
    'a place of words',
    collection({ ...point, geometry: { type: 'Point', coordinates: ['10', '54'] } }),
    { layers: [line] },
    'lagoon',
    'no two numbers',
  ],
  [
    'a collection of shapes',
    collection({ ...point, geometry: { type: 'GeometryCollection', geometries: [] } }),
    { layers: [line] },
    'lagoon',
    'GeometryCollection',
  ],
  ['no layers', collection(point), { layers: [] }, 'lagoon', 'has no layer'],
  ['another’s data', collection(point), { layers: [{ ...line, source: 'world' }] }, 'lagoon', 'not “lagoon”'],
  [
    'a picture from elsewhere',
    collection(point),
    { layers: [{ id: 'x', type: 'fill', paint: { 'fill-pattern': 'waves' } }] },
    'lagoon',
    'none to load',
  ],
  [
    'a kind that needs tiles',
    collection(point),
    { layers: [{ id: 'x', type: 'raster' }] },
    'lagoon',
    'fill, line, circle',
  ],
  ['two of one name', collection(point), { layers: [line, line] }, 'lagoon', 'lagoon-shore'],
  [
    'an unsound colour',
    collection(point),
    { layers: [{ ...line, paint: { 'line-color': 12 } }] },
    'lagoon',
    'color expected',
  ],
  ['a box upside down', collection(point), { box: [10, 55, 11, 54], layers: [line] }, 'lagoon', '“box”'],
  ['zooms that are none', collection(point), { zoom: [9, 3], layers: [line] }, 'lagoon', '“zoom”'],
])('refused with the reason: %s', (_, data, style, key, reason) => {
  expect(refused(data, style, key)).toContain(reason)
})

const folder = mkdtempSync(join(tmpdir(), 'backdrops-'))
afterAll(() => rmSync(folder, { recursive: true }))

test('a copy is given one, has it replaced, and taken away again', () => {
  const run = (...words: string[]) => {
    try {
      const at = join(folder, 'own')
      return execFileSync('node', ['ops/backdrop/run.mjs', at, ...words], {
        cwd: root,
        stdio: 'pipe',
      }).toString()
    } catch (error) {
      return (error as { stderr: Buffer }).stderr.toString()
    }
  }
  const [data, style] = [join(folder, 'a.geojson'), join(folder, 'a.json')]
  // As an editor on Windows writes it.
  writeFileSync(data, `\uFEFF${JSON.stringify(collection(point, { ...point, geometry: null }))}`)
  writeFileSync(style, JSON.stringify({ layers: [line] }))
  expect(run('add', 'lagoon', data, style)).toMatch(
    /1 of 2 features have no shape[^]*Added “lagoon”: 1 features/,
  )
  expect(run('add', 'lagoon', data, style)).toContain('Replaced “lagoon”')
  expect(run()).toMatch(/cays +ships\nworld +ships\nlagoon +added/)
  expect(readdirSync(join(folder, 'own')).toSorted()).toEqual(['lagoon.json', 'lagoon.style.json'])
  expect(run('add', 'cays', data, style)).toContain('ships with Pin Yard')
  expect(run('add', 'other', join(folder, 'none'), style)).toContain('There is no file')
  expect(run('remove', 'world')).toContain('stays')
  expect(run('remove', 'lagoon')).toContain('Removed')
  expect(run('remove', 'lagoon')).toContain('no backdrop “lagoon”')
  expect(readdirSync(join(folder, 'own'))).toEqual([])
})
