import { formatInstant, t } from '../../shared/texts'
import type { Photo, Problem, RecordRow } from '../../shared/types'

/** Something that a phone brought and a person decides, as GET /programmes/{programme}/disputes tells it. */
export type Side = 'mine' | 'theirs'
export type Clash =
  | {
      key: string
      label: string | null
      stands: Side
      was: string | null
      theirs: string | null
      mine: string | null
    }
  | {
      key: '@place'
      label: null
      stands: Side
      was: GeoJSON.Geometry | null
      theirs: GeoJSON.Geometry
      mine: GeoJSON.Geometry
    }
  | {
      key: '@altitude'
      label: null
      stands: Side
      was: number | null
      theirs: number | null
      mine: number | null
    }
  | { key: '@deleted'; label: null; stands: Side; was: boolean; theirs: boolean; mine: boolean }
export type Conflict = {
  id: number
  kind: 'clash' | 'held'
  layer: number
  layer_title: string
  record: (RecordRow & { deleted: boolean }) | null
  record_id: string
  name: string | null
  does: 'add' | 'visit' | 'change' | 'move' | 'delete' | 'restore'
  by: string | null
  captured_at: string
  received_at: string
  theirs_by: string | null
  theirs_at: string | null
  geometry: GeoJSON.Geometry | null
  values: { key: string; label: string; value: string | null; was: string | null }[]
  clashes: Clash[]
  reasons: Problem[]
  photos: Photo[]
  settled_at: string | null
  settled_by: string | null
  settlement: { choose?: Record<string, Side>; take?: boolean } | null
}

/** What a clash is over, as people call it. */
export const clashLabel = (c: Clash) =>
  c.key === '@place'
    ? t('record.place')
    : c.key === '@deleted'
      ? t('decide.deletion')
      : c.key === '@altitude'
        ? t('altitude.label')
        : (c.label ?? c.key)

/** What it is about, in few words. */
export function about(d: Conflict, zone: string): string {
  return d.kind === 'held'
    ? t(`decide.does.${d.does}`, { by: d.by ?? '', at: formatInstant(d.captured_at, zone) })
    : d.clashes.map(clashLabel).join(', ')
}
