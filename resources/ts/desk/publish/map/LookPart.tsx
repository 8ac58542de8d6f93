import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Labelled } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Layer, LegendLine, Look, MapViewLayer } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { NumberClasses } from './NumberClasses'
import { PegLegend } from './PegLegend'
import { SizePart } from './SizePart'

/** By what the marks of a map differ, and what each looks like. */
export function LookPart({
  layer,
  look,
  legend,
  sizes,
  why,
  warnings,
  onChange,
}: {
  layer: Layer
  look: Look
  legend: LegendLine[] | undefined
  sizes: MapViewLayer['sizes'] | undefined
  /** Why it was proposed, where nobody has chosen yet. */
  why: string | undefined
  /** Marks that can hardly be told apart. */
  warnings: string[]
  /** `now`: of one choice, not of typing or dragging. */
  onChange: (look: Look, now?: boolean) => void
}) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const choices = layer.design.fields.filter((f) => f.kind === 'one_choice')
  const numbers = layer.design.fields.filter((f) => isNumber(layer, f.key))
  /** By what marks differ changes; how large they are stays. */
  const sized = (next: Look, now?: boolean) => onChange(look.size ? { ...next, size: look.size } : next, now)
  const begin = async (field: string) => {
    setError(null)
    try {
      const made = await client.fetchQuery(
        classesOf(layer.id, { field, method: 'natural', scheme: 'tide', count: 4, breaks: null }),
      )
      sized(made.look, true)
    } catch (e) {
      setError(e)
    }
  }
  const choose = (by: string) => {
    const [kind, field = ''] = by.split(' ')
    if (kind === 'classes') return void begin(field)
    sized((kind === 'category' ? { kind, field } : { kind: 'single' }) as Look, true)
  }
  return (
    <>
      <Labelled label={t('map.by')} {...(why ? { hint: why } : {})}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            inputProps={{ 'aria-describedby': describedBy }}
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
      {look.kind === 'classes' && <NumberClasses layer={layer} look={look} onChange={sized} />}
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
      {numbers.length > 0 && layer.design.geometry !== 'area' && (
        <SizePart
          layer={layer}
          look={look}
          numbers={numbers}
          legend={sizes}
          onChange={(size, now) => onChange(size ? { ...look, size } : unsized(look), now)}
        />
      )}
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

const unsized = (look: Look): Look => {
  const next = { ...look }
  delete next.size
  return next
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
