import { useInfiniteQuery } from '@tanstack/react-query'
import { api } from '../api'
import type { Api } from '../types'

export type WallPhoto = Api['WallPhoto']
type Page = Api['PhotoWall']
type Turn = { way: 'from' | 'after' | 'before'; photo: string } | null

/**
 * Photos of a map, forth and back from where one began.
 *
 * @param base where parts of the map are asked for
 * @param from the photo that it begins with; null: the first
 */
export function useWall(base: string, search: string | null, part: string | null, from: string | null) {
  const pages = useInfiniteQuery({
    queryKey: ['wall', base, search, part, from],
    queryFn: ({ pageParam }) => {
      const asked = new URLSearchParams({
        ...(search === null ? {} : { search }),
        ...(part === null ? {} : { part }),
        ...(pageParam === null ? {} : { [pageParam.way]: pageParam.photo }),
      }).toString()
      return api<Page>('GET', `${base}/wall${asked && `?${asked}`}`)
    },
    initialPageParam: (from === null ? null : { way: 'from', photo: from }) as Turn,
    getNextPageParam: (page): Turn | undefined => {
      const last = page.photos.at(-1)
      return page.last || !last ? undefined : { way: 'after', photo: last.id }
    },
    getPreviousPageParam: (page): Turn | undefined => {
      const first = page.photos[0]
      return page.first || !first ? undefined : { way: 'before', photo: first.id }
    },
    networkMode: 'always',
    retry: 1,
    // What one leafs through stays as it is under one's hands.
    staleTime: Infinity,
    refetchOnReconnect: false,
    // Opened once more, it shows what has come meanwhile.
    gcTime: 0,
  })
  const photos = pages.data?.pages.flatMap((p) => p.photos) ?? []
  return { ...pages, photos, count: pages.data?.pages[0]?.n ?? 0 }
}
