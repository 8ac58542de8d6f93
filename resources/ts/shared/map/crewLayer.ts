import { paint } from '../paint'
import { TEXT } from './backdrop'
import type { MapLayer } from './putLayers'

/** The source that crews are drawn of. */
export const CREWS = 'crews'

const PLACES = [
  {
    id: 'crew-spot',
    type: 'circle',
    source: 'crews',
    paint: {
      'circle-radius': 8,
      'circle-color': paint.buoy,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 2,
    },
  },
  {
    id: 'crew-name',
    type: 'symbol',
    source: 'crews',
    layout: {
      'text-field': ['get', 'name'],
      'text-font': TEXT,
      'text-size': 13,
      'text-offset': [0, 1.2],
      'text-anchor': 'top',
    },
    paint: { 'text-color': paint.ink, 'text-halo-color': paint.sheet, 'text-halo-width': 1.5 },
  },
]

/** Where crews are, each with its name. */
export const crewLayer = (crews: { key: string; name: string; lon: number; lat: number }[]): MapLayer => ({
  source: CREWS,
  layers: PLACES,
  data: {
    type: 'FeatureCollection',
    features: crews.map((c) => ({
      type: 'Feature',
      properties: { id: c.key, name: c.name },
      geometry: { type: 'Point', coordinates: [c.lon, c.lat] },
    })),
  },
})
