import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { memo, useCallback, useMemo, useRef, type ReactNode } from 'react'
import { paint } from '../paint'
import { t } from '../texts'
import type { Design, Field, Look, Peg, Value, Values } from '../types'
import { now } from '../clock'
import { instantOf, local } from './moment'
import { FieldInput, type InputProps } from './FieldInput'
import { filled, type FieldProblem, type Here, type Rules } from './rules'
import { shownValue } from './shownValue'

type Props = {
  design: Design
  /** Null while the design is not sound: then no condition hides anything. */
  rules: Rules | null
  values: Values
  onChange: (key: string, value: Value) => void
  problems: FieldProblem[]
  look?: Look
  today: string
  here?: Here
  /** Values that a person said are right although they are unusual, by key. */
  confirmed?: Record<string, Value>
  onConfirm?: (key: string, value: Value) => void
  children?: ReactNode
}

/**
 * The form that a design describes, with its conditions, questions and calculated values: the same on the
 * phone, at the desk, and beside the bench.
 */
export function RecordForm({
  design,
  rules,
  values,
  onChange,
  problems,
  look,
  today,
  here = NOWHERE,
  confirmed = NOTHING,
  onConfirm,
  children,
}: Props) {
  const pegs = useMemo(
    (): Record<string, Peg> | undefined =>
      look?.kind === 'category' ? Object.fromEntries(look.classes.map((c) => [c.code, c])) : undefined,
    [look],
  )
  // Called as they are at that moment, but the same for good: a field is drawn anew for what became of
  // itself, not for a letter in another.
  const latest = useRef({ onChange, onConfirm })
  latest.current = { onChange, onConfirm }
  const put = useCallback((key: string, value: Value) => latest.current.onChange(key, value), [])
  const confirm = useCallback((key: string, value: Value) => latest.current.onConfirm?.(key, value), [])
  const judged = useMemo(() => rules?.(filled(values), here) ?? null, [rules, values, here])
  const zone = here.zone ?? 'UTC'
  return (
    <Box sx={{ display: 'grid', gap: 4.5, gridTemplateColumns: 'minmax(0,1fr)' }}>
      {design.fields.map((field) => {
        if (judged?.hidden.has(field.key)) return null
        if (field.kind === 'heading') return <Heading key={field.key} field={field} />
        if (field.kind === 'calculated')
          return (
            <Calculated key={field.key} field={field} value={judged?.values[field.key] ?? null} zone={zone} />
          )
        const ask = judged?.asks.find((p) => p.field === field.key)
        const value = values[field.key] ?? null
        return (
          <Row
            key={field.key}
            field={field}
            value={value}
            put={put}
            confirm={confirm}
            today={today}
            zone={zone}
            needed={judged?.needed.has(field.key) ?? field.required ?? false}
            error={problems.find((p) => p.field === field.key)?.message}
            pegs={look?.kind === 'category' && look.field === field.key ? pegs : undefined}
            ask={confirmed[field.key] === value ? undefined : ask}
          />
        )
      })}
      {children}
    </Box>
  )
}

const NOWHERE: Here = {}
const NOTHING: Record<string, Value> = {}

type RowProps = Omit<InputProps, 'onChange'> & {
  put: (key: string, value: Value) => void
  confirm: (key: string, value: Value) => void
  ask: FieldProblem | undefined
}

/** One input with its question; two hundred of them must not all be drawn for each letter. */
const Row = memo(function Row({ put, confirm, ask, ...input }: RowProps) {
  const { field, value, zone } = input
  return (
    <Box>
      <FieldInput {...input} onChange={(v) => put(field.key, v)} />
      {ask && (
        <Ask
          field={field}
          problem={ask}
          value={value}
          zone={zone}
          onYes={() => confirm(field.key, value)}
          onNo={() => put(field.key, null)}
        />
      )}
    </Box>
  )
})

/** A value outside limits that ask: the person decides, and is not asked twice. */
function Ask({
  field,
  problem,
  value,
  zone,
  onYes,
  onNo,
}: {
  field: Field
  problem: FieldProblem
  value: Value
  zone: string
  onYes: () => void
  onNo: () => void
}) {
  const { lowest, highest } = field.limits ?? {}
  const range = lowest !== undefined && highest !== undefined ? 'both' : lowest !== undefined ? 'low' : 'high'
  const text = shownValue(field, value, zone)
  return (
    <Box role="alert" sx={{ mt: 1.5, p: 2.5, borderRadius: 1.5, bgcolor: paint.buoyWash, color: paint.ink }}>
      <b>{t(problem.code === 'below_lowest' ? 'ask.few' : 'ask.many')}</b>{' '}
      {t(`ask.${range}`, {
        lowest:
          lowest === undefined
            ? ''
            : shownValue(range === 'both' ? { ...field, unit: '' } : field, lowest, zone),
        highest: highest === undefined ? '' : shownValue(field, highest, zone),
        value: text,
      })}
      <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
        <Button
          onClick={onYes}
          sx={{ bgcolor: paint.kelp, color: paint.white, '&:hover': { bgcolor: paint.kelpDark } }}>
          {t('ask.yes', { value: text })}
        </Button>
        <Button variant="outlined" onClick={onNo} sx={{ color: paint.kelp, borderColor: paint.kelp }}>
          {t('ask.no')}
        </Button>
      </Box>
    </Box>
  )
}

const Heading = memo(function Heading({ field }: { field: Field }) {
  return (
    <Box sx={{ borderBottom: '2px solid', borderColor: 'divider', pb: 1, mt: 2 }}>
      <Typography variant="h2" sx={{ fontSize: '1.15rem' }}>
        {field.label}
      </Typography>
      {field.hint && (
        <Typography variant="body2" color="text.secondary">
          {field.hint}
        </Typography>
      )}
    </Box>
  )
})

const Calculated = memo(function Calculated({
  field,
  value,
  zone,
}: {
  field: Field
  value: Value
  zone: string
}) {
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'baseline',
        gap: 3,
        bgcolor: 'action.hover',
        borderRadius: 1.5,
        p: 2.5,
      }}>
      <Box>
        <Box component="span" sx={{ fontWeight: 650, fontSize: '0.92rem' }}>
          {field.label}
        </Box>
        {field.hint && (
          <Typography variant="body2" color="text.secondary">
            {field.hint}
          </Typography>
        )}
      </Box>
      <Box
        component="output"
        aria-label={field.label}
        sx={{ fontWeight: 700, fontVariantNumeric: 'tabular-nums', fontSize: '1.1rem', textAlign: 'right' }}>
        {shownValue(field, value, zone) || '–'}
      </Box>
    </Box>
  )
})

/** Today as year-month-day by the programme’s clock, wherever one sits: limits and counts go by it. */
export const localToday = (zone: string) =>
  local(instantOf(Math.floor(now().getTime() / 1000)) ?? '', zone).date
