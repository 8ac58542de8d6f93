import type { Map as MapLibre } from 'maplibre-gl'
import type { Box } from '../types'

/** South-west and north-east corner; what crosses the antimeridian goes on eastward beyond 180 degrees. */
export const corners = (e: Box): [[number, number], [number, number]] => [
  [e[0], e[1]],
  [e[2] < e[0] ? e[2] + 360 : e[2], e[3]],
]

/** Brings a map to a place and zoom that were saved. */
export const goTo = (map: MapLibre, extent: Box): unknown =>
  map.fitBounds(corners(extent), { padding: 0, maxZoom: 19, duration: 400 })
