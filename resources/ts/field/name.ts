import { shownValue } from '../shared/form/shownValue'
import type { Value } from '../shared/types'
import type { PackLayer } from './db'

/** What names a record on screens: the value of the layer's name field, a choice by its label. */
export function nameOf(layer: PackLayer, values: Record<string, unknown>): string | null {
  const field = layer.design.fields.find((f) => f.key === layer.name_field)
  const value = field && values[field.key]
  if (value === null || value === undefined || !field) return null
  return shownValue(field, value as Value)
}
