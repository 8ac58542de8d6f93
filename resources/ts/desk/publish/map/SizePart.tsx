import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Labelled, TextInput } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { SizeLegend } from '../../../shared/parts/SizeLegend'
import { t } from '../../../shared/texts'
import { numberIn, typedNumber } from '../../../shared/typedNumber'
import type { Field, Layer, Look, MapViewLayer, SizeBy } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { useLastAnswer } from '../../../shared/lateAnswers'
import { Together } from './Together'

type Props = {
  layer: Layer
  look: Look
  /** Those that hold numbers. */
  numbers: Field[]
  legend: MapViewLayer['sizes'] | undefined
  onChange: (size: SizeBy | undefined, now?: boolean) => void
}

/** Pixels of the largest. */
const CIRCLES = { small: 18, middle: 28, large: 44 }
const WIDTHS = { small: 6, middle: 10, large: 14 }

/** The more there are, the smaller, or they would cover each other. */
const fitting = (sizes: typeof CIRCLES, records: number) =>
  records > 200 ? sizes.small : records > 60 ? sizes.middle : sizes.large

/** How large records are drawn, by a number; beside a second number it is said whether both go together. */
export function SizePart({ layer, look, numbers, legend, onChange }: Props) {
  const client = useQueryClient()
  const [error, setError] = useState<string | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  const size = look.size
  const line = layer.design.geometry === 'line'
  const sizes = line ? WIDTHS : CIRCLES
  const unit = numbers.find((f) => f.key === size?.field)?.unit
  const ask = useLastAnswer()
  const choose = async (field: string) => {
    setError(null)
    setFailed(null)
    const counts = ask()
    if (field === '') return onChange(undefined, true)
    try {
      const { spread } = await client.fetchQuery(
        classesOf(layer.id, { field, method: 'round', scheme: 'tide', count: 4, breaks: null }),
      )
      if (!counts()) return
      if (spread.most === null || spread.most <= 0) setError(t('map.size.nothing'))
      else onChange({ field, most: spread.most, pixels: fitting(sizes, spread.count) }, true)
    } catch (e) {
      if (counts()) setFailed(e)
    }
  }
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Labelled label={t(line ? 'map.width' : 'map.size')} error={error}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            fullWidth
            input={<OutlinedInput />}
            inputProps={{ 'aria-describedby': describedBy }}
            value={size?.field ?? ''}
            onChange={(e) => void choose(e.target.value)}>
            <option value="">{t('map.size.none')}</option>
            {numbers.map((f) => (
              <option key={f.key} value={f.key}>
                {f.label}
              </option>
            ))}
          </NativeSelect>
        )}
      </Labelled>
      <Problems error={failed} />
      {size && (
        <>
          <Most
            key={size.field}
            size={size}
            unit={unit ?? null}
            onChange={(most) => onChange({ ...size, most })}
          />
          <Labelled label={t('map.size.largest')}>
            {({ id }) => (
              <NativeSelect
                id={id}
                fullWidth
                input={<OutlinedInput size="small" />}
                value={size.pixels ?? sizes.large}
                onChange={(e) => onChange({ ...size, pixels: Number(e.target.value) }, true)}>
                {Object.entries(sizes).map(([name, pixels]) => (
                  <option key={name} value={pixels}>
                    {t(`map.size.${name as keyof typeof sizes}`)}
                  </option>
                ))}
              </NativeSelect>
            )}
          </Labelled>
          {legend && <SizeLegend sizes={legend} line={line} />}
          {look.kind === 'classes' && look.field !== size.field && (
            <Together
              layer={layer.id}
              a={numbers.find((f) => f.key === look.field)}
              b={numbers.find((f) => f.key === size.field)}
            />
          )}
        </>
      )}
    </Box>
  )
}

/** What the largest stands for; what is typed counts once it is a number above zero. */
function Most({
  size,
  unit,
  onChange,
}: {
  size: SizeBy
  unit: string | null
  onChange: (most: number) => void
}) {
  const [typed, setTyped] = useState(typedNumber(size.most))
  return (
    <TextInput
      label={t('map.size.most')}
      value={typed}
      error={(numberIn(typed) ?? 0) > 0 ? null : t('problem.size_most')}
      inputProps={{ inputMode: 'decimal' }}
      endAdornment={unit ?? undefined}
      onChange={(text) => {
        setTyped(text)
        const next = numberIn(text)
        if (next !== null && next > 0) onChange(next)
      }}
    />
  )
}
