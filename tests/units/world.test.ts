import { geoContains } from 'd3-geo'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { feature } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { expect, test } from 'vitest'

/* The world under the maps: where it has land, Natural Earth has it (public domain, by way of world-atlas). */

type Ring = [number, number][]
const root = new URL('../../', import.meta.url)

const world = (() => {
  execFileSync('node', ['resources/build/world.mjs'], { cwd: root })
  const data = JSON.parse(
    readFileSync(new URL('public/backdrop/world.json', root), 'utf8'),
  ) as GeoJSON.FeatureCollection<GeoJSON.MultiPolygon>
  return data.features.find((f) => f.properties!.kind === 'land')!.geometry.coordinates as Ring[][]
})()

/** Even-odd, on the flat map as it is drawn. */
function isIn(polygon: Ring[], lon: number, lat: number) {
  let inside = false
  for (const ring of polygon)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [ax, ay] = ring[i]!
      const [bx, by] = ring[j]!
      if (ay > lat !== by > lat && lon < ((bx - ax) * (lat - ay)) / (by - ay) + ax) inside = !inside
    }
  return inside
}

test('land is where Natural Earth has it, at 200 places and where it was once drawn wrongly', () => {
  const drawn = (lon: number, lat: number) => world.some((polygon) => isIn(polygon, lon, lat))
  const atlas = JSON.parse(
    readFileSync(createRequire(import.meta.url).resolve('world-atlas/land-110m.json'), 'utf8'),
  ) as Topology
  const truth = feature(atlas, atlas.objects['land'] as GeometryCollection)
  // The golden angle spreads places evenly over the sphere; those near a coast may differ between the two scales.
  const near = [
    [0, 0],
    [1.5, 0],
    [-1.5, 0],
    [0, 1.5],
    [0, -1.5],
  ] as const
  let asked = 0
  for (let i = 0; i < 340; i++) {
    const lat = (Math.asin(1 - (2 * i + 1) / 340) * 180) / Math.PI
    const lon = ((i * 137.50776) % 360) - 180
    const around = near.map(([dx, dy]) =>
      geoContains(truth, [lon + dx, Math.max(-89.9, Math.min(89.9, lat + dy))]),
    )
    if (new Set(around).size > 1) continue
    asked++
    expect(drawn(lon, lat), `${lat.toFixed(2)}, ${lon.toFixed(2)}`).toBe(around[0])
  }
  expect(asked).toBeGreaterThan(200)
  // From memory: open water between Newfoundland and Ireland; the sea at 17° south, from the Pacific to the Atlantic.
  for (const lon of [-45, -40, -35, -30, -25, -20]) expect(drawn(lon, 51)).toBe(false)
  for (const lon of [-170, -140, -100, -20, 0, 60, 100, 160]) expect(drawn(lon, -17.02)).toBe(false)
  // Fiji lies on both sides of the antimeridian, as does Chukotka.
  expect(drawn(178.4, -17.8)).toBe(true)
  expect(drawn(179, 68)).toBe(true)
  expect(drawn(-176, 67)).toBe(true)
})

test('no edge runs back over the map, and nothing lies outside of it', () => {
  for (const ring of world.flat())
    ring.forEach(([lon, lat], i) => {
      expect(Math.abs(lon) <= 180 && Math.abs(lat) <= 90).toBe(true)
      const before = ring[i - 1]
      if (before && lat > -90) expect(Math.abs(lon - before[0])).toBeLessThan(180)
    })
})
