import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { paint } from '../../../shared/paint'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Api } from '../../../shared/types'
import { measurableOf } from '../../queries/publish'
import { SlicePicker } from '../../slices/SlicePicker'

type Measure = Api['Measure']
type Measured = { measure: Measure; unit?: string | undefined; decimals?: number | undefined }

const ALONE = ['count', 'share', 'ratio', 'walked', 'hours'] as const
const TIMES = [1, 100, 1_000, 100_000]

type Props = Measured & {
  layer: number
  onChange: (next: Measured) => void
  /** Within a ratio there is no other, and no unit. */
  inside?: boolean
  /** What it is shown in is of no matter. */
  alone?: boolean
  only?: Measure['of'][]
}

/** What is told: how many, or something of a field; in which unit. */
export function MeasureForm({
  measure,
  unit,
  decimals,
  layer,
  onChange,
  inside = false,
  alone = false,
  only,
}: Props) {
  const { data: m } = useQuery(measurableOf(layer))
  if (!m) return null
  const quantity = m.quantities.find((q) => q.key === measure.field)
  const offered = (only ?? [
    'count',
    ...new Set(m.quantities.flatMap((q) => q.measures)),
    ...(inside ? [] : (['share', 'ratio'] as const)),
    'walked',
    'hours',
  ]) as Measure['of'][]
  const choose = (of: Measure['of']) => {
    if (of === 'ratio') return onChange({ measure: { of, top: { of: 'count' }, bottom: { of: 'count' } } })
    if ((ALONE as readonly string[]).includes(of))
      return onChange({ measure: { of, ...(measure.slice ? { slice: measure.slice } : {}) } })
    const fits = quantity?.measures.includes(of)
      ? quantity
      : m.quantities.find((q) => q.measures.includes(of))
    if (fits)
      onChange({
        measure: {
          of,
          field: fits.key,
          ...(of === 'quantile' ? { p: measure.p ?? 0.9 } : {}),
          ...(measure.slice && measure.of !== 'share' ? { slice: measure.slice } : {}),
        },
      })
  }
  const units =
    quantity && !['count', 'distinct', 'share', 'ratio'].includes(measure.of) ? quantity.units : []
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Select label={t('measure.what')} value={measure.of} onChange={(v) => choose(v as Measure['of'])}>
        {offered.map((of) => (
          <option key={of} value={of}>
            {t(`measure.kind.${of}`)}
          </option>
        ))}
      </Select>
      {measure.field !== undefined && (
        <Select
          label={t('measure.field')}
          value={measure.field}
          onChange={(field) => onChange({ measure: { ...measure, field } })}>
          {m.quantities
            .filter((q) => q.measures.includes(measure.of))
            .map((q) => (
              <option key={q.key} value={q.key}>
                {q.unit ? `${q.label} (${q.unit})` : q.label}
              </option>
            ))}
        </Select>
      )}
      {measure.of === 'quantile' && (
        <TextInput
          label={t('measure.p')}
          type="number"
          value={Math.round((measure.p ?? 0.5) * 1000) / 10}
          inputProps={{ min: 0, max: 100, step: 5 }}
          onChange={(v) =>
            v !== '' &&
            onChange({
              measure: { ...measure, p: Math.max(0, Math.min(1, Number(v) / 100)) },
              unit,
              decimals,
            })
          }
        />
      )}
      {measure.of === 'ratio' ? (
        <>
          {(['top', 'bottom'] as const).map((which) => (
            <Box
              component="fieldset"
              key={which}
              sx={{ border: `1px solid ${paint.line}`, borderRadius: 1, p: 3, m: 0 }}>
              <legend>{t(`measure.${which}`)}</legend>
              <MeasureForm
                inside
                layer={layer}
                measure={measure[which] ?? { of: 'count' }}
                onChange={(next) => onChange({ measure: { ...measure, [which]: next.measure }, decimals })}
              />
            </Box>
          ))}
          <Select
            label={t('measure.times')}
            value={measure.times ?? 1}
            onChange={(v) => onChange({ measure: { ...measure, times: Number(v) }, decimals })}>
            {TIMES.map((n) => (
              <option key={n} value={n}>
                {t('measure.by', { n })}
              </option>
            ))}
          </Select>
        </>
      ) : (
        (measure.of === 'share' || (inside && !['walked', 'hours'].includes(measure.of))) && (
          <SlicePicker
            label={t(measure.of === 'share' ? 'measure.share.of' : 'measure.of')}
            layer={layer}
            mayMake
            size="small"
            value={measure.slice ?? null}
            onChange={(slice) => {
              const { slice: _, ...rest } = measure
              onChange({ measure: slice ? { ...rest, slice: slice.id } : rest, unit, decimals })
            }}
          />
        )
      )}
      {!inside && !alone && units.length > 1 && (
        <Select
          label={t('measure.unit')}
          value={unit ?? quantity?.unit ?? ''}
          onChange={(v) => onChange({ measure, unit: v === quantity?.unit ? undefined : v, decimals })}>
          {units.map((u) => (
            <option key={u} value={u}>
              {u}
            </option>
          ))}
        </Select>
      )}
      {!inside && !alone && (
        <Select
          label={t('measure.decimals')}
          value={decimals ?? ''}
          onChange={(v) => onChange({ measure, unit, decimals: v === '' ? undefined : Number(v) })}>
          <option value="">{t('measure.decimals.self')}</option>
          {[0, 1, 2, 3].map((n) => (
            <option key={n} value={n}>
              {n}
            </option>
          ))}
        </Select>
      )}
    </Box>
  )
}
