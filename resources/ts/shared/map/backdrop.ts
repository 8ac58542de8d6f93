import type { LayerSpecification, StyleSpecification } from 'maplibre-gl'
import shipped from '../../../backdrops.json' with { type: 'json' }

/** A backdrop's key with its GeoJSON: an address, or the data itself where there is no signal. */
export type BackdropData = { key: string; data: string | GeoJSON.FeatureCollection }

/** What ships of a backdrop: layers of a MapLibre style over the source of its name, labels apart. */
type Shipped = {
  key: string
  attribution?: string
  layers: LayerSpecification[]
  labels: LayerSpecification[]
}

const SHIPPED = shipped as unknown as Shipped[]

/** All that ship, by their addresses. */
export const BACKDROPS: BackdropData[] = SHIPPED.map(({ key }) => ({ key, data: `/backdrop/${key}.json` }))

export const isBackdrop = (source: string) => SHIPPED.some((b) => b.key === source)

const SEA = '#CFDDDD'
export const TEXT = ['Atkinson Hyperlegible Next Variable']

/** The backdrop as a map style. It names no glyphs: labels are drawn with the page's own fonts. */
export function backdropStyle(backdrops: BackdropData[]): StyleSpecification {
  const known = SHIPPED.filter((s) => backdrops.some((b) => b.key === s.key))
  return {
    version: 8,
    sources: Object.fromEntries(
      backdrops.map(({ key, data }) => {
        const attribution = known.find((s) => s.key === key)?.attribution
        return [key, { type: 'geojson', data, tolerance: 0.2, ...(attribution ? { attribution } : {}) }]
      }),
    ),
    layers: [
      { id: 'sea', type: 'background', paint: { 'background-color': SEA } },
      ...known.flatMap((s) => s.layers),
      // Last, because labels are placed from the top layer down.
      ...known.flatMap((s) => s.labels),
    ],
  }
}
