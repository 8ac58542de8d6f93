import { formatInstant, t } from '../../shared/texts'
import { cornersOf } from '../../shared/form/geodesic'
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

/** What a side says about something, or what stood there before either. */
export function sideInWords(c: Clash, side: 'was' | Side): string {
  const value = c[side]
  if (c.key === '@deleted') return t(value === true ? 'decide.deleted' : 'decide.kept')
  if (value === null || value === undefined) return '–'
  if (typeof value !== 'object') return c.key === '@altitude' ? `${value} m` : String(value)
  const [lon, lat] = value.type === 'Point' ? value.coordinates : (cornersOf(value)[0] ?? [])
  return lon === undefined || lat === undefined ? '–' : `${lat.toFixed(5)}, ${lon.toFixed(5)}`
}

/** A quarter of an hour between capture and arrival says that there was no signal. */
export const isLate = (d: Conflict) =>
  new Date(d.received_at).getTime() - new Date(d.captured_at).getTime() > 900_000
