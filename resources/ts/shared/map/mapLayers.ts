import { useQueries } from '@tanstack/react-query'
import { useMemo, useRef } from 'react'
import { apiNamed } from '../api'
import type { MapView } from '../types'
import type { MapLayer } from './putLayers'

type Part = MapView['layers'][number]

/** How a search is asked for in an address. */
export const asking = (search: string | null, after: '?' | '&') =>
  search === null ? '' : `${after}search=${encodeURIComponent(search)}`

/** The name of a part's source in the map's style (App\Maps\LayerPage). */
export const sourceOf = (part: string) => `on-${part}`
/** Which part a source draws; null for one that draws none. */
export const partOf = (source: string) => (source.startsWith('on-') ? source.slice(3) : null)

/**
 * What the parts of a map draw, the lowest first. Each is fetched by itself under a version of its own, and not again while that
 * stays; until a new version has come, the one before it is shown.
 *
 * @param base the map's address in the API
 * @param hidden parts that are switched off: they are not fetched
 * @param search a search of the map that is asked
 * @param more what else is asked, as the server is
 */
export function useMapLayers(
  base: string,
  parts: Part[] | undefined,
  hidden: ReadonlySet<string>,
  search: string | null = null,
  more = '',
): { layers: MapLayer[]; error: Error | null } {
  const shown = useMemo(() => parts?.filter((p) => !hidden.has(p.id)) ?? [], [parts, hidden])
  const { data, error } = useQueries({
    queries: shown.map((part) => ({
      queryKey: ['map-features', base, part.id, part.version],
      queryFn: () =>
        apiNamed<GeoJSON.FeatureCollection>(
          `${base}/layers/${part.id}/features.geojson?v=${part.version}${asking(search, '&')}${more && `&${more}`}`,
        ),
      staleTime: Infinity,
      // Without a network it fails and says so; when it is back it is asked for again.
      networkMode: 'always' as const,
      refetchOnReconnect: true,
      retry: 1,
      gcTime: 120_000,
    })),
    combine: together,
  })
  const before = useRef(new Map<string, GeoJSON.FeatureCollection>())
  const layers = useMemo(() => {
    const now = new Map<string, GeoJSON.FeatureCollection>()
    const drawn = shown.flatMap((part, i) => {
      const features = data[i] ?? before.current.get(part.id)
      if (!features) return []
      now.set(part.id, features)
      return [{ source: sourceOf(part.id), data: features, layers: part.style, gather: part.gather }]
    })
    before.current = now
    return drawn.reverse()
  }, [shown, data])
  return { layers, error }
}

const together = (results: { data: GeoJSON.FeatureCollection | undefined; error: Error | null }[]) => ({
  data: results.map((r) => r.data),
  error: results.find((r) => r.error)?.error ?? null,
})
