import type { UseQueryResult } from '@tanstack/react-query'
import { useRef } from 'react'
import type { MapView } from '../types'

/**
 * The view of a map under a search. Until its answer has come, and where none comes, the one before stands, and it is told to which
 * search that belongs: a map must not say that it shows what it does not.
 *
 * @param query asked under this search
 */
export function useSearchedView(query: UseQueryResult<MapView>, search: string | null) {
  const last = useRef<{ view: MapView; search: string | null } | null>(null)
  if (query.data) last.current = { view: query.data, search }
  const shown = last.current
  return {
    view: shown?.view,
    search: shown?.search ?? null,
    /** Why what is asked is not there, while something else is shown. */
    error: shown && shown.search !== search ? query.error : null,
  }
}
