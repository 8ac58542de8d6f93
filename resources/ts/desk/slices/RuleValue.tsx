import Autocomplete from '@mui/material/Autocomplete'
import Box from '@mui/material/Box'
import InputAdornment from '@mui/material/InputAdornment'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import TextField from '@mui/material/TextField'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { isDay, isNumber, isYesNo, takesList, type Line, type Subject } from './rule'

/** The input that fits what is asked, and how. */
export function RuleValue({
  line,
  subject,
  crews,
  onValue,
}: {
  line: Line
  subject: Subject
  crews: Api['Crew'][]
  onValue: (value: unknown) => void
}) {
  if (takesList(line.test)) return <Several line={line} subject={subject} crews={crews} onValue={onValue} />
  if (isYesNo(subject))
    return (
      <Choose
        value={line.value === false ? 'no' : 'yes'}
        options={[
          ['yes', t('value.yes')],
          ['no', t('value.no')],
        ]}
        onChange={(v) => onValue(v === 'yes')}
      />
    )
  if (subject.choices.length > 0)
    return (
      <Choose
        value={String(line.value ?? '')}
        options={[['', t('rule.choose')], ...subject.choices.map((c): [string, string] => [c.code, c.label])]}
        onChange={onValue}
      />
    )
  if (line.test === 'last_days')
    return <One label={t('rule.value')} value={line.value} unit={t('rule.days')} number onValue={onValue} />
  const kind = isDay(subject) ? 'date' : subject.kind === 'time' ? 'time' : 'text'
  const input = (label: string, value: unknown, put: (text: string) => void) => (
    <One
      label={label}
      value={value}
      type={kind}
      number={isNumber(subject)}
      unit={subject.unit ?? undefined}
      onValue={put}
    />
  )
  if (line.test !== 'between') return input(t('rule.value'), line.value, onValue)
  const [low, high] = Array.isArray(line.value) ? (line.value as string[]) : ['', '']
  return (
    <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: isDay(subject) ? '1fr' : '1fr 1fr' }}>
      {input(t('rule.from'), low, (text) => onValue([text, high]))}
      {input(t('rule.to'), high, (text) => onValue([low, text]))}
    </Box>
  )
}

function Choose({
  value,
  options,
  onChange,
}: {
  value: string
  options: [string, string][]
  onChange: (value: string) => void
}) {
  return (
    <NativeSelect
      fullWidth
      input={<OutlinedInput size="small" />}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      inputProps={{ 'aria-label': t('rule.value') }}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </NativeSelect>
  )
}

function One({
  label,
  value,
  type = 'text',
  number = false,
  unit,
  onValue,
}: {
  label: string
  value: unknown
  type?: 'text' | 'date' | 'time'
  number?: boolean
  unit?: string | undefined
  onValue: (text: string) => void
}) {
  return (
    <OutlinedInput
      fullWidth
      size="small"
      type={type}
      value={typeof value === 'string' ? value : ''}
      onChange={(e) => onValue(e.target.value)}
      endAdornment={unit ? <InputAdornment position="end">{unit}</InputAdornment> : undefined}
      inputProps={{ 'aria-label': label, maxLength: 190, ...(number ? { inputMode: 'decimal' } : {}) }}
    />
  )
}

/** Several choices, crews, or texts that one types. */
function Several({
  line,
  subject,
  crews,
  onValue,
}: {
  line: Line
  subject: Subject
  crews: Api['Crew'][]
  onValue: (value: unknown) => void
}) {
  const chosen = Array.isArray(line.value) ? (line.value as (string | number)[]) : []
  const options: { key: string | number; words: string }[] =
    subject.field === '@crew'
      ? crews.map((c) => ({ key: c.id, words: c.name }))
      : subject.choices.map((c) => ({ key: c.code, words: c.label }))
  const free = options.length === 0
  return (
    <Autocomplete
      multiple
      size="small"
      freeSolo={free}
      autoSelect={free}
      disableCloseOnSelect={!free}
      // Chips and what one types stand in one row as long as there is room.
      sx={{ '& .MuiAutocomplete-inputRoot .MuiAutocomplete-input': { minWidth: 24 } }}
      options={options.map((o) => o.key)}
      value={chosen}
      getOptionLabel={(key) => options.find((o) => o.key === key)?.words ?? String(key)}
      onChange={(_, next) =>
        onValue(next.map((v) => (typeof v === 'string' ? v.trim() : v)).filter((v) => v !== ''))
      }
      renderInput={(props) => (
        <TextField
          {...props}
          placeholder={chosen.length === 0 ? t(free ? 'rule.several.free' : 'rule.choose') : ''}
          slotProps={{ htmlInput: { ...props.inputProps, 'aria-label': t('rule.value') } }}
        />
      )}
    />
  )
}
