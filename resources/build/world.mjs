// Makes the backdrop of the whole world, public/backdrop/world.json, of Natural Earth's land and borders (world-atlas).
import { geoEquirectangular } from 'd3-geo'
import { geoProject } from 'd3-geo-projection'
import { readFileSync, renameSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { feature, mesh } from 'topojson-client'

const require = createRequire(import.meta.url)
const read = (file) => JSON.parse(readFileSync(require.resolve(`world-atlas/${file}`), 'utf8'))
const land = read('land-50m.json')
const countries = read('countries-110m.json')

// Shapes that cross the antimeridian, or lie around a pole, are shapes on a sphere: on a flat map they must be cut there, or an edge
// runs back over the whole width of it. Degrees go in and come out; nothing is resampled in between.
const flat = geoEquirectangular()
  .scale(180 / Math.PI)
  .translate([0, 0])
  .precision(0)
const cut = (geometry) => {
  const turned = (c) => (typeof c[0] === 'number' ? [rounded(c[0]), rounded(-c[1])] : c.map(turned))
  const drawn = geoProject(geometry, flat)
  return { ...drawn, coordinates: turned(drawn.coordinates) }
}
const rounded = (v) => Math.round(v * 100) / 100
const as = (kind, geometry) => ({ type: 'Feature', properties: { kind }, geometry })

/** The edges along which land was cut: no coast, so they are drawn over in the colour of land. */
function seamsOf(polygons) {
  const seams = []
  const isSeam = (a, b) => (Math.abs(a[0]) === 180 && a[0] === b[0]) || (a[1] === -90 && b[1] === -90)
  for (const ring of polygons.flat())
    ring.forEach((at, i) => {
      if (i > 0 && isSeam(ring[i - 1], at)) seams.push([ring[i - 1], at])
    })
  return { type: 'MultiLineString', coordinates: seams }
}

const polygonsOf = (g) => (g.type === 'Polygon' ? [g.coordinates] : g.coordinates)
const lands = feature(land, land.objects.land)
const pieces = (lands.features ?? [lands]).flatMap((f) => polygonsOf(cut(f.geometry)))
const features = [
  as('land', { type: 'MultiPolygon', coordinates: pieces }),
  as('seam', seamsOf(pieces)),
  as('border', cut(mesh(countries, countries.objects.countries, (a, b) => a !== b))),
]
// Whoever reads it meanwhile reads the one before, whole.
const to = new URL('../../public/backdrop/world.json', import.meta.url)
const beside = new URL(`../../public/backdrop/.world.${process.pid}`, import.meta.url)
writeFileSync(beside, JSON.stringify({ type: 'FeatureCollection', features }))
renameSync(beside, to)
