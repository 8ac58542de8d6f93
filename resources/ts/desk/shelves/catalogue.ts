import { isTextKey, t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { tidyThings } from '../queries/programmes'

export type ThingKind = Api['ThingKind']
export type Thing = Api['Thing']
export type Action =
  | 'shelf'
  | 'tag'
  | 'untag'
  | 'purpose'
  | 'unpurpose'
  | 'star'
  | 'unstar'
  | 'copy'
  | 'hand_over'
  | 'bin'
  | 'restore'

/** One action on several things at once: all of them or none. */
export const tidy = (
  action: Action,
  things: Pick<Thing, 'kind' | 'id'>[],
  using: string | number | null = null,
) =>
  tidyThings({
    action,
    things: things.map(({ kind, id }) => ({ kind, id })),
    with: using,
  })

/** Where a thing is opened at the desk. */
export function addressOf({ kind, id, programme }: Pick<Thing, 'kind' | 'id' | 'programme'>): string {
  const base = `/desk/p/${programme}`
  switch (kind) {
    case 'programme':
      return base
    case 'layer':
      return `${base}/build/${id}`
    case 'map':
      return `${base}/publish/map/${id}`
    case 'board':
      return `${base}/publish/board/${id}`
  }
}

/** What a purpose is called: ours by the catalogue of texts, the programme's own as it was written. */
export const purposeName = (purpose: string) => {
  const key = `purpose.${purpose}`
  return isTextKey(key) ? t(key) : purpose
}
