import type { LayerSpecification, StyleSpecification } from 'maplibre-gl'
import { paint } from '../paint'
import type { Api, Backdrop, Box } from '../types'

/** How a backdrop is drawn. */
export type BackdropStyle = Api['BackdropStyle']

/** A backdrop with its GeoJSON: an address, or the data itself where there is no signal. */
export type BackdropData = {
  key: string
  /** As it came, or read already, as an older app kept it. */ data: string | Blob | GeoJSON.FeatureCollection
  /** Absent on phones that took it with an older app; then it is drawn plainly. */ style?: BackdropStyle
}

/** A backdrop as it is on the server. */
export const served = ({ key, address, style }: Backdrop): BackdropData => ({ key, data: address, style })

const SEA = paint.sea
const LAND = paint.land
const EDGE = paint.shore
export const TEXT = ['Atkinson Hyperlegible Next Variable']

/** Areas in one colour and lines in another: what a backdrop is like that does not say how it is drawn. */
const plain = (key: string): Pick<BackdropStyle, 'layers' | 'labels'> => ({
  layers: [
    {
      id: `${key}-areas`,
      type: 'fill',
      source: key,
      filter: ['==', ['geometry-type'], 'Polygon'],
      paint: { 'fill-color': LAND },
    },
    { id: `${key}-lines`, type: 'line', source: key, paint: { 'line-color': EDGE, 'line-width': 0.8 } },
  ],
  labels: [],
})

/** Sources are told as a piece of a page; those of a backdrop are words. */
const words = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;')

/** A layer of a backdrop is drawn at most where all of its backdrop is. */
const within = (zoom: BackdropStyle['zoom']) => (layer: LayerSpecification) =>
  zoom === null
    ? layer
    : {
        ...layer,
        minzoom: Math.max(layer.minzoom ?? 0, zoom[0] ?? 0),
        maxzoom: Math.min(layer.maxzoom ?? 24, zoom[1] ?? 24),
      }

/** A box across the antimeridian is two. */
const parts = ([west, south, east, north]: Readonly<Box>): Box[] =>
  west <= east
    ? [[west, south, east, north]]
    : [
        [west, south, 180, north],
        [-180, south, east, north],
      ]

/** Whether a backdrop shows something of an area; the server asks the same of maps and packs. */
export const isOf = ({ style }: BackdropData, area: Readonly<Box>) => {
  const box = style?.box
  return (
    !box ||
    parts(area).some((a) => parts(box).some((b) => a[0] < b[2] && a[2] > b[0] && a[1] < b[3] && a[3] > b[1]))
  )
}

/** How much of the earth it is of, in square degrees. */
const reach = ({ style }: BackdropData) => {
  const [west, south, east, north] = style?.box ?? [-180, -90, 180, 90]
  return (west <= east ? east - west : 360 + east - west) * (north - south)
}

/**
 * Backdrops with addresses in place of what was kept as it came: the map's worker reads it from there, and the page,
 * which would be busy with it for the first second on a phone, does not touch it.
 *
 * @returns them, and a way to say that the map is gone
 */
export function addressed(backdrops: BackdropData[]): [BackdropData[], () => void] {
  const made: string[] = []
  const all = backdrops.map((backdrop) => {
    if (!(backdrop.data instanceof Blob)) return backdrop
    const data = URL.createObjectURL(backdrop.data)
    made.push(data)
    return { ...backdrop, data }
  })
  return [all, () => made.forEach((address) => URL.revokeObjectURL(address))]
}

/** The backdrops, {@link addressed}, as a map style. It names no glyphs: labels are drawn with the page's own fonts. */
export function backdropStyle(backdrops: BackdropData[]): StyleSpecification {
  // The widest lies under the others, in whatever order a phone keeps them.
  const stacked = backdrops.toSorted((a, b) => reach(b) - reach(a))
  const drawn = (part: 'layers' | 'labels') =>
    stacked.flatMap(({ key, style }) =>
      ((style ?? plain(key))[part] as LayerSpecification[]).map(within(style?.zoom ?? null)),
    )
  return {
    version: 8,
    sources: Object.fromEntries(
      backdrops.map(({ key, data, style }) => [
        key,
        {
          type: 'geojson',
          data: data as string | GeoJSON.FeatureCollection,
          tolerance: 0.2,
          ...(style?.attribution ? { attribution: words(style.attribution) } : {}),
        },
      ]),
    ),
    layers: [
      { id: 'sea', type: 'background', paint: { 'background-color': SEA } },
      ...drawn('layers'),
      // Last, because labels are placed from the top layer down.
      ...drawn('labels'),
    ],
  }
}
