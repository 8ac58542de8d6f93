import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useState } from 'react'
import { Select, TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import { numberIn, typedNumber } from '../../shared/typedNumber'
import type { Api, LayerLine } from '../../shared/types'
import { MeasureForm } from '../publish/board/MeasureForm'
import type { Alert } from '../queries/alerts'
import { SlicePicker } from '../slices/SlicePicker'

type Props = {
  rule: Alert['rule']
  layers: LayerLine[]
  crews: Api['Crew'][]
  at: (field: string) => string | null
  onChange: (rule: Alert['rule']) => void
}

/** What an alert tells of: records that come into a slice, a measure that passes, a crew that is silent. */
export function AlertRulePart({ rule, layers, crews, at, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const value = typed ?? typedNumber(rule.value ?? undefined)
  if (rule.kind === 'silence')
    return (
      <>
        <Select
          label={t('alert.crew')}
          value={rule.crew ?? ''}
          error={at('rule/crew')}
          onChange={(v) => onChange({ ...rule, crew: v === '' ? null : Number(v) })}>
          <option value="">{t('alert.crew.any')}</option>
          {crews.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </Select>
        <Select
          label={t('alert.hours')}
          value={rule.hours ?? 12}
          error={at('rule/hours')}
          onChange={(v) => onChange({ ...rule, hours: Number(v) })}>
          {[...new Set([1, 2, 3, 4, 6, 8, 12, 24, 48, 72, 168, rule.hours ?? 12])]
            .sort((a, b) => a - b)
            .map((n) => (
              <option key={n} value={n}>
                {t('alert.hours.n', { n })}
              </option>
            ))}
        </Select>
        <FormControlLabel
          label={t('alert.onoutings')}
          control={
            <Checkbox
              size="small"
              checked={rule.on_outings === true}
              onChange={(e) => onChange({ ...rule, on_outings: e.target.checked })}
            />
          }
        />
      </>
    )
  const layer = rule.layer ?? 0
  return (
    <>
      <Select
        label={t('check.layer')}
        value={layer}
        error={at('rule/layer')}
        onChange={(v) =>
          onChange({
            ...rule,
            layer: Number(v),
            slice: null,
            ...(rule.kind === 'measure' ? { measure: { of: 'count' } } : {}),
          })
        }>
        {layers.map((l) => (
          <option key={l.id} value={l.id}>
            {l.title}
          </option>
        ))}
      </Select>
      {layer > 0 && (
        <SlicePicker
          label={t(rule.kind === 'slice' ? 'alert.slice' : 'board.slice')}
          layer={layer}
          mayMake
          size="small"
          {...(rule.kind === 'slice' ? { everything: t('alert.slice.choose') } : {})}
          value={rule.slice ?? null}
          onChange={(slice) => onChange({ ...rule, slice: slice?.id ?? null })}
        />
      )}
      {rule.kind === 'slice' && at('rule/slice') && (
        <Box role="alert" sx={{ color: 'error.main' }}>
          {at('rule/slice')}
        </Box>
      )}
      {rule.kind === 'measure' && layer > 0 && (
        <>
          <MeasureForm
            layer={layer}
            alone
            measure={rule.measure ?? { of: 'count' }}
            onChange={({ measure }) => onChange({ ...rule, measure })}
          />
          {at('rule/measure') && (
            <Box role="alert" sx={{ color: 'error.main' }}>
              {at('rule/measure')}
            </Box>
          )}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
            <Select
              label={t('alert.passes')}
              value={rule.passes ?? 'above'}
              onChange={(v) => onChange({ ...rule, passes: v === 'below' ? 'below' : 'above' })}>
              <option value="above">{t('alert.above')}</option>
              <option value="below">{t('alert.below')}</option>
            </Select>
            <TextInput
              label={t('alert.value')}
              size="small"
              value={value}
              error={at('rule/value') ?? (numberIn(value) === null ? t('alert.value.bad') : null)}
              inputProps={{ inputMode: 'decimal' }}
              onChange={(text) => {
                setTyped(text)
                const number = numberIn(text)
                // What is no number is not kept for one.
                onChange({ ...rule, value: number ?? undefined } as Alert['rule'])
              }}
            />
          </Box>
        </>
      )}
    </>
  )
}
