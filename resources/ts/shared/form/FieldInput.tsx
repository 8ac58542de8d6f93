import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import InputAdornment from '@mui/material/InputAdornment'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { Labelled } from '../parts/Labelled'
import { PegMark } from '../parts/PegMark'
import { now } from '../clock'
import { decimal, t } from '../texts'
import type { Choice, Field, Peg, Value } from '../types'
import { at, instantOf, local } from './moment'
import { readDecimal, readWhole } from './rules'

export type InputProps = {
  field: Field
  value: Value
  onChange: (value: Value) => void
  error?: string | undefined
  pegs?: Record<string, Peg> | undefined
  today: string
  zone: string
  needed?: boolean
}

/** More choices than this become a list to open. */
const MOST_BUTTONS = 6

/** The input for one field; a calculated one and a heading are drawn by the form itself. */
export function FieldInput(props: InputProps) {
  switch (props.field.kind) {
    case 'one_choice':
      return <ChoiceInput {...props} />
    case 'several_choices':
      return <SeveralInput {...props} />
    case 'yes_no':
      return <YesNoInput {...props} />
    case 'date':
      return <DateInput {...props} />
    case 'time':
      return <TimeInput {...props} />
    case 'date_time':
      return <DateTimeInput {...props} />
    case 'whole_number':
    case 'decimal':
      return <NumberInput {...props} />
    default:
      return <TextInput {...props} />
  }
}

const heading = ({ field, error, needed }: InputProps) => ({
  label: field.label,
  needed: needed ?? field.required,
  hint: field.hint,
  error,
})
const aria = (field: Field, describedBy: string | undefined, needed: boolean | undefined) => ({
  'aria-describedby': describedBy,
  'aria-required': needed ?? field.required,
  autoComplete: 'off',
})

function TextInput(props: InputProps) {
  const { field, value, onChange, error, needed } = props
  const long = field.kind === 'long_text'
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <OutlinedInput
          fullWidth
          id={id}
          error={Boolean(error)}
          value={value ?? ''}
          multiline={long}
          disabled={field.read_only ?? false}
          {...(long ? { minRows: 3 } : {})}
          placeholder={field.shape ?? ''}
          onChange={(e) => onChange(e.target.value === '' ? null : e.target.value)}
          inputProps={{ ...aria(field, describedBy, needed), enterKeyHint: 'next' }}
        />
      )}
    </Labelled>
  )
}

/** What was read as a number is written as one; what was not stays as it was typed. */
const asTyped = (value: Value) =>
  typeof value === 'number' ? decimal(String(value)) : value === null ? '' : String(value)

function NumberInput(props: InputProps) {
  const { field, value, onChange, error, needed } = props
  const read = field.kind === 'decimal' ? readDecimal : readWhole
  // What was typed stays as typed, so that the caret never jumps.
  const [typed, setTyped] = useState(asTyped(value))
  const shown = read(typed) === value ? typed : asTyped(value)
  const positive = typeof field.limits?.lowest === 'number' && field.limits.lowest >= 0
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <OutlinedInput
          fullWidth
          id={id}
          error={Boolean(error)}
          value={shown}
          disabled={field.read_only ?? false}
          endAdornment={field.unit ? <InputAdornment position="end">{field.unit}</InputAdornment> : undefined}
          onChange={(e) => {
            setTyped(e.target.value)
            onChange(read(e.target.value))
          }}
          inputProps={{
            ...aria(field, describedBy, needed),
            inputMode: positive ? (field.kind === 'decimal' ? 'decimal' : 'numeric') : 'text',
          }}
        />
      )}
    </Labelled>
  )
}

function Toggle({
  on,
  label,
  onClick,
  disabled,
  peg,
}: {
  on: boolean
  label: string
  onClick: () => void
  disabled?: boolean | undefined
  peg?: Peg | undefined
}) {
  return (
    <Button
      variant={on ? 'contained' : 'outlined'}
      color={on ? 'primary' : 'inherit'}
      aria-pressed={on}
      disabled={disabled ?? false}
      startIcon={peg && <PegMark {...peg} />}
      onClick={onClick}
      sx={{ justifyContent: 'flex-start', textAlign: 'left', minHeight: 52, lineHeight: 1.2, px: 3 }}>
      {label}
    </Button>
  )
}

function YesNoInput(props: InputProps) {
  const { field, value, onChange } = props
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <Box
          role="group"
          id={id}
          aria-label={field.label}
          aria-describedby={describedBy}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
          {([true, false] as const).map((v) => (
            <Toggle
              key={String(v)}
              on={value === v}
              disabled={field.read_only}
              label={t(v ? 'form.yes' : 'form.no')}
              onClick={() => onChange(value === v ? null : v)}
            />
          ))}
        </Box>
      )}
    </Labelled>
  )
}

const Quick = ({ on, label, onClick }: { on: boolean; label: string; onClick: () => void }) => (
  <Button
    variant={on ? 'contained' : 'outlined'}
    color={on ? 'primary' : 'inherit'}
    aria-pressed={on}
    onClick={onClick}
    sx={{ px: 2.5 }}>
    {label}
  </Button>
)

function DateInput(props: InputProps) {
  const { field, value, onChange, error, today, needed } = props
  const yesterday = new Date(Date.parse(`${today}T00:00:00Z`) - 86_400_000).toISOString().slice(0, 10)
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto auto 1fr', gap: 2 }}>
          {!field.read_only &&
            (
              [
                [today, 'form.today'],
                [yesterday, 'form.yesterday'],
              ] as const
            ).map(([day, word]) => (
              <Quick
                key={day}
                on={value === day}
                label={t(word)}
                onClick={() => onChange(value === day ? null : day)}
              />
            ))}
          <OutlinedInput
            type="date"
            id={id}
            error={Boolean(error)}
            value={value ?? ''}
            disabled={field.read_only ?? false}
            onChange={(e) => onChange(e.target.value || null)}
            inputProps={{ ...aria(field, describedBy, needed), style: { minWidth: 0 } }}
          />
        </Box>
      )}
    </Labelled>
  )
}

function TimeInput(props: InputProps) {
  const { field, value, onChange, error, zone, needed } = props
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 2 }}>
          {!field.read_only && (
            <Quick
              on={false}
              label={t('form.now')}
              onClick={() => onChange(local(now().toISOString(), zone).time.slice(0, 5))}
            />
          )}
          <OutlinedInput
            type="time"
            id={id}
            error={Boolean(error)}
            value={value ?? ''}
            disabled={field.read_only ?? false}
            onChange={(e) => onChange(e.target.value || null)}
            inputProps={{ ...aria(field, describedBy, needed), style: { minWidth: 0 } }}
          />
        </Box>
      )}
    </Labelled>
  )
}

/** Entered by the programme's clock, kept as a moment. */
function DateTimeInput(props: InputProps) {
  const { field, value, onChange, error, zone, needed } = props
  const shown = typeof value === 'string' ? local(value, zone) : null
  const read = (text: string) => (text ? at(text.slice(0, 10), text.slice(11), zone) : null)
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 2 }}>
          {!field.read_only && (
            <Quick
              on={false}
              label={t('form.now')}
              onClick={() => onChange(instantOf(Math.floor(now().getTime() / 60_000) * 60))}
            />
          )}
          <OutlinedInput
            type="datetime-local"
            id={id}
            error={Boolean(error)}
            value={shown ? `${shown.date}T${shown.time.slice(0, 5)}` : ''}
            disabled={field.read_only ?? false}
            onChange={(e) => onChange(read(e.target.value))}
            inputProps={{ ...aria(field, describedBy, needed), style: { minWidth: 0 } }}
          />
        </Box>
      )}
    </Labelled>
  )
}

const offered = (choices: Choice[] | undefined, has: (code: string) => boolean) =>
  (choices ?? []).filter((c) => !c.retired || has(c.code))

function ChoiceInput(props: InputProps) {
  const { field, value, onChange, pegs } = props
  const choices = offered(field.choices, (code) => code === value)
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) =>
        choices.length > MOST_BUTTONS ? (
          <NativeSelect
            fullWidth
            id={id}
            variant="outlined"
            value={value ?? ''}
            disabled={field.read_only ?? false}
            onChange={(e) => onChange(e.target.value || null)}
            input={<OutlinedInput />}
            inputProps={{ 'aria-describedby': describedBy }}>
            <option value="">{t('form.choose')}</option>
            {choices.map((c) => (
              <option key={c.code} value={c.code}>
                {c.label}
              </option>
            ))}
          </NativeSelect>
        ) : (
          <Box
            role="group"
            id={id}
            aria-label={field.label}
            aria-describedby={describedBy}
            sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            {choices.map((c) => (
              <Toggle
                key={c.code}
                on={value === c.code}
                label={c.label}
                peg={pegs?.[c.code]}
                disabled={field.read_only}
                onClick={() => onChange(value === c.code && !field.required ? null : c.code)}
              />
            ))}
          </Box>
        )
      }
    </Labelled>
  )
}

function SeveralInput(props: InputProps) {
  const { field, value, onChange } = props
  const chosen = Array.isArray(value) ? value : []
  const choices = offered(field.choices, (code) => chosen.includes(code))
  const flip = (code: string) => {
    const next = chosen.includes(code)
      ? chosen.filter((c) => c !== code)
      : choices.map((c) => c.code).filter((c) => c === code || chosen.includes(c))
    onChange(next.length ? next : null)
  }
  return (
    <Labelled {...heading(props)}>
      {({ id, describedBy }) => (
        <Box
          role="group"
          id={id}
          aria-label={field.label}
          aria-describedby={describedBy}
          sx={
            choices.length > MOST_BUTTONS
              ? {
                  maxHeight: 260,
                  overflow: 'auto',
                  border: '1px solid',
                  borderColor: 'divider',
                  borderRadius: 1.5,
                  px: 3,
                }
              : { display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }
          }>
          {choices.map((c) =>
            choices.length > MOST_BUTTONS ? (
              <FormControlLabel
                key={c.code}
                sx={{ display: 'flex', minHeight: 48 }}
                control={
                  <Checkbox
                    checked={chosen.includes(c.code)}
                    disabled={field.read_only ?? false}
                    onChange={() => flip(c.code)}
                  />
                }
                label={c.label}
              />
            ) : (
              <Toggle
                key={c.code}
                on={chosen.includes(c.code)}
                label={c.label}
                disabled={field.read_only}
                onClick={() => flip(c.code)}
              />
            ),
          )}
        </Box>
      )}
    </Labelled>
  )
}
