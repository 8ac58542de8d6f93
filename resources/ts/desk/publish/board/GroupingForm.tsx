import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Api } from '../../../shared/types'
import { measurableOf } from '../../queries/publish'

type Grouping = Api['Grouping']
const STEPS: Api['Step'][] = ['day', 'week', 'month', 'year']

type Props = {
  label: string
  layer: number
  value: Grouping | undefined
  onChange: (by: Grouping | undefined) => void
  /** Which of them fit here. */
  fits?: (g: Api['GroupingChoice']) => boolean
  /** What it is called to have none; left out where there must be one. */
  none?: string
}

const keyOf = (g: Grouping | undefined) => (g?.areas !== undefined ? `a${g.areas}` : (g?.field ?? ''))

/** By what records are put together. */
export function GroupingForm({ label, layer, value, onChange, fits = () => true, none }: Props) {
  const { data: m } = useQuery(measurableOf(layer))
  const offered = m?.groupings.filter(fits) ?? []
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Select
        label={label}
        value={keyOf(value)}
        onChange={(key) => {
          const found = offered.find((g) => keyOf(g.by) === key)
          onChange(found ? (found.time ? { ...found.by, step: value?.step ?? 'week' } : found.by) : undefined)
        }}>
        {none !== undefined && <option value="">{none}</option>}
        {offered.map((g) => (
          <option key={keyOf(g.by)} value={keyOf(g.by)}>
            {g.by.areas !== undefined ? t('grouping.areas', { layer: g.label }) : g.label}
          </option>
        ))}
      </Select>
      {value?.step && (
        <Select
          label={t('grouping.step')}
          value={value.step}
          onChange={(step) => onChange({ ...value, step: step as Api['Step'] })}>
          {STEPS.map((s) => (
            <option key={s} value={s}>
              {t(`grouping.step.${s}`)}
            </option>
          ))}
        </Select>
      )}
    </Box>
  )
}
