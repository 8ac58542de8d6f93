import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useState, type RefObject } from 'react'
import { sourceOf } from '../map/mapLayers'
import type { Picked } from '../map/MapView'
import type { MapLayer } from '../map/putLayers'
import type { Box as Extent, MapView } from '../types'
import { onlyClass, pickedOf } from './beside'

type Cards = { selected: Picked | null; pick: (one: Picked | null, all: Picked[]) => void }

/** Ties the table beside a map to it: what is picked, what is shown, which class both are cut to. */
export function useBeside(
  base: string,
  view: MapView | undefined,
  layers: MapLayer[],
  cards: Cards,
  map: RefObject<MapLibre | null>,
  search: string | null = null,
) {
  const [extent, setExtent] = useState<Extent | null>(null)
  const [only, setOnly] = useState<string | null>(null)
  const table = view?.beside ?? null
  const part = table ? view?.layers.find((l) => l.id === table.part) : undefined
  const cut = useMemo(
    () => (table && part ? onlyClass(layers, table.part, only) : layers),
    [layers, table, part, only],
  )
  const panel =
    table && part
      ? {
          base,
          search,
          table,
          part,
          extent,
          only,
          onOnly: setOnly,
          selected: cards.selected?.source === sourceOf(table.part) ? cards.selected.id : null,
          onPick: (row: Parameters<typeof pickedOf>[1]) => {
            const m = map.current
            const middle = m?.getCenter() ?? { lng: 0, lat: 0 }
            const picked = { ...pickedOf(table.part, row, middle), around: part.geometry !== 'point' }
            cards.pick(picked, [picked])
            if (m && row.lon !== null && row.lat !== null && !m.getBounds().contains([row.lon, row.lat]))
              m.easeTo({ center: [row.lon, row.lat] })
          },
        }
      : null
  return { panel, layers: cut, onMove: setExtent }
}
