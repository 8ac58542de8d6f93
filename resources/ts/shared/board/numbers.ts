import { formatDate, formatDay, formatNumber, t } from '../texts'
import type { Api } from '../types'

type Scale = { unit: string | null; decimals: number | null }

/** Where decimals are chosen all have as many, so that they stand below each other. */
const withDecimals = (value: number, n: number, fixed: boolean) =>
  formatNumber(value, `${n} ${fixed}`, { minimumFractionDigits: fixed ? n : 0, maximumFractionDigits: n })

/** Decimals that say something: three figures or so. */
const telling = (value: number) => {
  const size = Math.abs(value)
  return Number.isInteger(value) || size >= 100 ? 0 : size >= 10 ? 1 : size >= 0.1 || size === 0 ? 2 : 4
}

/** A measured number without its unit; a day as people write it. */
export function bare(value: number | string | null, scale: Scale): string {
  if (value === null) return t('tile.novalue')
  return typeof value === 'string'
    ? formatDate(value)
    : withDecimals(value, scale.decimals ?? telling(value), scale.decimals !== null)
}

/** A measured number as a tile says it. */
export const said = (value: number | string | null, scale: Scale): string =>
  value === null || typeof value === 'string' || !scale.unit
    ? bare(value, scale)
    : `${bare(value, scale)} ${scale.unit}`

/** The same where it may be held back, being of fewer records than are told. */
export const saidOr = (value: number | string | null, scale: Scale, held: number | null | false): string =>
  held ? t('tile.fewer', { n: held }) : said(value, scale)

const dayOf = (at: Date) => formatDay(at, { day: 'numeric', month: 'short' })

/** A day, week, month or year by its first day. */
export function stepName(start: string, step: Api['Step']): string {
  const at = new Date(`${start}T00:00:00Z`)
  if (step === 'year') return start.slice(0, 4)
  if (step === 'month') return formatDay(at, { month: 'short', year: 'numeric' })
  return step === 'week' ? t('tile.week', { day: dayOf(at) }) : dayOf(at)
}

/** The last day of a step. */
export function stepEnd(start: string, step: Api['Step']): string {
  const at = new Date(`${start}T00:00:00Z`)
  if (step === 'day') return start
  if (step === 'week') at.setUTCDate(at.getUTCDate() + 6)
  else if (step === 'month') at.setUTCMonth(at.getUTCMonth() + 1, 0)
  else at.setUTCFullYear(at.getUTCFullYear() + 1, 0, 0)
  return at.toISOString().slice(0, 10)
}
