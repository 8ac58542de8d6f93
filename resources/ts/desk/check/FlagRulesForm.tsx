import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import FormHelperText from '@mui/material/FormHelperText'
import InputAdornment from '@mui/material/InputAdornment'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import type { ReactNode } from 'react'
import { t } from '../../shared/texts'
import type { Api, Layer } from '../../shared/types'

type Rules = Api['FlagRules']

/** Each reason with its switch, and how far it goes. */
export function FlagRulesForm({
  layer,
  told,
  rules,
  onChange,
}: {
  layer: Layer
  told: Api['LayerFlags']
  rules: Rules
  onChange: (rules: Rules) => void
}) {
  const set = (change: Partial<Rules>) => onChange({ ...rules, ...change })
  const double = rules.double
  return (
    <>
      <Rule label={t('flag.rules.outside')} on={rules.outside} onSwitch={(on) => set({ outside: on })}>
        {rules.outside && told.areas.length > 0 && (
          <Box component="label" sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
            {t('flag.rules.areas')}
            <NativeSelect
              input={<OutlinedInput size="small" />}
              value={rules.areas ?? ''}
              onChange={(e) => set({ areas: Number(e.target.value) || null })}>
              <option value="">{t('flag.rules.areas.none')}</option>
              {told.areas.map((a) => (
                <option key={a.id} value={a.id}>
                  {a.title}
                </option>
              ))}
            </NativeSelect>
          </Box>
        )}
      </Rule>
      <Rule
        label={t('flag.rules.fix')}
        on={rules.fix !== null}
        onSwitch={(on) => set({ fix: on ? (told.usual.fix ?? 20) : null })}>
        {rules.fix !== null && (
          <Whole
            label={t('flag.rules.fix')}
            unit={t('flag.rules.fix.unit')}
            value={rules.fix}
            onChange={(fix) => set({ fix })}
          />
        )}
      </Rule>
      {told.single_places && (
        <Rule
          label={t('flag.rules.double')}
          on={double !== null}
          onSwitch={(on) => set({ double: on ? (told.usual.double ?? { metres: 10, hours: 12 }) : null })}>
          {double !== null && (
            <>
              <Whole
                label={t('flag.rules.double')}
                unit={t('flag.rules.fix.unit')}
                value={double.metres}
                onChange={(metres) => set({ double: { ...double, metres } })}
              />
              {t('flag.rules.double.hours')}
              <Whole
                label={t('flag.rules.hours.unit')}
                unit={t('flag.rules.hours.unit')}
                value={double.hours}
                onChange={(hours) => set({ double: { ...double, hours } })}
              />
            </>
          )}
        </Rule>
      )}
      {layer.design.geometry === 'point' && (
        <Rule
          label={t('flag.rules.speed')}
          on={rules.speed !== null}
          onSwitch={(on) => set({ speed: on ? (told.usual.speed ?? 130) : null })}>
          {rules.speed !== null && (
            <Whole
              label={t('flag.rules.speed')}
              unit={t('flag.rules.speed.unit')}
              value={rules.speed}
              onChange={(speed) => set({ speed })}
            />
          )}
        </Rule>
      )}
      <Rule label={t('flag.rules.files')} on={rules.files} onSwitch={(on) => set({ files: on })} />
      <Rule
        label={t('flag.rules.outlier')}
        hint={t('flag.rules.outlier.hint')}
        on={rules.outlier}
        onSwitch={(on) => set({ outlier: on })}>
        {rules.outlier && <Fields layer={layer} kinds={NUMBERS} rules={rules} onChange={set} />}
      </Rule>
      <Rule label={t('flag.rules.future')} on={rules.future} onSwitch={(on) => set({ future: on })}>
        {rules.future && <Fields layer={layer} kinds={DAYS} rules={rules} onChange={set} />}
      </Rule>
    </>
  )
}

const NUMBERS = ['whole_number', 'decimal']
const DAYS = ['date', 'date_time']

function Rule({
  label,
  hint,
  on,
  onSwitch,
  children,
}: {
  label: string
  hint?: string
  on: boolean
  onSwitch: (on: boolean) => void
  children?: ReactNode
}) {
  return (
    <div>
      <FormControlLabel
        label={label}
        control={<Checkbox size="small" checked={on} onChange={(e) => onSwitch(e.target.checked)} />}
      />
      {hint && <FormHelperText sx={{ ml: 7, mt: 0 }}>{hint}</FormHelperText>}
      <Box sx={{ ml: 7, display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>{children}</Box>
    </div>
  )
}

/** An empty one is no number, and the server says what it should be. */
function Whole({
  label,
  unit,
  value,
  onChange,
}: {
  label: string
  unit: string
  value: number
  onChange: (value: number) => void
}) {
  return (
    <OutlinedInput
      size="small"
      type="number"
      inputProps={{ 'aria-label': label, min: 1, inputMode: 'numeric' }}
      endAdornment={<InputAdornment position="end">{unit}</InputAdornment>}
      value={value === 0 ? '' : value}
      onChange={(e) => onChange(Number(e.target.value))}
      sx={{ width: 140 }}
    />
  )
}

/** Which fields of some kinds are looked at. */
function Fields({
  layer,
  kinds,
  rules,
  onChange,
}: {
  layer: Layer
  kinds: string[]
  rules: Rules
  onChange: (change: Partial<Rules>) => void
}) {
  const fields = layer.design.fields.filter((f) => kinds.includes(f.kind))
  if (fields.length < 2) return null
  return (
    <Box component="fieldset" aria-label={t('flag.rules.fields')} sx={{ border: 0, m: 0, p: 0 }}>
      {fields.map((f) => (
        <FormControlLabel
          key={f.key}
          label={f.label}
          control={
            <Checkbox
              size="small"
              checked={!rules.without.includes(f.key)}
              onChange={(e) =>
                onChange({
                  without: e.target.checked
                    ? rules.without.filter((k) => k !== f.key)
                    : [...rules.without, f.key],
                })
              }
            />
          }
        />
      ))}
    </Box>
  )
}
