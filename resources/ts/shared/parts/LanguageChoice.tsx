import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { LANGUAGES, type Language } from '../language'
import { t } from '../texts'
import { Labelled } from './Labelled'

/** Languages by their own names, so that whoever does not read the page's finds theirs. */
export function LanguageChoice({
  value,
  onChange,
  disabled = false,
  label = t('language'),
}: {
  value: Language
  onChange: (language: Language) => void
  disabled?: boolean
  label?: string
}) {
  return (
    <Labelled label={label}>
      {({ id }) => (
        <NativeSelect
          id={id}
          input={<OutlinedInput />}
          value={value}
          disabled={disabled}
          onChange={(e) => onChange(e.target.value as Language)}>
          {Object.entries(LANGUAGES).map(([language, name]) => (
            <option key={language} value={language} lang={language}>
              {name}
            </option>
          ))}
        </NativeSelect>
      )}
    </Labelled>
  )
}
