import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { layerOf, layersOf } from '../queries/layers'
import { recordPageOf } from '../queries/records'
import { FIRST, turned, type ListPage } from './listPage'

/** Which records are listed: of which layer and slice, only those to check or all, which page; first as the address says. */
export function useListed(programme: number) {
  const [search] = useSearchParams()
  const wanted = Number(search.get('layer')) || null
  const within = Number(search.get('slice')) || null
  const waiting = search.get('to_check') !== null
  const [chosen, setChosen] = useState<number | null>(wanted)
  const [slice, setSlice] = useState<number | null>(within)
  const [onlyWaiting, setOnly] = useState(waiting)
  // Each page by the end of the one before it, so that none shows twice what new records pushed down.
  const [page, setPage] = useState<ListPage>(FIRST)
  const [ticked, setTicked] = useState<string[]>([])
  const layers = useQuery(layersOf(programme))
  // The programme's main layer; visits are looked at beside what was visited.
  const id =
    chosen ??
    [...(layers.data ?? [])].sort(
      (a, b) => Number(a.visits_of !== null) - Number(b.visits_of !== null) || b.records - a.records,
    )[0]?.id
  const layer = useQuery(layerOf(id))
  // Whoever accepts nothing has no list of what waits, whatever the address says.
  const only = onlyWaiting && layer.data?.rights.design !== false
  const records = useQuery({
    ...recordPageOf(id, page, slice, only),
    refetchInterval: 10_000,
    placeholderData: (old, before) => (before?.queryKey[1] === id ? old : undefined),
  })
  const asked = search.get('record')
  useEffect(() => {
    if (!wanted) return
    setChosen(wanted)
    // A tile of a board leads to the very records that it is of.
    setSlice(within)
    setOnly(waiting)
  }, [wanted, within, waiting, asked])

  return {
    layers,
    layer,
    id,
    slice,
    only,
    page,
    records,
    ticked,
    setTicked,
    /** A record that the address names. */ asked,
    choose: (next: number) => {
      setChosen(next)
      setSlice(null)
      setPage(FIRST)
      setTicked([])
    },
    showSlice: (next: number | null) => {
      setSlice(next)
      setPage(FIRST)
    },
    showOnly: (next: boolean) => {
      setOnly(next)
      setPage(FIRST)
      setTicked([])
    },
    turn: (number: number) => setPage(turned(page, number, records.data?.next ?? null)),
  }
}
