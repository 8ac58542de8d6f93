import { setMeta } from './db'
import { useMeta } from './phoneState'

/** Size of the texts on this phone: all sizes follow the page's own. */
export type TextSize = 'usual' | 'big'
export const useTextSize = (): TextSize => useMeta<TextSize>('text') ?? 'usual'
export const setTextSize = (size: TextSize) => void setMeta('text', size)

/** Pixels of one rem. */
export const PAGE_SIZE: Record<TextSize, number> = { usual: 16, big: 20 }
