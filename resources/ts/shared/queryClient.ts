import {
  QueryClient,
  type InvalidateOptions,
  type InvalidateQueryFilters,
  type QueryKey,
} from '@tanstack/react-query'
import { ApiError, lastChanged } from './api'

/**
 * The store of what the server said. What is asked for the first time while something is changed may be answered as it was
 * before; the library would take that answer for the new one, so it is asked anew.
 */
class Store extends QueryClient {
  override async invalidateQueries<K extends QueryKey = QueryKey>(
    filters?: InvalidateQueryFilters<K>,
    options?: InvalidateOptions,
  ): Promise<void> {
    const begun = this.getQueryCache()
      .findAll(filters as InvalidateQueryFilters)
      .filter((q) => q.state.data === undefined && q.state.fetchStatus === 'fetching' && q.isActive())
    await Promise.all(begun.map((q) => q.cancel({ revert: true, silent: true })))
    await super.invalidateQueries(filters, options)
  }
}

/** For so long (ms) an answer is shown again without asking. */
const FRESH = 5_000

export const newStore = (): QueryClient =>
  new Store({
    defaultOptions: {
      queries: {
        retry: (n, e) => n < 2 && !(e instanceof ApiError && e.status > 0),
        // Whoever comes back to a page quicker than that after changing something elsewhere is to see it there.
        staleTime: (query) => (query.state.dataUpdatedAt <= lastChanged() ? 0 : FRESH),
      },
    },
  })
