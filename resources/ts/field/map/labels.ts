import { round, work, type Tree, type Worked } from '../../shared/form/formula'
import { numberText } from '../../shared/map/classes'
import { t } from '../../shared/texts'
import type { MapLabel } from '../../shared/types'
import type { PackLayer, PhoneRecord } from '../db'
import { nameBy } from '../name'

const SAID_DECIMALS = 2

/**
 * What stands beside each record, as the server puts it together (PinYard\Carto\Label); undefined where it has none of the values.
 *
 * @param zone of the programme: formulas may ask which day it is
 * @param tallyOf what colours an area, where that is so
 */
export function labelsOf(
  label: MapLabel,
  layer: PackLayer,
  zone: string,
  tallyOf?: (record: PhoneRecord) => string | null,
): (record: PhoneRecord) => string | undefined {
  const fields = new Map(layer.design.fields.map((f) => [f.key, f]))
  const labels = Object.fromEntries(
    layer.design.fields
      .filter((f) => f.choices)
      .map((f) => [f.key, Object.fromEntries((f.choices ?? []).map((c) => [c.code, c.label]))]),
  )
  const now = new Date()
  return (record) => {
    let any = false
    const value = (part: MapLabel['parts'][number]): string | null => {
      if ('field' in part) {
        const field = fields.get(part.field)
        return field ? nameBy(field, record.values[field.key]) : null
      }
      if ('formula' in part) {
        const tree = label.trees?.[part.formula] as Tree | undefined
        return tree ? workedText(work(tree, { values: record.values, now, zone, labels })) : null
      }
      return 'tally' in part ? (tallyOf?.(record) ?? null) : null
    }
    const text = label.parts.map((part) => {
      if ('text' in part) return part.text
      const said = value(part)
      if (said === null || said === '') return '–'
      any = true
      return said
    })
    return any ? text.join('').trim() : undefined
  }
}

/** What a formula came to, in words (App\Maps\WorkedOut). */
function workedText(value: Worked): string | null {
  if (typeof value === 'boolean') return t(value ? 'value.yes' : 'value.no')
  if (typeof value === 'number')
    return Number.isFinite(value) ? numberText(round(value, SAID_DECIMALS)) : null
  return Array.isArray(value) ? value.join(',') : value
}
