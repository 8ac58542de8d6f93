import { paint } from '../../shared/paint'
import { TEXT } from '../../shared/map/backdrop'
import type { MapLayer } from '../../shared/map/MapView'
import { db, type Sketch } from '../db'

/** Sketches and notes on the map: a person's own, on this phone alone. */

const STYLE = [
  {
    id: 'sketch-edge',
    type: 'line',
    source: 'sketches',
    filter: ['!', ['has', 'note']],
    layout: { 'line-cap': 'round', 'line-join': 'round' },
    paint: { 'line-color': paint.white, 'line-width': 7 },
  },
  {
    id: 'sketch-line',
    type: 'line',
    source: 'sketches',
    filter: ['!', ['has', 'note']],
    layout: { 'line-cap': 'round', 'line-join': 'round' },
    paint: { 'line-color': paint.sketch, 'line-width': 4 },
  },
  {
    id: 'sketch-note',
    type: 'symbol',
    source: 'sketches',
    filter: ['has', 'note'],
    layout: {
      'text-field': ['get', 'note'],
      'text-font': TEXT,
      'text-size': 14,
      'text-anchor': 'bottom',
      'text-offset': [0, -0.4],
      'text-max-width': 12,
      'text-allow-overlap': true,
    },
    paint: { 'text-color': paint.sketchDark, 'text-halo-color': paint.white, 'text-halo-width': 2 },
  },
]

export function sketchLayer(sketches: Sketch[]): MapLayer {
  return {
    source: 'sketches',
    layers: STYLE,
    data: {
      type: 'FeatureCollection',
      features: sketches.flatMap((s) => [
        ...(s.lines.length
          ? [
              {
                type: 'Feature' as const,
                properties: { id: `sketch:${s.id}` },
                geometry: { type: 'MultiLineString' as const, coordinates: s.lines },
              },
            ]
          : []),
        ...(s.note
          ? [
              {
                type: 'Feature' as const,
                properties: { id: `sketch:${s.id}`, note: s.note },
                geometry: { type: 'Point' as const, coordinates: [s.lon, s.lat] },
              },
            ]
          : []),
      ]),
    },
  }
}

export const keepSketch = (sketch: Omit<Sketch, 'id'>) => db.sketches.add(sketch)
export const dropSketch = (id: number) => db.sketches.delete(id)
