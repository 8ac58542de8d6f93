import { useLiveQuery } from 'dexie-react-hooks'
import { liesIn, measure } from '../shared/form/geodesic'
import { db, type PhoneRecord } from './db'

type Lookup = (title: string, lon: number, lat: number) => Record<string, unknown> | null

/** In which areas a place lies, from the layers that this phone carries; of several, the smallest. */
export function useAreas(): Lookup | undefined {
  return useLiveQuery(async () => {
    const layers = (await db.packs.toArray())
      .flatMap((p) => p.layers)
      .filter((l) => l.design.geometry === 'area')
    const byTitle = new Map<string, PhoneRecord[]>()
    for (const layer of layers) {
      const areas = (await db.records.where('layer').equals(layer.id).toArray()).filter(
        // Cells that stand for an area are not where it is.
        (r) => !r.blurred && (r.shape?.type === 'Polygon' || r.shape?.type === 'MultiPolygon'),
      )
      byTitle.set(
        layer.title,
        areas
          .map((r) => ({ r, size: measure(r.shape).area ?? 0 }))
          .sort((a, b) => a.size - b.size)
          .map(({ r }) => r),
      )
    }
    const lookup: Lookup = (title, lon, lat) =>
      byTitle.get(title)?.find((r) => liesIn(r.shape as GeoJSON.Polygon | GeoJSON.MultiPolygon, lon, lat))
        ?.values ?? null
    return { lookup }
  })?.lookup
}
