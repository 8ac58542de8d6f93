import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Labelled } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import type { Layer, LegendLine, Look, MapViewLayer, Tally } from '../../../shared/types'
import { isByNumbers } from '../../../shared/map/classes'
import { layerOf, layersOf } from '../../queries/layers'
import { classesOf } from '../../queries/publish'
import { NumberClasses } from './NumberClasses'
import { numbersOf } from './numbersOf'
import { PegLegend } from './PegLegend'
import { SizePart } from './SizePart'
import { tallyUnit, TallyPart } from './TallyPart'

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
  /** Why there is nothing to choose. */
  const [said, setSaid] = useState<string | null>(null)
  const choices = layer.design.fields.filter((f) => f.kind === 'one_choice')
  const numbers = numbersOf(layer)
  const by = look.kind === 'classes' ? layer.design.fields.find((f) => f.key === look.field) : undefined
  const counted = useQuery(layerOf(look.kind === 'inside' ? look.of.layer : null))
  const unit = look.kind === 'inside' ? tallyUnit(look.of, counted.data) : (by?.unit ?? undefined)
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
  const count = async () => {
    setError(null)
    try {
      const others = (await client.fetchQuery(layersOf(layer.programme))).filter((l) => l.id !== layer.id)
      // Points with records first: they are what areas are mostly asked about.
      const first = others.toSorted(
        (a, b) => Number(b.geometry === 'point') - Number(a.geometry === 'point') || b.records - a.records,
      )[0]
      if (!first) return setSaid(t('tally.nothing'))
      const of: Tally = {
        layer: first.id,
        slice: null,
        measure: 'count',
        field: null,
        share: null,
        by: null,
        times: 1,
        least: 0,
      }
      const made = await client.fetchQuery(
        classesOf(layer.id, { of, method: 'natural', scheme: 'tide', count: 4, breaks: null }),
      )
      onChange(made.look, true)
    } catch (e) {
      setError(e)
    }
  }
  const choose = (by: string) => {
    setSaid(null)
    const [kind, field = ''] = by.split(' ')
    if (kind === 'inside') return void count()
    if (kind === 'classes') return void begin(field)
    sized((kind === 'category' ? { kind, field } : { kind: 'single' }) as Look, true)
  }
  return (
    <>
      <Labelled label={t('map.by')} error={said} {...(why ? { hint: why } : {})}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            inputProps={{ 'aria-describedby': describedBy }}
            fullWidth
            input={<OutlinedInput />}
            value={
              look.kind === 'single' ? '' : look.kind === 'inside' ? 'inside' : `${look.kind} ${look.field}`
            }
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
            {layer.design.geometry === 'area' && (
              <optgroup label={t('map.by.inside')}>
                <option value="inside">{t('map.by.inside.layer')}</option>
              </optgroup>
            )}
          </NativeSelect>
        )}
      </Labelled>
      <Problems error={error} />
      {look.kind === 'inside' && <TallyPart layer={layer} look={look} onChange={onChange} />}
      {isByNumbers(look) && (
        <NumberClasses
          layer={layer}
          look={look}
          unit={unit ?? null}
          decimals={
            look.kind === 'inside'
              ? look.of.measure === 'count'
                ? 0
                : 2
              : by?.kind === 'whole_number'
                ? 0
                : (by?.decimals ?? 2)
          }
          onChange={sized}
        />
      )}
      <Box sx={{ mt: 3 }}>
        {legend && (
          <PegLegend lines={legend} look={look} single={layer.design.title} unit={unit} onChange={onChange} />
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
