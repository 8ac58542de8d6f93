import { decimal, t } from '../shared/texts'
import type { Field, Value } from '../shared/types'
import type { PackLayer } from './db'

/**
 * What names a record on screens: the value of the layer's name field, as the server gives it
 * (App\Layers\StoredRow::name; tests/vectors/names.json), so that a record has one name wherever it is read.
 */
export function nameOf(layer: PackLayer, values: Record<string, unknown>): string | null {
  const field = layer.design.fields.find((f) => f.key === layer.name_field)
  return field ? nameBy(field, values[field.key] as Value | undefined) : null
}

export function nameBy(field: Field, value: Value | undefined): string | null {
  if (value === null || value === undefined) return null
  if (Array.isArray(value)) return value.map((code) => labelOf(field, code)).join(', ')
  if (typeof value === 'boolean') return t(value ? 'value.yes' : 'value.no')
  if (typeof value === 'number') return plainNumber(field, value) + (field.unit ? ` ${field.unit}` : '')
  return field.kind === 'one_choice' ? labelOf(field, value) : value
}

/** Without grouping and without zeros at its end. */
function plainNumber(field: Field, value: number): string {
  if (Number.isInteger(value)) return String(value)
  const text = value.toFixed(field.decimals ?? 6)
  const short = text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text
  return short === '-0' ? '0' : decimal(short)
}

const labelOf = (field: Field, code: string) => field.choices?.find((c) => c.code === code)?.label ?? code
