import { paint } from '../paint'
/** The line or area that is being drawn, as a layer of the map. */
export const DRAWN_STYLE = [
  {
    id: 'drawn-area',
    type: 'fill',
    source: 'drawn',
    filter: ['==', ['geometry-type'], 'Polygon'],
    paint: { 'fill-color': paint.buoy, 'fill-opacity': 0.18 },
  },
  {
    id: 'drawn-line',
    type: 'line',
    source: 'drawn',
    layout: { 'line-join': 'round', 'line-cap': 'round' },
    paint: { 'line-color': paint.buoy, 'line-width': 3 },
  },
]
