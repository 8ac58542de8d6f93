import { round, work, type Tree, type Worked } from '../../shared/form/formula'
import { numberText } from '../../shared/map/classes'
import { t } from '../../shared/texts'
import type { PackLayer, PhoneRecord } from '../db'

const SAID_DECIMALS = 2

/**
 * What formulas of a map come to for a record, as the server says it (App\Maps\WorkedOut).
 *
 * @param zone of the programme: they may ask which day it is
 * @returns null where it cannot be worked out
 */
export function workedBy(layer: PackLayer, zone: string, now = new Date()) {
  const labels = Object.fromEntries(
    layer.design.fields
      .filter((f) => f.choices)
      .map((f) => [f.key, Object.fromEntries((f.choices ?? []).map((c) => [c.code, c.label]))]),
  )
  return (tree: unknown, record: PhoneRecord): string | null =>
    Array.isArray(tree) ? textOf(work(tree as Tree, { values: record.values, now, zone, labels })) : null
}

function textOf(value: Worked): string | null {
  if (typeof value === 'boolean') return t(value ? 'value.yes' : 'value.no')
  if (typeof value === 'number')
    return Number.isFinite(value) ? numberText(round(value, SAID_DECIMALS)) : null
  const text = Array.isArray(value) ? value.join(',') : value
  return text === '' ? null : text
}
