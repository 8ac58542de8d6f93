// Backdrops for the browser tests: the same lands by fewer corners and without what lies on them. Most of what a test of two
// minutes computes is drawing shores without a graphics card; the backdrops that ship are looked at elsewhere
// (tests/units/world.test.ts, tests/Running/ServedTest.php, docs/screenshots).
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'

const to = process.argv[2]
if (!to) throw new Error('node light.mjs FOLDER')
mkdirSync(to, { recursive: true })

const KEPT = { world: ['land'], cays: ['land', 'isle', 'village', 'sector'] }
const EACH = { world: 12, cays: 6 }

for (const [key, kinds] of Object.entries(KEPT)) {
  const whole = JSON.parse(
    readFileSync(new URL(`../../public/backdrop/${key}.json`, import.meta.url), 'utf8'),
  )
  const thinned = (ring) => {
    const kept = ring.filter((_, i) => i % EACH[key] === 0 || i === ring.length - 1)
    return kept.length < 4 ? null : kept
  }
  const features = whole.features
    .filter((f) => kinds.includes(f.properties.kind))
    .map((f) => {
      const { type, coordinates } = f.geometry
      if (type !== 'MultiPolygon') return f
      const parts = coordinates.map((rings) => rings.map(thinned).filter(Boolean)).filter((r) => r.length > 0)
      return { ...f, geometry: { type, coordinates: parts } }
    })
  writeFileSync(`${to}/${key}.json`, JSON.stringify({ ...whole, features }))
}
