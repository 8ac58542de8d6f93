import { paint } from '../../shared/paint'
import { classOf, sizeOf } from '../../shared/map/classes'
import type { MapLayer } from '../../shared/map/MapView'
import type { Viewpoint } from '../../shared/types'
import type { PackLayer, PackMap, PhoneRecord, TrailPoint } from '../db'
import { metres } from '../position'

/** Viewpoints of several maps; the same place under the same name once. */
export const placesOf = (maps: PackMap[]): Viewpoint[] => [
  ...new Map(maps.flatMap((m) => m.viewpoints).map((v) => [`${v.title} ${v.extent.join()}`, v])).values(),
]

const WAY_STYLE = [
  {
    id: 'way-line',
    type: 'line',
    source: 'way',
    paint: { 'line-color': paint.tide, 'line-width': 4, 'line-opacity': 0.8 },
    layout: { 'line-cap': 'round', 'line-join': 'round' },
  },
]

/** Where this phone has been today. */
export function wayOf(points: TrailPoint[]): MapLayer[] {
  return points.length < 2
    ? []
    : [
        {
          source: 'way',
          layers: WAY_STYLE,
          data: {
            type: 'FeatureCollection',
            features: [
              {
                type: 'Feature',
                properties: {},
                geometry: { type: 'LineString', coordinates: points.map((p) => [p.lon, p.lat]) },
              },
            ],
          },
        },
      ]
}

type Drawing = {
  source?: string
  label?: ((record: PhoneRecord) => string | undefined) | undefined
  /** Where it is not told by the record's own values. */
  classOf?: ((record: PhoneRecord) => string | undefined) | undefined
  /** Which photo stands for a record. */
  photoOf?: ((record: PhoneRecord) => string | undefined) | undefined
  /** How its source gathers points, where it does. */
  gather?: Record<string, unknown> | null
}

/** The records of a layer by its look. */
export function drawn(layer: PackLayer, records: PhoneRecord[], how: Drawing = {}): MapLayer {
  return {
    source: how.source ?? `layer-${layer.id}`,
    layers: layer.style,
    gather: how.gather ?? null,
    data: {
      type: 'FeatureCollection',
      features: records
        .filter((r) => r.layer === layer.id)
        .map((r) => {
          const code = how.classOf ? how.classOf(r) : classOf(layer.look, r.values)
          const label = how.label?.(r)
          const size = sizeOf(layer.look, r.values, layer.design.geometry)
          const photo = how.photoOf?.(r)
          const adds = layer.look.gather?.field ? r.values[layer.look.gather.field] : undefined
          return {
            type: 'Feature',
            geometry: r.shape ?? { type: 'Point', coordinates: [r.lon, r.lat] },
            properties: {
              id: r.id,
              ...(code === undefined ? {} : { class: code }),
              ...(label === undefined ? {} : { label }),
              ...(size === undefined ? {} : { size }),
              ...(photo === undefined ? {} : { photo }),
              ...(typeof adds === 'number' ? { adds } : {}),
            },
          }
        }),
    },
  }
}

export function nearestOf(place: { lon: number; lat: number }, records: PhoneRecord[]): PhoneRecord | null {
  let best: PhoneRecord | null = null
  let least = Infinity
  for (const r of records) {
    const d = metres(place, r)
    if (d < least) {
      least = d
      best = r
    }
  }
  return best
}
