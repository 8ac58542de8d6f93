import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { Labelled } from '../../shared/parts/Labelled'

type Props = {
  label: string
  value: string
  options: [string, string][]
  onChange: (value: string) => void
  hint?: string
}

/** One of a list, with its label above. */
export function Choose({ label, value, options, onChange, hint }: Props) {
  return (
    <Labelled label={label} {...(hint ? { hint } : {})}>
      {({ id }) => (
        <NativeSelect
          id={id}
          fullWidth
          input={<OutlinedInput />}
          value={value}
          onChange={(e) => onChange(e.target.value)}>
          {options.map(([v, text]) => (
            <option key={v} value={v}>
              {text}
            </option>
          ))}
        </NativeSelect>
      )}
    </Labelled>
  )
}
