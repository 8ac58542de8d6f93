import { useLiveQuery } from 'dexie-react-hooks'
import type { Format } from '../shared/form/coordinates'
import { meta, setMeta } from './db'

/** How this phone writes places; kept, as people read what their maps have. */
export const useFormat = (): Format => useLiveQuery(() => meta<Format>('format')) ?? 'decimal'
export const setFormat = (format: Format) => void setMeta('format', format)
