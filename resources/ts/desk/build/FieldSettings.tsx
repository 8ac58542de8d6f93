import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Link from '@mui/material/Link'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState, type ReactNode } from 'react'
import { FieldInput } from '../../shared/form/FieldInput'
import { localToday } from '../../shared/form/RecordForm'
import { readDecimal, readWhole } from '../../shared/form/rules'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { decimal, t } from '../../shared/texts'
import type { Design, Field, Limit, Problem, Value } from '../../shared/types'
import { ChoiceList } from './ChoiceList'
import { ConditionPart } from './ConditionPart'
import { FormulaEditor } from './FormulaEditor'
import { ListOfField } from './SharedLists'
import { useProgramme } from '../ProgrammePage'

export type SettingsProps = {
  field: Field
  design: Design
  locked: boolean
  problems: Problem[]
  result: string | undefined
  layer: number | null
  zone: string
  onChange: (change: Partial<Field>) => void
}

type More = 'unit' | 'shape' | 'limits' | 'default' | 'condition' | 'need'

const wholeOr = (text: string): number | undefined => (/^-?\d+$/.test(text.trim()) ? Number(text) : undefined)
const isNumber = (f: Field) => f.kind === 'whole_number' || f.kind === 'decimal'
const isTime = (f: Field) => f.kind === 'date' || f.kind === 'time' || f.kind === 'date_time'
const isEntered = (f: Field) => f.kind !== 'calculated' && f.kind !== 'heading'

/** Everything about one field: what it always needs is open, the rest is one press away. */
export function FieldSettings({
  field,
  design,
  locked,
  problems,
  result,
  layer,
  zone,
  onChange,
}: SettingsProps) {
  const at = (part: string) => problems.find((p) => p.field?.endsWith(part))?.message ?? null
  const problem = (part: string) => problems.find((p) => p.field?.endsWith(`/${part}`))
  const programme = useProgramme()
  const [opened, setOpened] = useState<More[]>([])
  const has: Record<More, boolean> = {
    unit: field.unit !== undefined || field.kind === 'decimal',
    shape: field.shape !== undefined,
    limits: isNumber(field) || field.limits !== undefined,
    default: field.default !== undefined && field.default !== null,
    condition: field.show_when !== undefined,
    need: field.require_when !== undefined,
  }
  const fits: Record<More, boolean> = {
    unit: isNumber(field) || field.kind === 'calculated',
    shape: field.kind === 'short_text',
    limits: isNumber(field) || isTime(field),
    default: isEntered(field),
    condition: true,
    need: isEntered(field) && !field.required,
  }
  const open = (more: More) => fits[more] && (has[more] || opened.includes(more))
  const offers = (Object.keys(fits) as More[]).filter((more) => fits[more] && !open(more))
  return (
    <Box data-open-field sx={{ display: 'grid', gap: 3, p: 3, pt: 0, gridTemplateColumns: 'minmax(0,1fr)' }}>
      <Row>
        <TextInput
          label={t('design.label')}
          value={field.label}
          onChange={(label) => onChange({ label })}
          error={at('/label')}
          autoFocus={field.label === ''}
          needed
          inputProps={{ maxLength: 300 }}
        />
        {field.kind !== 'heading' && (
          <TextInput
            label={t('design.key')}
            value={field.key}
            onChange={(key) => onChange({ key })}
            error={at('/key')}
            disabled={locked}
            hint={t(locked ? 'design.key.locked' : 'design.key.hint')}
          />
        )}
      </Row>
      {field.kind === 'calculated' && (
        <FormulaEditor
          label={t('formula.title')}
          value={field.formula ?? ''}
          onChange={(formula) => onChange({ formula })}
          design={design}
          field={field}
          problem={problem('formula')}
          result={result}
          layer={layer}
        />
      )}
      {field.choices && field.list === undefined && (
        <ChoiceList
          choices={field.choices}
          onChange={(choices) => onChange({ choices })}
          problems={problems}
          locked={locked}
        />
      )}
      {field.choices && field.list !== undefined && (
        <Typography variant="body2">
          {field.choices
            .filter((c) => !c.retired)
            .map((c) => c.label)
            .join(', ')}
        </Typography>
      )}
      {field.choices && (
        <ListOfField
          programme={programme.id}
          list={field.list}
          choices={field.choices}
          onChange={(change) => onChange(change as Partial<Field>)}
        />
      )}
      <TextInput
        label={t('design.hint')}
        value={field.hint ?? ''}
        onChange={(hint) => onChange({ hint })}
        error={at('/hint')}
      />
      {open('limits') && (
        <Limits
          field={field}
          onChange={onChange}
          error={problems.find((p) => p.field?.includes('/limits'))?.message ?? null}
        />
      )}
      {(open('unit') || field.kind === 'short_text' || field.kind === 'long_text' || open('shape')) && (
        <Row>
          {open('unit') && (
            <TextInput
              label={t('design.unit')}
              value={field.unit ?? ''}
              error={at('/unit')}
              onChange={(unit) => onChange({ unit })}
              inputProps={{ maxLength: 20 }}
            />
          )}
          {open('unit') && field.kind !== 'whole_number' && (
            <TextInput
              label={t('design.decimals')}
              value={field.decimals ?? ''}
              error={at('/decimals')}
              onChange={(text) => onChange({ decimals: wholeOr(text) as number })}
              inputProps={{ inputMode: 'numeric' }}
            />
          )}
          {(field.kind === 'short_text' || field.kind === 'long_text') && (
            <TextInput
              label={t('design.most')}
              value={field.most ?? ''}
              error={at('/most')}
              inputProps={{ inputMode: 'numeric' }}
              onChange={(text) => onChange({ most: wholeOr(text) as number })}
            />
          )}
          {open('shape') && (
            <TextInput
              label={t('design.shape')}
              hint={t('design.shape.hint')}
              value={field.shape ?? ''}
              error={at('/shape')}
              onChange={(shape) => onChange({ shape })}
              inputProps={{ maxLength: 60 }}
            />
          )}
        </Row>
      )}
      {open('default') && <Default field={field} zone={zone} error={at('/default')} onChange={onChange} />}
      {open('condition') && (
        <ConditionPart
          kind="show"
          text={field.show_when ?? ''}
          design={design}
          field={field}
          problem={problem('show_when')}
          layer={layer}
          onChange={(text) => {
            if (text === undefined) setOpened(opened.filter((o) => o !== 'condition'))
            onChange({ show_when: text as string })
          }}
        />
      )}
      {open('need') && (
        <ConditionPart
          kind="require"
          text={field.require_when ?? ''}
          design={design}
          field={field}
          problem={problem('require_when')}
          layer={layer}
          onChange={(text) => {
            if (text === undefined) setOpened(opened.filter((o) => o !== 'need'))
            onChange({ require_when: text as string })
          }}
        />
      )}
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'center' }}>
        {isEntered(field) && (
          <FormControlLabel
            control={
              <Checkbox
                checked={field.required ?? false}
                onChange={(e) => onChange({ required: e.target.checked })}
              />
            }
            label={t('design.required.long')}
          />
        )}
        {offers.map((more) => (
          <Link
            key={more}
            component="button"
            type="button"
            variant="body2"
            underline="hover"
            sx={{ fontWeight: 650 }}
            onClick={() => setOpened([...opened, more])}>
            {t(`design.add.${more}`)}
          </Link>
        ))}
      </Box>
      {problems.length > 0 && (
        <Box component="ul" role="alert" sx={{ m: 0, pl: 4, color: 'error.main' }}>
          {problems.map((p) => (
            <li key={(p.field ?? '') + p.code}>{p.message}</li>
          ))}
        </Box>
      )}
    </Box>
  )
}

const Row = ({ children }: { children: ReactNode }) => (
  <Box
    sx={{
      display: 'grid',
      gridTemplateColumns: 'repeat(auto-fit, minmax(150px, 1fr))',
      gap: 3,
      alignItems: 'start',
    }}>
    {children}
  </Box>
)

/** Lowest, highest, and what becomes of a value outside. */
function Limits({
  field,
  onChange,
  error,
}: {
  field: Field
  onChange: SettingsProps['onChange']
  error: string | null
}) {
  const limits = field.limits ?? {}
  const hint =
    field.kind === 'date'
      ? t('design.limits.hint')
      : field.kind === 'time'
        ? t('design.limits.time')
        : field.kind === 'date_time'
          ? t('design.limits.moment')
          : undefined
  const put = (end: 'lowest' | 'highest', text: string) => {
    const { [end]: _, ...others } = limits
    const read: Value =
      field.kind === 'whole_number'
        ? readWhole(text)
        : field.kind === 'decimal'
          ? readDecimal(text)
          : text.trim() || null
    onChange({ limits: read === null ? others : { ...others, [end]: read as Limit } })
  }
  return (
    <Row>
      {(['lowest', 'highest'] as const).map((end) => (
        <LimitInput
          key={end}
          label={t(`design.${end}`)}
          value={limits[end]}
          error={end === 'highest' ? error : null}
          {...(hint ? { hint } : {})}
          numeric={isNumber(field)}
          onChange={(text) => put(end, text)}
        />
      ))}
      <Labelled label={t('design.outside')}>
        {({ id }) => (
          <NativeSelect
            id={id}
            fullWidth
            input={<OutlinedInput />}
            value={limits.outside ?? 'stop'}
            onChange={(e) => onChange({ limits: { ...limits, outside: e.target.value as 'stop' | 'ask' } })}>
            <option value="stop">{t('design.outside.stop')}</option>
            <option value="ask">{t('design.outside.ask')}</option>
          </NativeSelect>
        )}
      </Labelled>
    </Row>
  )
}

const limitText = (value: Limit | undefined) =>
  typeof value === 'number' ? decimal(String(value)) : (value ?? '')

/** What was typed stays as typed ("1." on its way to "1.5"). */
function LimitInput({
  label,
  value,
  error,
  hint,
  numeric,
  onChange,
}: {
  label: string
  value: Limit | undefined
  error: string | null
  hint?: string
  numeric: boolean
  onChange: (text: string) => void
}) {
  const [typed, setTyped] = useState(limitText(value))
  const [last, setLast] = useState(value)
  if (value !== last) {
    // An undo or another editor changed it.
    setLast(value)
    if (String(value ?? '') !== String(readDecimal(typed) ?? '')) setTyped(limitText(value))
  }
  return (
    <TextInput
      label={label}
      value={typed}
      error={error}
      {...(hint ? { hint } : {})}
      inputProps={numeric ? { inputMode: 'decimal' } : {}}
      onChange={(text) => {
        setTyped(text)
        onChange(text)
      }}
    />
  )
}

function Default({
  field,
  zone,
  error,
  onChange,
}: {
  field: Field
  zone: string
  error: string | null
  onChange: SettingsProps['onChange']
}) {
  const moving = field.kind === 'date' ? 'today' : field.kind === 'date_time' ? 'now' : null
  const { limits: _, required: __, hint: ___, shape: ____, ...plain } = field
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {moving !== null && (
        <FormControlLabel
          control={
            <Checkbox
              checked={field.default === moving}
              onChange={(e) => onChange({ default: e.target.checked ? moving : null })}
            />
          }
          label={`${t('design.default')}: ${t(`design.default.${moving}`)}`}
        />
      )}
      {field.default !== moving && (
        <FieldInput
          field={{ ...plain, label: t('design.default'), read_only: false }}
          value={field.default ?? null}
          zone={zone}
          today={localToday(zone)}
          error={error ?? undefined}
          onChange={(value) => onChange({ default: value })}
        />
      )}
      <Box>
        <FormControlLabel
          control={
            <Checkbox
              checked={field.read_only ?? false}
              onChange={(e) => onChange({ read_only: e.target.checked })}
            />
          }
          label={t('design.read_only')}
        />
      </Box>
    </Box>
  )
}
