import Box from '@mui/material/Box'
import type { ReactNode } from 'react'
import type { Design, Look, Peg, Value, Values } from '../types'
import { FieldInput } from './FieldInput'
import type { FieldProblem } from './rules'

type Props = {
  design: Design
  values: Values
  onChange: (key: string, value: Value) => void
  problems: FieldProblem[]
  look?: Look
  today: string
  children?: ReactNode
}

/** The form that a design describes: the same on the phone and beside the bench. */
export function RecordForm({ design, values, onChange, problems, look, today, children }: Props) {
  const pegs: Record<string, Peg> | undefined = look?.kind === 'category' ? Object.fromEntries(look.classes.map((c) => [c.code, c])) : undefined
  return (
    <Box sx={{ display: 'grid', gap: 4.5 }}>
      {design.fields.map((field) => (
        <FieldInput key={field.key} field={field} value={values[field.key] ?? null} onChange={(v) => onChange(field.key, v)} today={today}
          error={problems.find((p) => p.field === field.key)?.message}
          pegs={look?.kind === 'category' && look.field === field.key ? pegs : undefined} />
      ))}
      {children}
    </Box>
  )
}

/** Today where the person is, as year-month-day. */
export const localToday = () => new Date(Date.now() - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 10)
