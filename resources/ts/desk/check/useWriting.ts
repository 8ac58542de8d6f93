import { useMemo, useState } from 'react'
import type { MapLayer } from '../../shared/map/MapView'
import type { Box as Extent, Layer, RecordRow } from '../../shared/types'
import { geometryOf, isPoint, NOWHERE, placingOf, spotOf, type Placing } from './placing'
import { extentOf, shownAt, type Spot } from './whereShown'

/** What a new record is a visit of, and the layer that it goes to. */
export type Visiting = { layer: Layer; of: RecordRow }
export type Writing = ReturnType<typeof useWriting>

/** A record that is being made or changed: of which layer, and where; and how the map beside it shows that. */
export function useWriting(
  begun: 'new' | null,
  layer: Layer | undefined,
  selected: RecordRow | null,
  area: Readonly<Extent>,
) {
  const [editing, setEditing] = useState<'new' | 'change' | null>(begun)
  const [placing, setPlacing] = useState<Placing>(NOWHERE)
  const [centre, setCentre] = useState<Spot | null>(null)
  const [visiting, setVisiting] = useState<Visiting | null>(null)
  const into = visiting?.layer ?? layer
  const kind = editing ? (into?.design.geometry ?? 'point') : (layer?.design.geometry ?? 'point')
  const shown: MapLayer[] = useMemo(() => {
    const geometry = editing
      ? geometryOf(kind, placing)
      : selected
        ? (selected.geometry ?? geometryOf('point', placingOf(selected)))
        : null
    return geometry ? [shownAt(geometry)] : []
  }, [editing, kind, placing, selected])
  const extent =
    extentOf(
      editing
        ? (centre ?? (selected && spotOf(selected)) ?? (visiting ? spotOf(visiting.of) : null))
        : selected && spotOf(selected),
      editing && centre ? null : selected,
    ) ?? area

  return {
    editing,
    /** The layer that is written to. */ into,
    placing,
    visiting,
    map: {
      extent: [...extent] as Extent,
      layers: shown,
      corners:
        editing && !isPoint(kind)
          ? {
              kind,
              places: placing.corners,
              onChange: (places: Placing['corners']) => setPlacing((p) => ({ ...p, corners: places })),
            }
          : null,
      ...(editing && {
        onTap: (spot: Spot) =>
          setPlacing((p) =>
            isPoint(kind) ? { ...p, spot } : { ...p, corners: [...p.corners, [spot.lon, spot.lat]] },
          ),
      }),
    },
    begin: (what: 'new' | 'change', at: Placing, of: Visiting | null = null) => {
      setVisiting(of)
      setPlacing(at)
      setCentre(null)
      setEditing(what)
    },
    /** A place that was typed is looked at; one that was tapped is seen already. */
    place: (at: Placing, typed: boolean) => {
      setPlacing(at)
      const last = at.corners.at(-1)
      if (typed) setCentre(isPoint(kind) ? at.spot : last ? { lon: last[0], lat: last[1] } : null)
    },
    end: () => {
      setEditing(null)
      setVisiting(null)
    },
  }
}
