import { paint } from '../../shared/paint'
import { bandOf, fromUtm, toUtm } from '../../shared/form/utm'
import type { Format } from '../../shared/form/coordinates'
import { TEXT } from '../../shared/map/backdrop'
import type { MapLayer } from '../../shared/map/MapView'
import type { Box } from '../../shared/types'

/**
 * Lines of a grid and what is written on them, for what is in view: of degrees, or of UTM metres where places
 * are read so.
 */

/** About so many lines across the view. */
const LINES = 4
const DEGREES = [
  30, 20, 10, 5, 2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001, 0.0005, 0.0002, 0.0001,
]
/** Round numbers of minutes and seconds, in degrees. */
const MINUTES = [
  30,
  20,
  10,
  5,
  2,
  1,
  1 / 2,
  1 / 3,
  1 / 6,
  1 / 12,
  1 / 30,
  1 / 60,
  1 / 120,
  1 / 180,
  1 / 360,
  1 / 720,
  1 / 1800,
  1 / 3600,
]
const METRES = [
  500_000, 200_000, 100_000, 50_000, 20_000, 10_000, 5_000, 2_000, 1_000, 500, 200, 100, 50, 20, 10,
]

type Line = GeoJSON.Feature<GeoJSON.LineString | GeoJSON.Point, { label?: string; side?: 'left' | 'bottom' }>

const step = (steps: number[], span: number) => steps.find((s) => span / s >= LINES) ?? steps.at(-1)!

/** Multiples of a step within two ends; counted, so that no error adds up. */
function* between(low: number, high: number, by: number): Generator<number> {
  for (let i = Math.ceil(low / by - 1e-9); i * by <= high + by * 1e-9; i++) yield i * by
}

const line = (coordinates: number[][]): Line => ({
  type: 'Feature',
  properties: {},
  geometry: { type: 'LineString', coordinates },
})
const label = (text: string, side: 'left' | 'bottom', at: number[]): Line => ({
  type: 'Feature',
  properties: { label: text, side },
  geometry: { type: 'Point', coordinates: at },
})

/** A view that spans more than the world shows no more of it than there is. */
function shown([west, south, east, north]: Box): Box {
  const e = east < west ? east + 360 : east
  return [west, Math.max(-85, south), Math.min(e, west + 360), Math.min(85, north)]
}

export function gridLines(view: Box, format: Format): Line[] {
  const box = shown(view)
  const [, south, , north] = box
  // Beyond a few degrees UTM's zones would meet at odd angles, and near the poles there is no UTM.
  return format === 'utm' && box[2] - box[0] <= 6 && south > -80 && north < 84
    ? ofUtm(box)
    : ofDegrees(box, format === 'decimal' ? DEGREES : MINUTES, format === 'decimal')
}

function ofDegrees([west, south, east, north]: Box, steps: number[], decimal: boolean): Line[] {
  const by = step(steps, Math.min(east - west, (north - south) * 1.5))
  const out: Line[] = []
  for (const lon of between(west, east, by))
    out.push(
      line([
        [lon, south],
        [lon, north],
      ]),
      label(shownDegrees(((lon + 540) % 360) - 180, by, decimal, 'E', 'W'), 'bottom', [lon, south]),
    )
  for (const lat of between(south, north, by))
    out.push(
      line([
        [west, lat],
        [east, lat],
      ]),
      label(shownDegrees(lat, by, decimal, 'N', 'S'), 'left', [west, lat]),
    )
  return out
}

export function shownDegrees(
  value: number,
  by: number,
  decimal: boolean,
  plus: string,
  minus: string,
): string {
  const half = Math.abs(value) < 1e-9 || Math.abs(value) > 180 - 1e-9 ? '' : value < 0 ? minus : plus
  const degrees = Math.abs(value)
  if (decimal) return `${degrees.toFixed(Math.max(0, Math.ceil(-Math.log10(by) - 1e-9)))}°${half}`
  const seconds = Math.round(degrees * 3600)
  const [d, m, s] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60), seconds % 60]
  const part = (n: number) => String(n).padStart(2, '0')
  return `${d}°${by >= 1 ? '' : `${part(m)}′`}${by >= 1 / 60 ? '' : `${part(s)}″`}${half}`
}

function ofUtm([west, south, east, north]: Box): Line[] {
  const [lon, lat] = [(west + east) / 2, (south + north) / 2]
  const { zone, north: northern } = toUtm(lon, lat)
  const at = (x: number, y: number) => {
    const found = toUtm(Math.max(zone * 6 - 186, Math.min(zone * 6 - 180.000001, x)), y)
    return {
      ...found,
      northing: found.northing + (found.north === northern ? 0 : northern ? -10_000_000 : 10_000_000),
    }
  }
  const corners = [
    at(west, south),
    at(east, south),
    at(west, north),
    at(east, north),
    at(lon, south),
    at(lon, north),
  ]
  const [e0, e1] = [Math.min(...corners.map((c) => c.easting)), Math.max(...corners.map((c) => c.easting))]
  const [n0, n1] = [Math.min(...corners.map((c) => c.northing)), Math.max(...corners.map((c) => c.northing))]
  const by = step(METRES, Math.min(e1 - e0, (n1 - n0) * 1.5))
  const place = (easting: number, northing: number) => {
    const p = fromUtm({ zone, north: northern, easting, northing })
    return [p.lon, p.lat]
  }
  const PARTS = 12
  const along = (f: (share: number) => number[]) => Array.from({ length: PARTS + 1 }, (_, i) => f(i / PARTS))
  const text = (metres: number) =>
    by >= 1000 ? `${Math.round(metres / 1000)} km` : `${Math.round(metres)} m`
  const out: Line[] = []
  for (const e of between(e0, e1, by))
    out.push(
      line(along((s) => place(e, n0 + s * (n1 - n0)))),
      label(`${zone}${bandOf(lat)} ${text(e)} E`, 'bottom', [place(e, at(lon, south).northing)[0]!, south]),
    )
  for (const n of between(n0, n1, by))
    out.push(
      line(along((s) => place(e0 + s * (e1 - e0), n))),
      label(`${text(n)} N`, 'left', [west, place(at(west, lat).easting, n)[1]!]),
    )
  return out
}

const TEXT_PAINT = { 'text-color': paint.grid, 'text-halo-color': `${paint.white}D0`, 'text-halo-width': 1.8 }
const TEXT_LAYOUT = {
  'text-field': ['get', 'label'],
  'text-font': TEXT,
  'text-size': 12,
  'text-allow-overlap': true,
  'text-ignore-placement': true,
}
const STYLE = [
  {
    id: 'grid-lines',
    type: 'line',
    source: 'grid',
    filter: ['==', ['geometry-type'], 'LineString'],
    paint: { 'line-color': paint.grid, 'line-width': 1, 'line-opacity': 0.45 },
  },
  {
    id: 'grid-bottom',
    type: 'symbol',
    source: 'grid',
    filter: ['==', ['get', 'side'], 'bottom'],
    layout: { ...TEXT_LAYOUT, 'text-anchor': 'bottom', 'text-offset': [0, -3.4] },
    paint: TEXT_PAINT,
  },
  {
    id: 'grid-left',
    type: 'symbol',
    source: 'grid',
    filter: ['==', ['get', 'side'], 'left'],
    layout: { ...TEXT_LAYOUT, 'text-anchor': 'bottom-left', 'text-offset': [0.4, 0] },
    paint: TEXT_PAINT,
  },
]

export const graticule = (view: Box, format: Format): MapLayer => ({
  source: 'grid',
  layers: STYLE,
  data: { type: 'FeatureCollection', features: gridLines(view, format) },
})
