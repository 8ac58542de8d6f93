import { useQuery, type UseQueryOptions } from '@tanstack/react-query'
import { useCallback, useState } from 'react'
import type { CardView } from '../types'
import { partOf } from './mapLayers'
import type { Picked } from './MapView'

/** The records under one tap, leafed through, with the card of the one that is open. */
export function usePickedCards<K extends readonly unknown[]>(
  ask: (part: string, record: string) => UseQueryOptions<CardView, Error, CardView, K>,
) {
  const [under, setUnder] = useState<Picked[]>([])
  const [at, setAt] = useState(0)
  const picked = under[at] ?? null
  const part = picked?.source ? partOf(picked.source) : null
  const card = useQuery({
    ...ask(part ?? '', picked?.id ?? ''),
    enabled: picked !== null && part !== null,
    // A tap is answered, if only by why there is no card.
    networkMode: 'always',
    refetchOnReconnect: true,
    retry: 1,
  })
  const pick = useCallback((_: Picked | null, all: Picked[]) => {
    setUnder(all.filter((p) => p.source && partOf(p.source) !== null))
    setAt(0)
  }, [])
  return {
    pick,
    selected: picked,
    card: picked && card.data?.id === picked.id ? card.data : null,
    error: picked ? card.error : null,
    /** Which of how many; null where there is but one. */
    place: under.length > 1 ? { n: at + 1, of: under.length } : null,
    next: () => setAt((n) => (n + 1) % under.length),
  }
}
