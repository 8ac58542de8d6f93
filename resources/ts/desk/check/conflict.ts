import { formatInstant, t } from '../../shared/texts'
import type { Api } from '../../shared/types'

/** Something that a phone brought and a person decides, as GET /programmes/{programme}/disputes tells it. */
export type Side = Api['Side']
export type Clash = Api['ConflictClash']
export type Conflict = Api['Conflict']

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
