import Add from '@mui/icons-material/Add'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Api, Field, Layer } from '../../../shared/types'
import { PartsEditor } from './PartsEditor'

type Line = Api['CardTextLine']
type Only = NonNullable<Line['only']>

const MOST_LINES = 12
const TESTS = ['there', 'missing', 'is', 'is_not', 'at_least', 'below'] as const

/** The sentences that a card begins with; each is said always, or only of records that it fits. */
export function SentencesPart({
  lines,
  layer,
  fields,
  tallied,
  onChange,
}: {
  lines: Line[]
  layer: Layer
  fields: Field[]
  tallied: boolean
  onChange: (lines: Line[], now: boolean) => void
}) {
  const put = (i: number, change: Partial<Line>, now: boolean) =>
    onChange(
      lines.map((line, at) => (at === i ? { ...line, ...change } : line)),
      now,
    )
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Typography variant="h3">{t('card.text')}</Typography>
      {lines.map((line, i) => (
        <Paper
          key={i}
          variant="outlined"
          component="section"
          aria-label={t('card.line', { n: i + 1 })}
          sx={{ p: 3, display: 'grid', gap: 2, minWidth: 0 }}>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
              {t('card.line', { n: i + 1 })}
            </Typography>
            <IconButton
              size="small"
              disabled={i === 0}
              aria-label={t('card.line.up', { n: i + 1 })}
              onClick={() => {
                const next = [...lines]
                next.splice(i - 1, 0, ...next.splice(i, 1))
                onChange(next, true)
              }}>
              <ArrowUpward fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              aria-label={t('card.line.out', { n: i + 1 })}
              onClick={() =>
                onChange(
                  lines.filter((_, at) => at !== i),
                  true,
                )
              }>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
          <PartsEditor
            parts={line.parts}
            fields={fields}
            tallied={tallied}
            ago
            layer={layer}
            most={20}
            longest={300}
            needsValue={false}
            words={t('card.words')}
            onChange={(parts, now) => put(i, { parts }, now)}
          />
          <OnlyIf only={line.only} fields={fields} onChange={(only, now) => put(i, { only }, now)} />
        </Paper>
      ))}
      <Button
        startIcon={<Add />}
        variant="outlined"
        disabled={lines.length >= MOST_LINES || fields.length === 0}
        onClick={() => onChange([...lines, { parts: [{ text: t('card.words') }], only: null }], true)}>
        {t('card.line.add')}
      </Button>
    </Box>
  )
}

function OnlyIf({
  only,
  fields,
  onChange,
}: {
  only: Only | null
  fields: Field[]
  onChange: (only: Only | null, now: boolean) => void
}) {
  const field = fields.find((f) => f.key === only?.field)
  const compared = only !== null && only.test !== 'there' && only.test !== 'missing'
  const numeric = field?.kind === 'whole_number' || field?.kind === 'decimal' || field?.kind === 'calculated'
  const asValue = (text: string) =>
    field?.kind === 'yes_no' ? text === 'true' : numeric && text.trim() !== '' ? Number(text) : text
  const first = (f: Field | undefined) =>
    f?.kind === 'yes_no' ? true : (f?.choices?.find((c) => !c.retired)?.code ?? (numeric ? 0 : ''))
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Select
        label={t('card.only')}
        value={only?.field ?? ''}
        onChange={(chosen) => onChange(chosen === '' ? null : { field: chosen, test: 'there' }, true)}>
        <option value="">{t('card.only.always')}</option>
        {fields.map((f) => (
          <option key={f.key} value={f.key}>
            {t('card.only.field', { field: f.label })}
          </option>
        ))}
      </Select>
      {only && (
        <Box sx={{ display: 'grid', gridTemplateColumns: compared ? '1fr 1fr' : '1fr', gap: 2 }}>
          <NativeSelect
            inputProps={{ 'aria-label': t('card.only.test') }}
            input={<OutlinedInput size="small" />}
            value={only.test}
            onChange={(e) => {
              const test = e.target.value as Only['test']
              onChange(
                test === 'there' || test === 'missing'
                  ? { field: only.field, test }
                  : { field: only.field, test, value: only.value ?? first(field) },
                true,
              )
            }}>
            {TESTS.map((test) => (
              <option key={test} value={test}>
                {t(`card.test.${test}`)}
              </option>
            ))}
          </NativeSelect>
          {compared &&
            (field?.choices || field?.kind === 'yes_no' ? (
              <NativeSelect
                inputProps={{ 'aria-label': t('card.only.value') }}
                input={<OutlinedInput size="small" />}
                value={String(only.value)}
                onChange={(e) => onChange({ ...only, value: asValue(e.target.value) }, true)}>
                {(field.choices ?? [])
                  .filter((c) => !c.retired)
                  .map((c) => (
                    <option key={c.code} value={c.code}>
                      {c.label}
                    </option>
                  ))}
                {field.kind === 'yes_no' &&
                  ['true', 'false'].map((v) => (
                    <option key={v} value={v}>
                      {t(v === 'true' ? 'value.yes' : 'value.no')}
                    </option>
                  ))}
              </NativeSelect>
            ) : (
              <Compared
                key={only.field}
                value={String(only.value ?? '')}
                type={numeric ? 'number' : field?.kind === 'date' ? 'date' : 'text'}
                onChange={(text) => onChange({ ...only, value: asValue(text) }, false)}
              />
            ))}
        </Box>
      )}
    </Box>
  )
}

/** What is typed counts once there is something. */
function Compared({
  value,
  type,
  onChange,
}: {
  value: string
  type: 'number' | 'date' | 'text'
  onChange: (text: string) => void
}) {
  const [typed, setTyped] = useState(value)
  return (
    <OutlinedInput
      size="small"
      type={type}
      value={typed}
      inputProps={{ 'aria-label': t('card.only.value'), maxLength: 300 }}
      onChange={(e) => {
        setTyped(e.target.value)
        if (e.target.value !== '') onChange(e.target.value)
      }}
    />
  )
}
