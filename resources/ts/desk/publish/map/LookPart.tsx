import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Labelled } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Layer, LegendLine, Look } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { NumberClasses } from './NumberClasses'
import { PegLegend } from './PegLegend'

/** By what the marks of a map differ, and what each looks like. */
export function LookPart({
  layer,
  look,
  legend,
  warnings,
  onChange,
}: {
  layer: Layer
  look: Look
  legend: LegendLine[] | undefined
  /** Marks that can hardly be told apart. */
  warnings: string[]
  /** `now`: of one choice, not of typing or dragging. */
  onChange: (look: Look, now?: boolean) => void
}) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const choices = layer.design.fields.filter((f) => f.kind === 'one_choice')
  const numbers = layer.design.fields.filter((f) => isNumber(layer, f.key))
  const begin = async (field: string) => {
    setError(null)
    try {
      const made = await client.fetchQuery(
        classesOf(layer.id, { field, method: 'natural', scheme: 'tide', count: 4, breaks: null }),
      )
      onChange(made.look, true)
    } catch (e) {
      setError(e)
    }
  }
  const choose = (by: string) => {
    const [kind, field = ''] = by.split(' ')
    if (kind === 'classes') return void begin(field)
    onChange((kind === 'category' ? { kind, field } : { kind: 'single' }) as Look, true)
  }
  return (
    <>
      <Labelled label={t('map.by')}>
        {({ id }) => (
          <NativeSelect
            id={id}
            fullWidth
            input={<OutlinedInput />}
            value={look.kind === 'single' ? '' : `${look.kind} ${look.field}`}
            onChange={(e) => choose(e.target.value)}>
            <option value="">{t('map.by.none')}</option>
            {choices.length > 0 && (
              <optgroup label={t('map.by.choice')}>
                {choices.map((f) => (
                  <option key={f.key} value={`category ${f.key}`}>
                    {f.label}
                  </option>
                ))}
              </optgroup>
            )}
            {numbers.length > 0 && (
              <optgroup label={t('map.by.number')}>
                {numbers.map((f) => (
                  <option key={f.key} value={`classes ${f.key}`}>
                    {f.label}
                  </option>
                ))}
              </optgroup>
            )}
          </NativeSelect>
        )}
      </Labelled>
      <Problems error={error} />
      {look.kind === 'classes' && <NumberClasses layer={layer} look={look} onChange={onChange} />}
      <Box sx={{ mt: 3 }}>
        {legend && (
          <PegLegend
            lines={legend}
            look={look}
            single={layer.design.title}
            unit={
              look.kind === 'classes'
                ? (layer.design.fields.find((f) => f.key === look.field)?.unit ?? undefined)
                : undefined
            }
            onChange={onChange}
          />
        )}
      </Box>
      {warnings.length > 0 && (
        <Box
          role="status"
          sx={{
            borderLeft: '4px solid',
            borderColor: 'secondary.main',
            pl: 3,
            mt: 3,
            display: 'grid',
            gap: 1,
          }}>
          {warnings.map((sentence) => (
            <Typography key={sentence} variant="body2">
              {sentence}
            </Typography>
          ))}
        </Box>
      )}
    </>
  )
}

/** Also one that is worked out, where it comes out as a number. */
const isNumber = (layer: Layer, key: string) => {
  const field = layer.design.fields.find((f) => f.key === key)
  return (
    field?.kind === 'whole_number' ||
    field?.kind === 'decimal' ||
    (field?.kind === 'calculated' && layer.results[key] === 'number')
  )
}
