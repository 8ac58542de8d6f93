// Draws the Halcyon Cays, islands that do not exist, from a fixed seed:
//   node database/demo/cays/make.mjs
// writes public/backdrop/cays.json (the backdrop) and database/demo/cays/beaches.json (where nests can be).
// A height field on a 25 m grid is cut at several heights (marching squares), so coast, shallows and hills
// belong together at every zoom.
import { writeFileSync } from 'node:fs'
import { contours } from 'd3-contour'
import { createNoise2D } from 'simplex-noise'

const WEST = -11.8,
  NORTH = -14.06,
  CELL = 25,
  COLS = 1360,
  ROWS = 1180
const LAT_M = 110_640,
  LON_M = 111_320 * Math.cos((14.2 * Math.PI) / 180)

function random(seed) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
const dice = random(20261124)
const noise = createNoise2D(random(7))
const fbm = (x, y, octaves) => {
  let sum = 0,
    amp = 0.5,
    f = 1
  for (let i = 0; i < octaves; i++) {
    sum += amp * noise(x * f + i * 17.3, y * f - i * 9.1)
    amp *= 0.5
    f *= 2.03
  }
  return sum
}

// centre and half axes in metres from the north-west corner, turn in radians, peak in metres
const ISLES = [
  {
    name: 'Great Halcyon',
    code: 'GH',
    x: 12200,
    y: 13600,
    rx: 6900,
    ry: 4300,
    turn: -0.5,
    peak: 168,
    sectors: 9,
  },
  { name: 'Marram Cay', code: 'MC', x: 24000, y: 19400, rx: 3900, ry: 3000, turn: 0.7, peak: 74, sectors: 6 },
  {
    name: 'Petrel Rock',
    code: 'PR',
    x: 26300,
    y: 7000,
    rx: 2500,
    ry: 2900,
    turn: 0.2,
    peak: 121,
    sectors: 4,
  },
  {
    name: 'Little Drift',
    code: 'LD',
    x: 5300,
    y: 24300,
    rx: 1900,
    ry: 1500,
    turn: 0.4,
    peak: 31,
    sectors: 2,
  },
  { name: 'The Sprat', x: 19400, y: 11800, rx: 620, ry: 420, turn: 1, peak: 14 },
  { name: 'Gannet Stack', x: 29800, y: 12600, rx: 480, ry: 620, turn: 0, peak: 42 },
  { name: 'Low Sisters', x: 15600, y: 22900, rx: 760, ry: 330, turn: 0.3, peak: 9 },
  { x: 16900, y: 23600, rx: 420, ry: 260, turn: 0.9, peak: 7 },
  { x: 8800, y: 5200, rx: 540, ry: 380, turn: 0.4, peak: 19 },
]

function height(x, y) {
  const wx = x + 2100 * fbm(x / 4300, y / 4300, 5),
    wy = y + 2100 * fbm(x / 4300 + 40, y / 4300 + 40, 5)
  let best = -70
  for (const i of ISLES) {
    const dx = wx - i.x,
      dy = wy - i.y
    const u = (dx * Math.cos(i.turn) + dy * Math.sin(i.turn)) / i.rx,
      v = (-dx * Math.sin(i.turn) + dy * Math.cos(i.turn)) / i.ry
    const inside = 1 - Math.hypot(u, v)
    const size = Math.min(i.rx, i.ry)
    const h = inside > 0 ? 2.2 * Math.min(1, inside / 0.06) + i.peak * inside ** 1.55 : (inside * size) / 42
    best = Math.max(best, h)
  }
  const rough = fbm(x / 1500, y / 1500, 6)
  return best + rough * (best > 0 ? 3.2 + best * 0.42 : 3.2 + Math.min(9, -best * 0.3))
}

const field = new Float64Array(COLS * ROWS)
for (let r = 0; r < ROWS; r++)
  for (let c = 0; c < COLS; c++) field[r * COLS + c] = height((c + 0.5) * CELL, (r + 0.5) * CELL)

const round = (v) => Math.round(v * 1e5) / 1e5
const lonLat = ([c, r]) => [round(WEST + (c * CELL) / LON_M), round(NORTH - (r * CELL) / LAT_M)]

// Douglas and Peucker 1973, in cells
function thin(ring, far) {
  const keep = new Uint8Array(ring.length)
  keep[0] = keep[ring.length - 1] = 1
  const stack = [[0, ring.length - 1]]
  while (stack.length) {
    const [a, b] = stack.pop()
    const [ax, ay] = ring[a],
      [bx, by] = ring[b],
      len = Math.hypot(bx - ax, by - ay)
    let most = far,
      at = -1
    for (let i = a + 1; i < b; i++) {
      const d =
        len === 0
          ? Math.hypot(ring[i][0] - ax, ring[i][1] - ay)
          : Math.abs((bx - ax) * (ay - ring[i][1]) - (ax - ring[i][0]) * (by - ay)) / len
      if (d > most) {
        most = d
        at = i
      }
    }
    if (at > 0) {
      keep[at] = 1
      stack.push([a, at], [at, b])
    }
  }
  return ring.filter((_, i) => keep[i])
}
function thinRing(ring, far) {
  if (ring.length < 8) return ring
  const mid = Math.floor(ring.length / 2)
  return [...thin(ring.slice(0, mid + 1), far), ...thin(ring.slice(mid), far).slice(1)]
}
const areaOf = (ring) =>
  Math.abs(
    ring.reduce((s, [x, y], i) => {
      const [a, b] = ring[(i + 1) % ring.length]
      return s + x * b - a * y
    }, 0),
  ) / 2

const features = []
const add = (kind, geometry, more = {}) =>
  features.push({ type: 'Feature', properties: { kind, ...more }, geometry })

function cut(level, kind, far, least) {
  const [shape] = contours().size([COLS, ROWS]).thresholds([level])(field)
  const polygons = shape.coordinates
    .map((rings) => rings.filter((ring) => areaOf(ring) > least).map((ring) => thinRing(ring, far)))
    .filter((rings) => rings.length)
  add(kind, {
    type: 'MultiPolygon',
    coordinates: polygons.map((rings) => rings.map((ring) => ring.map(lonLat))),
  })
  return polygons
}
cut(-38, 'shelf', 1, 300)
cut(-17, 'shallow', 0.8, 200)
cut(-5, 'lagoon', 0.5, 60)
const coast = cut(0, 'sand', 0.22, 14)
cut(2.4, 'land', 0.25, 14)
cut(14, 'low', 0.4, 60)
cut(38, 'hill', 0.4, 60)
cut(74, 'high', 0.4, 60)
cut(112, 'peak', 0.4, 60)
for (const level of [20, 50, 90, 130]) {
  const [shape] = contours().size([COLS, ROWS]).thresholds([level])(field)
  add(
    'contour',
    {
      type: 'MultiLineString',
      coordinates: shape.coordinates
        .flat()
        .filter((ring) => areaOf(ring) > 120)
        .map((ring) => thinRing(ring, 0.5).map(lonLat)),
    },
    { height: level },
  )
}

// Paths: the easiest way over the height field between two places (Dijkstra 1959, on every fourth cell).
const STEP = 4,
  PC = Math.floor(COLS / STEP),
  PR = Math.floor(ROWS / STEP)
function way(from, to) {
  const at = ([x, y]) => Math.floor(y / CELL / STEP) * PC + Math.floor(x / CELL / STEP)
  const h = (i) => field[Math.floor(i / PC) * STEP * COLS + (i % PC) * STEP]
  const cost = new Float64Array(PC * PR).fill(Infinity),
    came = new Int32Array(PC * PR).fill(-1)
  const goal = at(to)
  let edge = [[0, at(from)]]
  cost[at(from)] = 0
  while (edge.length) {
    let b = 0
    for (let i = 1; i < edge.length; i++) if (edge[i][0] < edge[b][0]) b = i
    const [d, i] = edge[b]
    edge[b] = edge[edge.length - 1]
    edge.pop()
    if (i === goal) break
    if (d > cost[i]) continue
    for (const dy of [-1, 0, 1])
      for (const dx of [-1, 0, 1]) {
        const j = i + dy * PC + dx
        if (j < 0 || j >= PC * PR || h(j) < 1.2) continue
        const n = d + Math.hypot(dx, dy) * 100 + 22 * Math.abs(h(j) - h(i)) + (h(j) < 4 ? 60 : 0)
        if (n < cost[j]) {
          cost[j] = n
          came[j] = i
          edge.push([n, j])
        }
      }
  }
  const path = []
  for (let i = goal; i >= 0; i = came[i]) path.push([(i % PC) * STEP, Math.floor(i / PC) * STEP])
  if (path.length < 2) return null
  for (let k = 0; k < 2; k++)
    for (let i = path.length - 2; i > 0; i--) {
      path[i] = [
        (path[i - 1][0] + 2 * path[i][0] + path[i + 1][0]) / 4,
        (path[i - 1][1] + 2 * path[i][1] + path[i + 1][1]) / 4,
      ]
    }
  return thin(path, 0.4).map(lonLat)
}

// Villages stand a little above the beach; their spots are looked for near a wished place.
function spot([x, y], low, high) {
  for (let radius = 0; radius < 3000; radius += 60)
    for (let a = 0; a < 6.28; a += 0.3) {
      const p = [x + radius * Math.cos(a), y + radius * Math.sin(a)],
        h = height(...p)
      if (h > low && h < high) return p
    }
  return [x, y]
}
const VILLAGES = [
  ['Halcyon Landing', [15800, 14400], 26],
  ['Sandmartin', [7600, 13000], 14],
  ['Over Hill', [11800, 12300], 9],
  ['Marram Town', [23200, 18000], 18],
  ['Teal Steps', [25800, 21200], 8],
  ['Petrel Light', [26500, 8600], 5],
  ['Drift House', [5400, 24300], 3],
].map(([name, wish, houses]) => ({ name, houses, at: spot(wish, 4, 40) }))
const place = (name) => VILLAGES.find((v) => v.name === name).at
for (const [a, b] of [
  ['Halcyon Landing', 'Over Hill'],
  ['Over Hill', 'Sandmartin'],
  ['Halcyon Landing', 'Sandmartin'],
  ['Marram Town', 'Teal Steps'],
]) {
  const line = way(place(a), place(b))
  if (line) add('path', { type: 'LineString', coordinates: line })
}
for (const [a, wish] of [
  ['Halcyon Landing', [17600, 11400]],
  ['Sandmartin', [8800, 17200]],
  ['Marram Town', [21600, 20400]],
  ['Petrel Light', [25600, 5200]],
  ['Over Hill', [13000, 10200]],
]) {
  const line = way(place(a), spot(wish, 2.5, 8))
  if (line) add('path', { type: 'LineString', coordinates: line })
}
const houses = []
for (const v of VILLAGES) {
  for (let i = 0; i < v.houses; i++) {
    const a = dice() * 6.28,
      d = 30 + 260 * Math.sqrt(dice()),
      x = v.at[0] + d * Math.cos(a),
      y = v.at[1] + d * Math.sin(a),
      t = dice() * 3
    if (height(x, y) < 3) continue
    const corner = (u, w) =>
      lonLat([(x + u * Math.cos(t) - w * Math.sin(t)) / CELL, (y + u * Math.sin(t) + w * Math.cos(t)) / CELL])
    const l = 7 + 7 * dice(),
      m = 5 + 3 * dice()
    houses.push([[corner(-l, -m), corner(l, -m), corner(l, m), corner(-l, m), corner(-l, -m)]])
  }
  add(
    'village',
    { type: 'Point', coordinates: lonLat([v.at[0] / CELL, v.at[1] / CELL]) },
    { name: v.name, rank: v.houses > 12 ? 2 : 3 },
  )
}
add('house', { type: 'MultiPolygon', coordinates: houses })
for (const i of ISLES)
  if (i.name)
    add(
      'isle',
      { type: 'Point', coordinates: lonLat([i.x / CELL, (i.y - i.ry * 0.12) / CELL]) },
      { name: i.name, rank: i.sectors ? 1 : 3 },
    )
for (const [name, x, y] of [
  ['Long Sound', 20300, 15100],
  ['Tern Passage', 20600, 24600],
  ['Halcyon Roads', 13500, 6000],
  ['Drift Bank', 8400, 20600],
]) {
  add('water', { type: 'Point', coordinates: lonLat([x / CELL, y / CELL]) }, { name })
}

// Beach sectors: stretches of the coast of equal length; each cell near the coast belongs to the nearest stretch.
const label = new Int16Array(COLS * ROWS).fill(-1)
const sectors = []
for (const isle of ISLES.filter((i) => i.sectors)) {
  const inside = (ring) => {
    const [x, y] = ring[0]
    return Math.hypot(x * CELL - isle.x, y * CELL - isle.y) < Math.max(isle.rx, isle.ry) * 1.5
  }
  const ring = coast
    .map((rings) => rings[0])
    .filter(inside)
    .sort((a, b) => areaOf(b) - areaOf(a))[0]
  const lengths = ring.map((p, i) => (i ? Math.hypot(p[0] - ring[i - 1][0], p[1] - ring[i - 1][1]) : 0))
  const whole = lengths.reduce((a, b) => a + b, 0)
  const first = sectors.length
  for (let k = 0; k < isle.sectors; k++)
    sectors.push({ code: `${isle.code}${k + 1}`, name: `${isle.name} ${k + 1}`, isle: isle.name, points: [] })
  let edge = [],
    gone = 0
  for (let i = 1; i < ring.length; i++) {
    const pieces = Math.max(1, Math.ceil(lengths[i]))
    for (let j = 0; j < pieces; j++) {
      const t = j / pieces,
        share = (gone + lengths[i] * t) / whole
      const c = Math.floor(ring[i - 1][0] + (ring[i][0] - ring[i - 1][0]) * t),
        r = Math.floor(ring[i - 1][1] + (ring[i][1] - ring[i - 1][1]) * t)
      const k = Math.floor(share * isle.sectors),
        cell = r * COLS + c
      if (label[cell] < 0 && share * isle.sectors - k > 0.04) {
        label[cell] = first + k
        edge.push(cell)
      }
    }
    gone += lengths[i]
  }
  for (let ring8 = 0; ring8 < 7; ring8++) {
    const next = []
    for (const cell of edge)
      for (const d of [1, -1, COLS, -COLS]) {
        const n = cell + d
        if (label[n] < 0 && field[n] > -2 && field[n] < 9) {
          label[n] = label[cell]
          next.push(n)
        }
      }
    edge = next
  }
}
const smooth = (ring) => {
  // Chaikin 1974, twice
  for (let k = 0; k < 2; k++) {
    const out = []
    for (let i = 0; i < ring.length - 1; i++) {
      const [a, b] = [ring[i], ring[i + 1]]
      out.push(
        [0.75 * a[0] + 0.25 * b[0], 0.75 * a[1] + 0.25 * b[1]],
        [0.25 * a[0] + 0.75 * b[0], 0.25 * a[1] + 0.75 * b[1]],
      )
    }
    ring = [...out, out[0]]
  }
  return ring
}
sectors.forEach((sector, k) => {
  const mask = Float64Array.from(label, (l) => (l === k ? 1 : 0))
  const [shape] = contours().size([COLS, ROWS]).thresholds([0.5])(mask)
  const polygons = shape.coordinates
    .filter(([ring]) => areaOf(ring) > 20)
    .map(([ring]) => [thinRing(smooth(thinRing(ring, 0.7)), 0.25).map(lonLat)])
  add('sector', { type: 'MultiPolygon', coordinates: polygons }, { name: sector.name, code: sector.code })
  const cells = []
  for (let i = 0; i < label.length; i++) if (label[i] === k && field[i] > 0.7 && field[i] < 2.6) cells.push(i)
  for (let n = 0; n < 90 && cells.length; n++) {
    const cell = cells[Math.floor(dice() * cells.length)]
    const [lon, lat] = lonLat([(cell % COLS) + dice(), Math.floor(cell / COLS) + dice()])
    sector.points.push([lon, lat])
  }
})

const here = new URL('.', import.meta.url)
writeFileSync(
  new URL('../../../public/backdrop/cays.json', here),
  JSON.stringify({ type: 'FeatureCollection', features }),
)
writeFileSync(new URL('beaches.json', here), JSON.stringify(sectors))
console.log(features.length, 'features', sectors.map((s) => `${s.code}:${s.points.length}`).join(' '))
