import { useSyncExternalStore } from 'react'

/** What of the wall is open: all of it, or one photo. */
export type Opened = { photo: string | null } | null

/** Ids of photos: of the programme's own people, or as a link calls them. */
const WALL = /^#photos(?:=([A-Za-z0-9_-]{1,40}))?$/

export function openedBy(hash: string): Opened {
  const found = WALL.exec(hash)
  return found ? { photo: found[1] ?? null } : null
}

type State = { wall?: number } | null
/** How many steps back the map is, as far as they were made here. */
const depth = () => (history.state as State)?.wall ?? 0

/** The address says it, so that each photo can be linked to, and the way back of the browser leads back. */
export function useWallAddress() {
  const hash = useSyncExternalStore(listen, () => location.hash)
  return {
    opened: openedBy(hash),
    /** Opens it, or a photo of it; from one photo to the next there is no step back. */
    open: (photo: string | null) => {
      const from = openedBy(location.hash)
      const address = `${location.pathname}${location.search}#photos${photo === null ? '' : `=${photo}`}`
      if (photo !== null && from?.photo) history.replaceState(history.state, '', address)
      else history.pushState({ ...(history.state as object | null), wall: depth() + 1 }, '', address)
      told()
    },
    /** Back to all photos. */
    leave: () => {
      if (depth() > 1) return history.back()
      history.replaceState(history.state, '', `${location.pathname}${location.search}#photos`)
      told()
    },
    /** Back to the map. */
    close: () => {
      if (depth() > 0) return history.go(-depth())
      history.replaceState(history.state, '', location.pathname + location.search)
      told()
    },
  }
}

function listen(on: () => void): () => void {
  const ways = ['hashchange', 'popstate'] as const
  for (const way of ways) addEventListener(way, on)
  return () => {
    for (const way of ways) removeEventListener(way, on)
  }
}

/** What is put into the address is heard by nobody otherwise. */
const told = () => dispatchEvent(new HashChangeEvent('hashchange'))
