import { t } from '../texts'
import type { Api } from '../types'

/**
 * What a measure is called where nobody has named it.
 *
 * @param field what a field is called, where that is known
 */
export function measureName(m: Api['Measure'], field: (key: string) => string | null = () => null): string {
  if (m.of === 'ratio')
    return t('measure.ratio', {
      top: measureName(m.top ?? { of: 'count' }, field),
      bottom: measureName(m.bottom ?? { of: 'count' }, field),
    })
  const known = m.field ? (field(m.field) ?? t('measure.value')) : ''
  return t(`measure.${m.of}`, { field: known, p: Math.round((m.p ?? 0.5) * 100) })
}
