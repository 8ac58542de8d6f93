import { expect, test } from 'vitest'
import { putLayers, type LayerMap, type MapLayer } from '../../resources/ts/shared/map/putLayers'

/* A map on screen sets only what changed: cutting 20,000 records into tiles anew for each point of a trail would freeze a phone. */

/** A map that counts what is done to it. */
function counted() {
  const sources = new Map<string, { set: number; data: unknown }>()
  const layers: string[] = []
  const done = { set: 0, added: 0, removed: 0, moved: 0 }
  const map = {
    getSource: (id: string) => {
      const source = sources.get(id)
      return (
        source && {
          setData: (data: unknown) => {
            done.set++
            source.set++
            source.data = data
          },
        }
      )
    },
    addSource: (id: string, spec: { data: unknown }) => void sources.set(id, { set: 0, data: spec.data }),
    removeSource: (id: string) => void sources.delete(id),
    getLayer: (id: string) => (layers.includes(id) ? { id } : undefined),
    addLayer: (spec: { id: string }) => {
      done.added++
      layers.push(spec.id)
    },
    removeLayer: (id: string) => {
      done.removed++
      layers.splice(layers.indexOf(id), 1)
    },
    moveLayer: (id: string) => {
      done.moved++
      layers.splice(layers.indexOf(id), 1)
      layers.push(id)
    },
  }
  return { map: map as unknown as LayerMap, sources, layers, done }
}

const at = (i: number): GeoJSON.Feature => ({
  type: 'Feature',
  properties: { id: `r${i}` },
  geometry: { type: 'Point', coordinates: [i / 1000, 0] },
})
const collection = (features: GeoJSON.Feature[]): GeoJSON.FeatureCollection => ({
  type: 'FeatureCollection',
  features,
})
const layer = (source: string, data: GeoJSON.FeatureCollection, colour = '#000000'): MapLayer => ({
  source,
  data,
  // Screens make these anew each time they are drawn; what counts is what they say.
  layers: [
    { id: `${source}-points`, type: 'circle', source, paint: { 'circle-color': colour } },
    { id: `${source}-names`, type: 'symbol', source },
  ],
})

test('a trail that grows by a point a second never touches 20,000 records', () => {
  const { map, sources, done } = counted()
  const records = collection(Array.from({ length: 20_000 }, (_, i) => at(i)))
  putLayers(map, [layer('records', records), layer('trail', collection([at(0)]))])
  const before = { ...done }
  for (let second = 1; second <= 60; second++)
    putLayers(map, [
      layer('records', records),
      layer('trail', collection(Array.from({ length: second }, (_, i) => at(i)))),
    ])
  expect(sources.get('records')!.set).toBe(0)
  expect(sources.get('trail')!.set).toBe(60)
  expect(done).toEqual({ ...before, set: 60 })
})

test('nothing is done where nothing has changed', () => {
  const { map, done } = counted()
  const records = collection([at(1)])
  putLayers(map, [layer('records', records)])
  const before = { ...done }
  putLayers(map, [layer('records', records)])
  expect(done).toEqual(before)
})

test('a look that changes changes its own layer alone, and the order stays', () => {
  const { map, layers, sources, done } = counted()
  const [a, b] = [collection([at(1)]), collection([at(2)])]
  putLayers(map, [layer('a', a), layer('b', b)])
  putLayers(map, [layer('a', a, '#FF0000'), layer('b', b)])
  expect(done).toMatchObject({ set: 0, added: 5, removed: 1 })
  expect(layers).toEqual(['a-points', 'a-names', 'b-points', 'b-names'])
  expect([...sources.keys()]).toEqual(['a', 'b'])
})

test('what is gone is taken off with its data, and what is put in another order lies in it', () => {
  const { map, layers, sources } = counted()
  const [a, b] = [collection([at(1)]), collection([at(2)])]
  putLayers(map, [layer('a', a), layer('b', b)])
  putLayers(map, [layer('b', b), layer('a', a)])
  expect(layers).toEqual(['b-points', 'b-names', 'a-points', 'a-names'])
  putLayers(map, [layer('a', a)])
  expect(layers).toEqual(['a-points', 'a-names'])
  expect([...sources.keys()]).toEqual(['a'])
})
