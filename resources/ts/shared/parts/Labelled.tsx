import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import FormHelperText from '@mui/material/FormHelperText'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput, { type OutlinedInputProps } from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useId, useState, type ReactNode } from 'react'
import { t } from '../texts'

type FrameProps = {
  label: string
  needed?: boolean
  hint?: string
  error?: string | null
  children: (ids: { id: string; describedBy: string | undefined }) => ReactNode
}

/** Seen by eyes; ears hear it from aria-required. */
const STAR = { '&::after': { content: '" *" / ""', color: 'secondary.main' } }

/** A label above, an input, a hint or an error below: the one frame of all inputs. */
export function Labelled({ label, needed, hint, error, children }: FrameProps) {
  const id = useId()
  const below = error ?? hint
  return (
    <Box sx={{ minWidth: 0 }}>
      <Typography
        component="label"
        htmlFor={id}
        sx={{ display: 'block', fontWeight: 650, fontSize: '0.92rem', mb: 1, ...(needed ? STAR : {}) }}>
        {label}
      </Typography>
      {children({ id, describedBy: below ? `${id}-below` : undefined })}
      {below && (
        <FormHelperText id={`${id}-below`} error={Boolean(error)} sx={{ mx: 0, fontSize: '0.85rem' }}>
          {below}
        </FormHelperText>
      )}
    </Box>
  )
}

type InputProps = Omit<OutlinedInputProps, 'label' | 'error' | 'onChange'> & {
  label: string
  hint?: string
  error?: string | null
  needed?: boolean
  onChange?: (text: string) => void
}

export function TextInput({ label, hint, error, needed, onChange, inputProps, type, ...rest }: InputProps) {
  // What is typed blind in the rain is looked at before it is sent.
  const [shown, setShown] = useState(false)
  const secret = type === 'password'
  return (
    <Labelled label={label} hint={hint} error={error} needed={needed}>
      {({ id, describedBy }) => (
        <OutlinedInput
          fullWidth
          id={id}
          error={Boolean(error)}
          inputProps={{
            ...inputProps,
            'aria-describedby': describedBy,
            'aria-required': needed || undefined,
          }}
          {...(type ? { type: secret && shown ? 'text' : type } : {})}
          {...(secret
            ? {
                endAdornment: (
                  <Button size="small" variant="text" aria-pressed={shown} onClick={() => setShown(!shown)}>
                    {t(shown ? 'secret.hide' : 'secret.show')}
                  </Button>
                ),
              }
            : {})}
          onChange={(e) => onChange?.(e.target.value)}
          {...rest}
        />
      )}
    </Labelled>
  )
}

type SelectProps = {
  label: string
  value: string | number
  hint?: string
  error?: string | null
  disabled?: boolean
  onChange: (value: string) => void
  /** The options. */
  children: ReactNode
}

/** One of a list, small. */
export function Select({ label, value, hint, error, disabled = false, onChange, children }: SelectProps) {
  return (
    <Labelled label={label} error={error ?? null} {...(hint ? { hint } : {})}>
      {({ id, describedBy }) => (
        <NativeSelect
          id={id}
          fullWidth
          disabled={disabled}
          input={<OutlinedInput size="small" />}
          inputProps={{ 'aria-describedby': describedBy }}
          value={value}
          onChange={(e) => onChange(e.target.value)}>
          {children}
        </NativeSelect>
      )}
    </Labelled>
  )
}
