import { paint } from '../paint'
import type { MapLayer } from './putLayers'

/** How a single place is marked. */
export const SPOT_STYLE = {
  id: 'spot',
  type: 'circle',
  source: 'drawn',
  filter: ['==', ['geometry-type'], 'Point'],
  paint: {
    'circle-radius': 6,
    'circle-color': paint.kelp,
    'circle-stroke-color': paint.white,
    'circle-stroke-width': 2,
  },
}

export const spotAt = (lon: number, lat: number): MapLayer => ({
  source: 'drawn',
  layers: [SPOT_STYLE],
  data: {
    type: 'FeatureCollection',
    features: [
      { type: 'Feature', properties: { id: 'spot' }, geometry: { type: 'Point', coordinates: [lon, lat] } },
    ],
  },
})
