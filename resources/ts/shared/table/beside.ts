import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api } from '../api'
import { asking, sourceOf } from '../map/mapLayers'
import type { Picked } from '../map/MapView'
import type { MapLayer } from '../map/putLayers'
import type { Api, Box as Extent, MapTable } from '../types'

type Rows = Api['TableRows']
export type Row = Rows['rows'][number]

const PAGE = 100

/** What is asked of the table: the server looks through all records, whatever the map has drawn. */
export type Asked = {
  /** What the map shows; null: all. */
  extent: Extent | null
  sort: string
  down: boolean
  /** Only of this class of the look; '' of none; null: all. */
  class: string | null
  pages: number
}

export const first = (table: MapTable): Asked => ({
  extent: null,
  sort: table.sort,
  down: table.down,
  class: null,
  pages: 1,
})

/**
 * What a map shows, as a box of the world: maps go on beyond the antimeridian and the poles.
 *
 * @returns null where all of the world is shown
 */
export function boxOf([west, south, east, north]: Extent): Extent | null {
  if (east - west >= 360) return null
  const wrap = (lon: number) => ((((lon + 180) % 360) + 360) % 360) - 180
  return [wrap(west), Math.max(-90, south), wrap(east), Math.min(90, north)]
}

function queryOf({ extent, sort, down, class: code, pages }: Asked, pick: string | null): string {
  const query = new URLSearchParams({ sort, down: down ? '1' : '0', limit: String(pages * PAGE) })
  const box = extent && boxOf(extent)
  if (box) query.set('bbox', box.map((n) => n.toFixed(6)).join())
  if (code !== null) query.set('class', code)
  if (pick) query.set('pick', pick)
  return query.toString()
}

/**
 * The rows of the table beside a map, with the one that is picked.
 *
 * @param base the map's address in the API
 * @param search a search of the map that is asked
 * @param version of what the part draws: with another it is asked anew
 */
export function useRows(
  base: string,
  version: string,
  asked: Asked,
  picked: string | null,
  search: string | null,
) {
  const resting = { ...asked, extent: useResting(asked.extent) }
  const rows = useQuery({
    queryKey: ['map-table', base, version, queryOf(resting, null)],
    queryFn: () => api<Rows>('GET', `${base}/table?${queryOf(resting, null)}${asking(search, '&')}`),
    placeholderData: (before: Rows | undefined) => before,
    // Columns may say what no mark says.
    refetchInterval: 60_000,
    networkMode: 'always',
    refetchOnReconnect: true,
    retry: 1,
  })
  // What was told last stays while something else cannot be had.
  const last = useRef<Rows | undefined>(undefined)
  if (rows.data) last.current = rows.data
  const data = rows.data ?? last.current
  // Picked on the map, it may stand far down.
  const missing = picked !== null && data !== undefined && !data.rows.some((r) => r.id === picked)
  const one = useQuery({
    queryKey: ['map-table', base, version, queryOf({ ...resting, pages: 1 }, picked)],
    queryFn: () =>
      api<Rows>('GET', `${base}/table?${queryOf({ ...resting, pages: 1 }, picked)}${asking(search, '&')}`),
    enabled: missing,
    retry: 1,
  })
  return { data, error: rows.error, picked: missing ? (one.data?.picked ?? null) : null }
}

/** While the map is moved nothing is asked. */
function useResting(extent: Extent | null): Extent | null {
  const [resting, setResting] = useState(extent)
  useEffect(() => {
    const later = setTimeout(() => setResting(extent), 250)
    return () => clearTimeout(later)
  }, [extent])
  return extent && (resting ?? extent)
}

/** A row as the map would have it picked. */
export const pickedOf = (part: string, row: Row, middle: { lng: number; lat: number }): Picked => ({
  id: row.id,
  source: sourceOf(part),
  // Of a record whose place is not told the card stands where one looks.
  lon: row.lon ?? middle.lng,
  lat: row.lat ?? middle.lat,
})

/** The layers of a map with one part of it cut to a class of its look; '' are those of none. */
export const onlyClass = (layers: MapLayer[], part: string, code: string | null): MapLayer[] =>
  code === null
    ? layers
    : layers.map((layer) =>
        layer.source === sourceOf(part)
          ? {
              ...layer,
              layers: (layer.layers as { filter?: unknown }[]).map((spec) => {
                // All shades are one line of the legend.
                const only =
                  code === 'shades' ? ['has', 'class'] : ['==', ['coalesce', ['get', 'class'], ''], code]
                return { ...spec, filter: spec.filter ? ['all', spec.filter, only] : only }
              }),
            }
          : layer,
      )
