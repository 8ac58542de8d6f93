import { decimal, formatDate, formatInstant, formatNumber, t } from '../texts'
import type { Field, FieldKind, Value } from '../types'

/**
 * A value as people read it: choices by label, numbers with their unit, dates in words; empty where there is
 * none.
 */
export function shownValue(
  field: Field,
  value: Value | undefined,
  zone?: string,
  kind: FieldKind = field.kind,
): string {
  if (value === null || value === undefined || value === '') return ''
  if (Array.isArray(value)) return value.map((code) => labelOf(field, code)).join(', ')
  if (typeof value === 'boolean') return t(value ? 'value.yes' : 'value.no')
  if (typeof value === 'number') {
    const text =
      field.decimals === undefined
        ? formatNumber(Math.round(value * 1e6) / 1e6)
        : decimal(value.toFixed(field.decimals))
    return field.unit ? `${text} ${field.unit}` : text
  }
  if (kind === 'one_choice') return labelOf(field, value)
  if (kind === 'date' || (kind === 'calculated' && /^\d{4}-\d\d-\d\d$/.test(value))) return formatDate(value)
  if (kind === 'date_time' || (kind === 'calculated' && /^\d{4}-\d\d-\d\dT[\d:]{8}Z$/.test(value)))
    return formatInstant(value, zone)
  return value
}

const labelOf = (field: Field, code: string) => field.choices?.find((c) => c.code === code)?.label ?? code
