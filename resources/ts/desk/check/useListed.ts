import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Programme } from '../../shared/types'
import { layerOf, layersOf } from '../queries/layers'
import { outingsOf } from '../queries/plan'
import { recordPageOf } from '../queries/records'
import { FIRST, turned, type ListPage } from './listPage'
import { ALL, askedFor, filterOf, type Narrowing } from './narrowing'

/** Which records are listed: of which layer, narrowed by what, which page; first as the address says. */
export function useListed(programme: Pick<Programme, 'id' | 'time_zone'>) {
  const [search] = useSearchParams()
  const wanted = Number(search.get('layer')) || null
  const within = Number(search.get('slice')) || null
  const list =
    search.get('to_check') !== null ? 'waiting' : search.get('flagged') !== null ? 'flagged' : 'all'
  const [chosen, setChosen] = useState<number | null>(wanted)
  const [narrowing, setNarrowing] = useState<Narrowing>({ ...ALL, slice: within, list })
  // Each page by the end of the one before it, so that none shows twice what new records pushed down.
  const [page, setPage] = useState<ListPage>(FIRST)
  const [ticked, setTicked] = useState<string[]>([])
  const layers = useQuery(layersOf(programme.id))
  // The programme's main layer; visits are looked at beside what was visited.
  const id =
    chosen ??
    [...(layers.data ?? [])].sort(
      (a, b) => Number(a.visits_of !== null) - Number(b.visits_of !== null) || b.records - a.records,
    )[0]?.id
  const layer = useQuery(layerOf(id))
  // Whoever accepts nothing has no list of what waits, whatever the address says.
  const mayCheck = layer.data?.rights.design !== false
  const outings = useQuery({ ...outingsOf(programme.id), enabled: mayCheck && layer.data !== undefined })
  const shown = useMemo(
    (): Narrowing => (mayCheck ? narrowing : { ...ALL, slice: narrowing.slice }),
    [mayCheck, narrowing],
  )
  const filter = filterOf(shown, outings.data ?? [], programme.time_zone, new Date())
  const records = useQuery({
    ...recordPageOf(id, page, askedFor(shown, filter)),
    refetchInterval: 10_000,
    placeholderData: (old, before) => (before?.queryKey[1] === id ? old : undefined),
  })
  const asked = search.get('record')
  useEffect(() => {
    if (!wanted) return
    setChosen(wanted)
    // A tile of a board leads to the very records that it is of.
    setNarrowing({ ...ALL, slice: within, list })
  }, [wanted, within, list, asked])

  return {
    layers,
    layer,
    id,
    narrowing: shown,
    /** What it is narrowed by beside its slice, as the server reads it. */ filter,
    outings: outings.data ?? [],
    page,
    records,
    ticked,
    setTicked,
    /** A record that the address names. */ asked,
    choose: (next: number) => {
      setChosen(next)
      // Days and crews go on to the next layer; its slices are its own.
      setNarrowing((was) => ({ ...was, slice: null, reason: 'any' }))
      setPage(FIRST)
      setTicked([])
    },
    narrow: (by: Partial<Narrowing>) => {
      setNarrowing((was) => ({ ...was, ...by }))
      setPage(FIRST)
      // Of another list, what is ticked is out of sight; a slice of the same leaves it.
      if (by.slice === undefined) setTicked([])
    },
    turn: (number: number) => setPage(turned(page, number, records.data?.next ?? null)),
  }
}
