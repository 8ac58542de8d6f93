import { GREYS } from '../../../shared/paint'
import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { CrossedLook, Field, Layer } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { thirds } from './beginLook'
import { Histogram } from './Histogram'
import { Together } from './Together'
import { useLastAnswer, useLatest } from '../../../shared/lateAnswers'

const SCHEMES = ['reef', 'heath'] as const

/** Two numbers at once: which, where their classes part, and whether they go together. */
export function CrossedPart({
  layer,
  look,
  numbers,
  onChange,
}: {
  layer: Layer
  look: CrossedLook
  numbers: Field[]
  onChange: (look: CrossedLook, now?: boolean) => void
}) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const fields = look.fields.map((key) => numbers.find((f) => f.key === key))
  const ask = useLastAnswer()
  const latest = useLatest({ look, onChange })
  const choose = async (which: 0 | 1, key: string) => {
    setError(null)
    const counts = ask()
    try {
      const other = which === 0 ? 1 : 0
      const swaps = key === look.fields[other]
      const parted = swaps ? null : await thirds(client, layer, key)
      if (!counts()) return
      const { look: was, onChange: put } = latest.current
      const next = { ...was, fields: [...was.fields], breaks: [...was.breaks] } as CrossedLook
      if (parted === null) {
        // The same twice says nothing: they change places.
        next.fields.reverse()
        next.breaks.reverse()
      } else {
        next.fields[which] = key
        next.breaks[which] = parted
      }
      put(next, true)
    } catch (e) {
      if (counts()) setError(e)
    }
  }
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      {([0, 1] as const).map((which) => (
        <Box key={which} sx={{ display: 'grid', gap: 2 }}>
          <Select
            label={t(which === 0 ? 'crossed.first' : 'crossed.second')}
            value={look.fields[which]}
            onChange={(v) => void choose(which, v)}>
            {numbers.map((f) => (
              <option key={f.key} value={f.key}>
                {f.label}
              </option>
            ))}
          </Select>
          <Spread
            layer={layer}
            field={fields[which]}
            breaks={look.breaks[which]}
            onBreaks={(breaks) => {
              const next = [...look.breaks] as CrossedLook['breaks']
              next[which] = breaks
              onChange({ ...look, breaks: next })
            }}
          />
        </Box>
      ))}
      <Together layer={layer.id} a={fields[0]} b={fields[1]} />
      <Select
        label={t('classes.scheme')}
        value={look.scheme}
        onChange={(v) => onChange({ ...look, scheme: v as CrossedLook['scheme'] }, true)}>
        {SCHEMES.map((s) => (
          <option key={s} value={s}>
            {t(`scheme.${s}`)}
          </option>
        ))}
      </Select>
      <Problems error={error} />
    </Box>
  )
}

function Spread({
  layer,
  field,
  breaks,
  onBreaks,
}: {
  layer: Layer
  field: Field | undefined
  breaks: number[]
  onBreaks: (breaks: number[]) => void
}) {
  const shown = useQuery({
    ...classesOf(layer.id, {
      field: field?.key ?? '',
      method: 'quantile',
      scheme: 'tide',
      count: 3,
      breaks: null,
    }),
    enabled: field !== undefined,
  })
  const spread = shown.data?.spread
  if (!field || !spread) return <Problems error={shown.error} />
  if (spread.least === null || spread.most === null || spread.least === spread.most)
    return (
      <Typography variant="body2" color="text.secondary">
        {spread.count === 0 ? t('classes.none') : t('classes.one', { n: spread.count })}
      </Typography>
    )
  return (
    <Histogram
      bars={spread.bars}
      least={spread.least}
      most={spread.most}
      breaks={breaks}
      colours={GREYS}
      decimals={field.kind === 'whole_number' ? 0 : (field.decimals ?? 2)}
      unit={field.unit ?? null}
      onBreaks={onBreaks}
    />
  )
}
