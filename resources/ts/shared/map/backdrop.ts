import type { FilterSpecification, LayerSpecification, StyleSpecification } from 'maplibre-gl'

/** A backdrop's key with its GeoJSON: an address, or the data itself where there is no signal. */
export type BackdropData = { key: string; data: string | GeoJSON.FeatureCollection }

const SEA = '#CFDDDD'
const HEAD = ['Archivo Variable']
export const TEXT = ['Atkinson Hyperlegible Next Variable']
const kind = (k: string): FilterSpecification => ['==', ['get', 'kind'], k]
const fill = (k: string, colour: string, opacity = 1): LayerSpecification => ({
  id: `cays-${k}`, type: 'fill', source: 'cays', filter: kind(k), paint: { 'fill-color': colour, 'fill-opacity': opacity, 'fill-antialias': true },
})
const line = (id: string, k: string, colour: string, width: number | [number, number, number, number], more: object = {}): LayerSpecification => ({
  id: `cays-${id}`, type: 'line', source: 'cays', filter: kind(k),
  layout: { 'line-join': 'round', 'line-cap': 'round' },
  paint: { 'line-color': colour, 'line-width': Array.isArray(width) ? ['interpolate', ['linear'], ['zoom'], ...width] : width, ...more },
})

const worldLayers: LayerSpecification[] = [
  { id: 'world-land', type: 'fill', source: 'world', filter: kind('land'), paint: { 'fill-color': '#EDE6D2' } },
  { id: 'world-coast', type: 'line', source: 'world', filter: kind('land'), paint: { 'line-color': '#B5A98A', 'line-width': 0.8 } },
  { id: 'world-border', type: 'line', source: 'world', filter: kind('border'), paint: { 'line-color': '#CFC3A6', 'line-width': 0.7, 'line-dasharray': [3, 2] } },
]

const caysLayers: LayerSpecification[] = [
  fill('shelf', '#C5D8DA'), fill('shallow', '#B9D3D3'), fill('lagoon', '#ABCDCA'),
  fill('sand', '#F3E6C0'), fill('land', '#E7E6CB'), fill('low', '#DDE0BE'), fill('hill', '#D0D8AE'), fill('high', '#C3CD9F'), fill('peak', '#B6C093'),
  line('contours', 'contour', '#A79C78', 0.6, { 'line-opacity': 0.35 }),
  line('reef', 'lagoon', '#8FB8B6', 0.7, { 'line-opacity': 0.7 }),
  line('coast', 'sand', '#8A7A58', [8, 0.7, 14, 1.6]),
  { id: 'cays-sectors', type: 'line', source: 'cays', minzoom: 11.5, filter: kind('sector'), paint: { 'line-color': '#9C6B2F', 'line-width': 1, 'line-dasharray': [2, 2], 'line-opacity': 0.75 } },
  line('path-edge', 'path', '#F7F0DC', [10, 1.6, 15, 6]),
  line('path', 'path', '#B0935A', [10, 0.8, 15, 3]),
  { id: 'cays-houses', type: 'fill', source: 'cays', minzoom: 12.5, filter: kind('house'), paint: { 'fill-color': '#8F6F55', 'fill-outline-color': '#5E4633' } },
]

const halo = { 'text-halo-color': '#FBF6E6', 'text-halo-width': 1.6 }
const labelLayers: LayerSpecification[] = [
  {
    id: 'cays-villages', type: 'symbol', source: 'cays', minzoom: 10.8, filter: kind('village'),
    layout: { 'text-field': ['get', 'name'], 'text-font': TEXT, 'text-size': 13, 'text-offset': [0, 0.9], 'symbol-sort-key': ['get', 'rank'] },
    paint: { 'text-color': '#5C5138', ...halo },
  },
  {
    id: 'cays-waters', type: 'symbol', source: 'cays', minzoom: 9.5, filter: kind('water'),
    layout: { 'text-field': ['get', 'name'], 'text-font': TEXT, 'text-size': 13, 'text-letter-spacing': 0.08 },
    paint: { 'text-color': '#466A72', 'text-halo-color': '#D5E3E3', 'text-halo-width': 1.2 },
  },
  // Last, because labels are placed from the top layer down.
  {
    id: 'cays-isles', type: 'symbol', source: 'cays', minzoom: 9, filter: kind('isle'),
    layout: { 'text-field': ['get', 'name'], 'text-font': HEAD, 'text-size': ['interpolate', ['linear'], ['zoom'], 9, ['match', ['get', 'rank'], 1, 12, 9], 13, ['match', ['get', 'rank'], 1, 21, 15]], 'symbol-sort-key': ['get', 'rank'] },
    paint: { 'text-color': '#4F4630', ...halo },
  },
]

/** The backdrop as a map style. It names no glyphs: labels are drawn with the page's own fonts. */
export function backdropStyle(backdrops: BackdropData[]): StyleSpecification {
  const has = (key: string) => backdrops.some((b) => b.key === key)
  return {
    version: 8,
    sources: Object.fromEntries(backdrops.map((b) => [b.key, { type: 'geojson', data: b.data, tolerance: 0.2, ...(b.key === 'world' ? { attribution: 'Natural Earth' } : {}) }])),
    layers: [
      { id: 'sea', type: 'background', paint: { 'background-color': SEA } },
      ...(has('world') ? worldLayers : []),
      ...(has('cays') ? caysLayers : []),
      ...(has('cays') ? labelLayers : []),
    ],
  }
}
