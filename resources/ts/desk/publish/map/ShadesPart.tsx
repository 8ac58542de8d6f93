import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { numberText } from '../../../shared/map/classes'
import { Segments } from '../../../shared/parts/Segments'
import { numberIn, typedNumber } from '../../../shared/typedNumber'
import { t } from '../../../shared/texts'
import type { Layer, NumberLook, ShadesLook } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { SCHEMES } from './NumberClasses'

/** A number in classes, or in colours that pass into each other from one number to another. */
export function ShadesPart({
  layer,
  look,
  onChange,
  onKind,
}: {
  layer: Layer
  look: ShadesLook | NumberLook
  onChange: (look: ShadesLook, now?: boolean) => void
  onKind: (shaded: boolean) => void
}) {
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Segments
        label={t('shades.how')}
        value={look.kind}
        options={[
          { value: 'classes', label: t('shades.classes') },
          { value: 'shades', label: t('shades.shades') },
        ]}
        onChange={(kind) => onKind(kind === 'shades')}
      />
      {look.kind === 'shades' && <Ends layer={layer} look={look} onChange={onChange} />}
    </Box>
  )
}

function Ends({
  layer,
  look,
  onChange,
}: {
  layer: Layer
  look: ShadesLook
  onChange: (look: ShadesLook, now?: boolean) => void
}) {
  const shown = useQuery(
    classesOf(layer.id, { field: look.field, method: 'natural', scheme: 'tide', count: 4, breaks: null }),
  )
  const [typed, setTyped] = useState({ from: typedNumber(look.from), to: typedNumber(look.to) })
  useEffect(() => setTyped({ from: typedNumber(look.from), to: typedNumber(look.to) }), [look.from, look.to])
  const [from, to] = [numberIn(typed.from), numberIn(typed.to)]
  const wrong = from === null || to === null || from >= to ? t('problem.look_ends') : null
  const put = (next: typeof typed) => {
    setTyped(next)
    const [a, b] = [numberIn(next.from), numberIn(next.to)]
    if (a !== null && b !== null && a < b) onChange({ ...look, from: a, to: b })
  }
  const { least, most } = shown.data?.spread ?? {}
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, alignItems: 'start' }}>
        <TextInput
          label={t('shades.from')}
          size="small"
          value={typed.from}
          inputProps={{ inputMode: 'decimal' }}
          error={wrong}
          {...(typeof least === 'number' ? { hint: t('shades.least', { n: numberText(least) }) } : {})}
          onChange={(v) => put({ ...typed, from: v })}
        />
        <TextInput
          label={t('shades.to')}
          size="small"
          value={typed.to}
          inputProps={{ inputMode: 'decimal' }}
          {...(typeof most === 'number' ? { hint: t('shades.most', { n: numberText(most) }) } : {})}
          onChange={(v) => put({ ...typed, to: v })}
        />
      </Box>
      <Select
        label={t('classes.scheme')}
        value={look.scheme}
        onChange={(v) => onChange({ ...look, scheme: v as ShadesLook['scheme'] }, true)}>
        {SCHEMES.map((s) => (
          <option key={s} value={s}>
            {t(`scheme.${s}`)}
          </option>
        ))}
      </Select>
    </>
  )
}
