import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { Labelled } from '../parts/Labelled'
import { PegMark } from '../parts/PegMark'
import { t } from '../texts'
import type { Field, Peg, Value } from '../types'
import { readWhole } from './rules'

type Props = { field: Field; value: Value; onChange: (value: Value) => void; error?: string | undefined; pegs?: Record<string, Peg> | undefined; today: string }

/** More choices than this become a list to open. */
const MOST_BUTTONS = 6

export function FieldInput(props: Props) {
  switch (props.field.kind) {
    case 'one_choice': return <ChoiceInput {...props} />
    case 'date': return <DateInput {...props} />
    case 'whole_number': return <WholeInput {...props} />
    case 'short_text': return <TextField {...props} />
  }
}

function TextField({ field, value, onChange, error }: Props) {
  return (
    <Labelled label={field.label} needed={field.required} hint={field.hint} error={error}>
      {({ id, describedBy }) => (
        <OutlinedInput fullWidth id={id} error={Boolean(error)} value={value ?? ''} onChange={(e) => onChange(e.target.value === '' ? null : e.target.value)}
          inputProps={{ 'aria-describedby': describedBy, 'aria-required': field.required, autoComplete: 'off', enterKeyHint: 'next' }} />
      )}
    </Labelled>
  )
}

function WholeInput({ field, value, onChange, error }: Props) {
  // What was typed stays as typed, so that the caret never jumps.
  const [typed, setTyped] = useState(value === null ? '' : String(value))
  const shown = readWhole(typed) === value ? typed : value === null ? '' : String(value)
  return (
    <Labelled label={field.label} needed={field.required} hint={field.hint} error={error}>
      {({ id, describedBy }) => (
        <OutlinedInput fullWidth id={id} error={Boolean(error)} value={shown}
          onChange={(e) => { setTyped(e.target.value); onChange(readWhole(e.target.value)) }}
          inputProps={{ inputMode: (field.limits?.lowest ?? -1) >= 0 ? 'numeric' : 'text', 'aria-describedby': describedBy, 'aria-required': field.required, autoComplete: 'off' }} />
      )}
    </Labelled>
  )
}

function DateInput({ field, value, onChange, error, today }: Props) {
  const yesterday = new Date(Date.parse(`${today}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10)
  return (
    <Labelled label={field.label} needed={field.required} hint={field.hint} error={error}>
      {({ id, describedBy }) => (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto auto 1fr', gap: 2 }}>
          {([[today, 'form.today'], [yesterday, 'form.yesterday']] as const).map(([day, word]) => (
            <Button key={day} variant={value === day ? 'contained' : 'outlined'} color={value === day ? 'primary' : 'inherit'} aria-pressed={value === day}
              onClick={() => onChange(value === day ? null : day)} sx={{ px: 2.5 }}>
              {t(word)}
            </Button>
          ))}
          <OutlinedInput type="date" id={id} error={Boolean(error)} value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}
            inputProps={{ 'aria-describedby': describedBy, 'aria-required': field.required, style: { minWidth: 0 } }} />
        </Box>
      )}
    </Labelled>
  )
}

function ChoiceInput(props: Props) {
  const { field, value, onChange, error, pegs } = props
  const choices = (field.choices ?? []).filter((c) => !c.retired || c.code === value)
  return (
    <Labelled label={field.label} needed={field.required} hint={field.hint} error={error}>
      {({ id, describedBy }) =>
        choices.length > MOST_BUTTONS ? (
          <NativeSelect fullWidth id={id} variant="outlined" value={value ?? ''} onChange={(e) => onChange(e.target.value || null)} input={<OutlinedInput />} inputProps={{ 'aria-describedby': describedBy }}>
            <option value="">{t('form.choose')}</option>
            {choices.map((c) => <option key={c.code} value={c.code}>{c.label}</option>)}
          </NativeSelect>
        ) : (
          <Box role="group" id={id} aria-label={field.label} aria-describedby={describedBy} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            {choices.map((c) => {
              const on = value === c.code
              const peg = pegs?.[c.code]
              return (
                <Button key={c.code} variant={on ? 'contained' : 'outlined'} color={on ? 'primary' : 'inherit'} aria-pressed={on} startIcon={peg && <PegMark {...peg} />}
                  onClick={() => onChange(on && !field.required ? null : c.code)} sx={{ justifyContent: 'flex-start', textAlign: 'left', minHeight: 52, lineHeight: 1.2 }}>
                  {c.label}
                </Button>
              )
            })}
          </Box>
        )
      }
    </Labelled>
  )
}
