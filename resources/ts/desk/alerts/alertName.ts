import { measureName } from '../../shared/board/measureName'
import { formatNumber, spokenLanguage, t } from '../../shared/texts'
import type { Api, LayerLine } from '../../shared/types'

type Known = {
  layers: LayerLine[]
  slices: { id: number; name: string }[]
  crews: { id: number; name: string }[]
  measurable: Api['Measurable'] | undefined
}

/** What an alert is called by what it tells of, so that none is nameless. */
export function alertName(rule: Api['AlertRule'], known: Known): string {
  const layer = known.layers.find((l) => l.id === rule.layer)?.title ?? ''
  const slice = known.slices.find((s) => s.id === rule.slice)?.name
  if (rule.kind === 'slice') return slice ? t('alert.name.slice', { layer, slice }) : ''
  if (rule.kind === 'silence')
    return t('alert.name.silence', {
      crew: known.crews.find((c) => c.id === rule.crew)?.name ?? t('alert.crew.any'),
      n: rule.hours ?? 12,
    })
  const name = t('alert.name.measure', {
    measure: measureName(
      rule.measure ?? { of: 'count' },
      (key) => known.measurable?.quantities.find((q) => q.key === key)?.label ?? null,
    ),
    of: slice ? `${layer}, ${slice}` : layer,
    passes: rule.passes ?? 'above',
    value: rule.value === undefined ? '…' : formatNumber(rule.value),
  })
  return (name.charAt(0).toLocaleUpperCase(spokenLanguage()) + name.slice(1)).slice(0, 120)
}
