import InputAdornment from '@mui/material/InputAdornment'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { Labelled } from '../parts/Labelled'
import { t } from '../texts'
import type { Design } from '../types'
import { readDecimal } from './rules'

/** Metres of an international foot, exact. */
const FOOT = 0.3048

type Props = {
  rules: NonNullable<Design['altitude']>
  metres: number | null
  onChange: (metres: number | null) => void
  error?: string | undefined
  hint?: string
}

/** An altitude in the layer's unit; it is kept in metres. */
export function AltitudeInput({ rules, metres, onChange, error, hint }: Props) {
  const factor = rules.unit === 'ft' ? FOOT : 1
  const shown = metres === null ? '' : String(Math.round((metres / factor) * 10) / 10)
  const [typed, setTyped] = useState<string | null>(null)
  const read = (text: string) => {
    setTyped(text)
    const value = readDecimal(text)
    if (value === null || typeof value === 'number') onChange(value === null ? null : value * factor)
  }
  const wrong = typed !== null && typeof readDecimal(typed) === 'string'
  return (
    <Labelled
      label={t('altitude.label')}
      needed={rules.required ?? false}
      hint={hint ?? t('altitude.hint')}
      error={wrong ? t('problem.altitude_number') : (error ?? null)}>
      {({ id, describedBy }) => (
        <OutlinedInput
          id={id}
          fullWidth
          error={wrong || Boolean(error)}
          value={typed ?? shown}
          onChange={(e) => read(e.target.value)}
          onBlur={() => {
            if (!wrong) setTyped(null)
          }}
          endAdornment={<InputAdornment position="end">{rules.unit}</InputAdornment>}
          inputProps={{ 'aria-describedby': describedBy, inputMode: 'text', autoComplete: 'off' }}
        />
      )}
    </Labelled>
  )
}

export const shownAltitude = (metres: number, unit: 'm' | 'ft' = 'm') =>
  `${Math.round(metres / (unit === 'ft' ? FOOT : 1))} ${unit}`
