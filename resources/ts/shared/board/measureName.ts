import { isTextKey, t } from '../texts'
import type { Api } from '../types'

/**
 * What a measure is called where nobody has named it.
 *
 * @param field what the field of a key is called, where keys are told; the label of a field is told as it is
 */
export function measureName(
  m: Api['Measure'] | Api['ToldMeasure'],
  field: (key: string) => string | null = (key) => (key.startsWith('@') ? quantity(key) : key),
): string {
  if (m.of === 'ratio')
    return t('measure.ratio', {
      top: measureName(m.top ?? { of: 'count' }, field),
      bottom: measureName(m.bottom ?? { of: 'count' }, field),
    })
  const known = m.field ? (field(m.field) ?? m.field) : ''
  return t(`measure.${m.of}`, { field: known, p: Math.round((m.p ?? 0.5) * 100) })
}

/** What is measured that is in no field. */
function quantity(key: string): string | null {
  const name = `quantity.${key.slice(1)}`
  return isTextKey(name) ? t(name) : null
}
