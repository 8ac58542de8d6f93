import type { GeoJSONSource, Map as MapLibre, MapGeoJSONFeature } from 'maplibre-gl'
import type { Picked } from './picked'

/** Of more than these under one tap nobody leafs to the last. */
const MOST = 50

/**
 * A tap on gathered points goes nearer, until they part. Where they stand on one place and never do, they are to be leafed through.
 *
 * @returns those to leaf through; null where the map went nearer instead
 */
export async function openGathered(map: MapLibre, gathered: MapGeoJSONFeature): Promise<Picked[] | null> {
  const source = map.getSource<GeoJSONSource>(gathered.source)
  const id = gathered.properties.cluster_id as number
  if (!source || gathered.geometry.type !== 'Point') return null
  const center = gathered.geometry.coordinates as [number, number]
  const leaves = await source.getClusterLeaves(id, MOST, 0)
  const places = new Set(
    leaves.map((l) => l.geometry.type === 'Point' && l.geometry.coordinates.map((d) => d.toFixed(6)).join()),
  )
  if (places.size > 1) {
    const zoom = await source.getClusterExpansionZoom(id)
    map.easeTo({ center, zoom: Math.min(map.getMaxZoom(), zoom + 0.2) })
    return null
  }
  return leaves.map((leaf) => ({
    id: String(leaf.properties?.id),
    source: gathered.source,
    around: true,
    lon: center[0],
    lat: center[1],
  }))
}
