import type { Format } from '../shared/form/coordinates'
import { setMeta } from './db'
import { useMeta } from './phoneState'

/** How this phone writes places; kept, as people read what their maps have. */
export const useFormat = (): Format => useMeta<Format>('format') ?? 'decimal'
export const setFormat = (format: Format) => void setMeta('format', format)
