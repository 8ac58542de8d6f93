import type { BackdropData } from '../shared/map/backdrop'

/** The backdrops that ship with the application, by address. */
export const BACKDROPS: BackdropData[] = [
  { key: 'world', data: '/backdrop/world.json' },
  { key: 'cays', data: '/backdrop/cays.json' },
]
