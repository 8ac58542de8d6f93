import type { MapLabel } from '../../shared/types'
import type { PackLayer, PhoneRecord } from '../db'
import { nameBy } from '../name'
import { workedBy } from './workedText'

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
  const worked = workedBy(layer, zone)
  return (record) => {
    let any = false
    const value = (part: MapLabel['parts'][number]): string | null => {
      if ('field' in part) {
        const field = fields.get(part.field)
        return field ? nameBy(field, record.values[field.key]) : null
      }
      if ('formula' in part) return worked(label.trees?.[part.formula], record)
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
