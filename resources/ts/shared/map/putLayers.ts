import type { GeoJSONSource, LayerSpecification, Map as MapLibre } from 'maplibre-gl'

export type MapLayer = {
  source: string
  data: GeoJSON.FeatureCollection
  layers: unknown[]
  /** How the source gathers its points, where it does (PinYard\Carto\Gathering). */
  gather?: Record<string, unknown> | null
}

/** What is needed of a map to put layers on it. */
export type LayerMap = Pick<
  MapLibre,
  'getSource' | 'addSource' | 'removeSource' | 'getLayer' | 'addLayer' | 'removeLayer' | 'moveLayer'
>

type Put = { data: GeoJSON.FeatureCollection; gather: string; layers: { id: string; text: string }[] }

const onMap = new WeakMap<LayerMap, Map<string, Put>>()

/**
 * Brings layers to a map, and touches only what has changed: data that is the same object is not given again, for a map cuts it into
 * tiles anew each time; a style layer that says the same stays as it is.
 */
export function putLayers(map: LayerMap, layers: MapLayer[]) {
  const before = new Map(onMap.get(map))
  const after = new Map<string, Put>()
  const wanted = new Set(layers.map((l) => l.source))
  // How a source gathers is said once, when it is made.
  const gathers = new Map(layers.map((l) => [l.source, JSON.stringify(l.gather ?? null)]))
  for (const [source, put] of before) {
    if (wanted.has(source) && gathers.get(source) === put.gather) continue
    before.delete(source)
    for (const { id } of put.layers) if (map.getLayer(id)) map.removeLayer(id)
    if (map.getSource(source)) map.removeSource(source)
  }
  for (const layer of layers) {
    const was = before.get(layer.source)
    const source = map.getSource<GeoJSONSource>(layer.source)
    if (!source) map.addSource(layer.source, { type: 'geojson', data: layer.data, ...layer.gather })
    else if (was?.data !== layer.data) source.setData(layer.data)
    const specs = layer.layers as LayerSpecification[]
    const told = specs.map((spec) => ({ id: spec.id, text: JSON.stringify(spec) }))
    for (const { id } of was?.layers ?? [])
      if (!told.some((t) => t.id === id) && map.getLayer(id)) map.removeLayer(id)
    specs.forEach((spec, i) => {
      const same = was?.layers.some((l) => l.id === spec.id && l.text === told[i]!.text) === true
      if (same && map.getLayer(spec.id)) return
      if (map.getLayer(spec.id)) map.removeLayer(spec.id)
      map.addLayer(spec)
    })
    after.set(layer.source, { data: layer.data, gather: gathers.get(layer.source)!, layers: told })
  }
  // Their order is that of the list; where it is so already nothing is moved.
  const order = [...after.values()].flatMap((put) => put.layers.map((l) => l.id))
  const stood = [...before.values()].flatMap((put) => put.layers.map((l) => `${l.id} ${l.text}`))
  const stands = [...after.values()].flatMap((put) => put.layers.map((l) => `${l.id} ${l.text}`))
  if (stood.join('\n') !== stands.join('\n')) for (const id of order) map.moveLayer(id)
  onMap.set(map, after)
}
