// A look's change on a map of 20,000 records: what our screens do with it, against MapLibre by itself with the same
// style on the same data. Both are timed from the change until nothing is left to draw.
//   node tests/bench/looks.mjs
import { execFileSync } from 'node:child_process'
import { createRequire } from 'node:module'
import { existsSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { chromium } from 'playwright'
import { build } from 'vite'

const POINTS = 20_000
const ROUNDS = 7
const LIMIT = 1.3

const styles = JSON.parse(
  execFileSync('php', [
    '-r',
    `require 'vendor/autoload.php';
     $design = PinYard\\Design\\LayerDesign::fromArray(['title' => 'T', 'purpose' => '', 'geometry' => 'point', 'fields' => [
       ['key' => 'n', 'label' => 'N', 'kind' => 'decimal']]], PinYard\\Formula\\Neighbours::none());
     echo json_encode(array_map(fn ($scheme) => PinYard\\Carto\\Style\\StyleLayers::of(PinYard\\Carto\\Look::read(
       ['kind' => 'classes', 'field' => 'n', 'scheme' => $scheme, 'breaks' => [1, 2, 3]], $design), 's'), ['tide', 'ember']));`,
  ]).toString(),
)
const bundle = await build({
  configFile: false,
  logLevel: 'error',
  build: {
    write: false,
    minify: true,
    lib: { entry: fileURLToPath(new URL('drawing.ts', import.meta.url)), formats: ['iife'], name: 'bench' },
  },
})
const script = (Array.isArray(bundle) ? bundle[0] : bundle).output[0].code
const css = readFileSync(createRequire(import.meta.url).resolve('maplibre-gl/dist/maplibre-gl.css'), 'utf8')

const browser = await chromium.launch({
  executablePath: ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'],
})
const page = await browser.newPage({ viewport: { width: 800, height: 600 } })
await page.setContent(`<style>${css}</style><div id="map" style="width:800px;height:600px"></div>`)
await page.addScriptTag({ content: script })
const times = await page.evaluate(
  async ({ styles, points, rounds }) => {
    const { maplibregl, putLayers, providePegs } = globalThis.bench
    const data = {
      type: 'FeatureCollection',
      features: Array.from({ length: points }, (_, i) => ({
        type: 'Feature',
        geometry: { type: 'Point', coordinates: [(i * 0.618034) % 1, (i * 0.754878) % 1] },
        properties: { id: String(i), class: String(i % 4) },
      })),
    }
    const map = new maplibregl.Map({
      container: 'map',
      style: { version: 8, sources: {}, layers: [] },
      center: [0.5, 0.5],
      zoom: 9,
      fadeDuration: 0,
      attributionControl: false,
    })
    providePegs(map)
    const idle = () => new Promise((done) => map.once('idle', done))
    await new Promise((done) => map.once('load', done))
    const timed = async (change) => {
      const begun = performance.now()
      change()
      await idle()
      return performance.now() - begun
    }
    const layerOf = (n) => [{ source: 's', data, layers: styles[n % 2] }]
    await timed(() => putLayers(map, layerOf(0)))
    const ours = []
    for (let i = 1; i <= rounds; i++) ours.push(await timed(() => putLayers(map, layerOf(i))))
    map.getStyle().layers.forEach((l) => map.removeLayer(l.id))
    const bare = []
    styles[0].forEach((l) => map.addLayer(l))
    await idle()
    for (let i = 1; i <= rounds; i++)
      bare.push(
        await timed(() => {
          for (const layer of styles[i % 2]) {
            map.removeLayer(layer.id)
            map.addLayer(layer)
          }
        }),
      )
    return { ours, bare }
  },
  { styles, points: POINTS, rounds: ROUNDS },
)
await browser.close()
const median = (of) => of.toSorted((a, b) => a - b)[Math.floor(of.length / 2)] / 1000
const [ours, bare] = [median(times.ours), median(times.bare)]
console.log(
  `${"a look's change on 20,000 records, against MapLibre alone".padEnd(66)} ${ours.toFixed(3).padStart(8)} s ${bare
    .toFixed(3)
    .padStart(8)} s ${(ours / bare).toFixed(2).padStart(6)}× (at most ${LIMIT})`,
)
