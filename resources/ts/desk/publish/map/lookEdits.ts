import type { Look } from '../../../shared/types'

/** A look without one of the things that it may have beside its marks. */
export function without(look: Look, part: 'size' | 'gather' | 'width' | 'photos'): Look {
  const next = { ...look }
  delete next[part]
  return next
}
