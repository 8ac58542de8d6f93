import type { Picked } from '../../shared/form/files'
import type { RecordRow, Values } from '../../shared/types'
import type { Placing } from './placing'

/** A record that was begun at the desk and not saved. */
export type RecordDraft = {
  layer: number
  /** As it was when the change was begun; null for a new one. */
  record: RecordRow | null
  visited: RecordRow | null
  values: Values
  confirmed: Values
  altitude: number | null
  placing: Placing
}

export const draftsUnder = (layer: number) => `record-${layer}-`

export const draftName = (
  under: number,
  layer: number,
  record: { id: string } | null,
  visited: { id: string } | null,
) => `${draftsUnder(under)}${layer}-${record?.id ?? 'new'}${visited ? `-${visited.id}` : ''}`

/** Files of drafts, by their names, as long as this page lives. */
export const pickedFiles = new Map<string, Picked[]>()
