import Ajv2020, { type ErrorObject } from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { t, type TextKey } from '../texts'
import type { Design, Value, Values } from '../types'

/** What is wrong with one field, by the same codes as the server's (core/Record/ValueCheck.php). */
export type FieldProblem = { field: string; code: string; message: string }
export type Rules = (values: Record<string, unknown>) => FieldProblem[]

const ajv = new Ajv2020({ allErrors: true, strict: true, allowUnionTypes: true })
addFormats(ajv, ['date'])

/** Compiles the JSON Schema that the server made of a design into a check that runs without signal. */
export function compileRules(design: Design, schema: object): Rules {
  const check = ajv.compile(schema)
  return (values) => {
    // A missing value and null mean the same; the schema's `required` speaks of missing keys.
    const given = Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null && v !== undefined))
    if (check(given)) return []
    const problems = new Map<string, FieldProblem>()
    for (const error of check.errors ?? []) {
      const problem = read(design, given, error)
      if (!problems.has(problem.field)) problems.set(problem.field, problem)
    }
    return [...problems.values()]
  }
}

function read(design: Design, values: Record<string, unknown>, error: ErrorObject): FieldProblem {
  const params = error.params as Record<string, unknown>
  const key = error.keyword === 'required' ? String(params.missingProperty)
    : error.keyword === 'additionalProperties' ? String(params.additionalProperty)
    : error.instancePath.slice(1).replaceAll('~1', '/').replaceAll('~0', '~')
  const field = design.fields.find((f) => f.key === key)
  const code = error.keyword === 'additionalProperties' ? 'field_unknown' : codeOf(error.keyword, field?.kind)
  const value = values[key]
  const shown = typeof value === 'string' && value.length > 60 ? `${value.slice(0, 60)}…` : typeof value === 'string' || typeof value === 'number' ? value : JSON.stringify(value ?? '')
  return {
    field: key,
    code,
    message: t(`problem.${code}` as TextKey, {
      key, label: field?.label ?? key, value: shown,
      lowest: field?.limits?.lowest ?? -Number.MAX_SAFE_INTEGER, highest: field?.limits?.highest ?? Number.MAX_SAFE_INTEGER,
      most: field?.most ?? 255, length: typeof value === 'string' ? [...value].length : 0,
      known: (field?.choices ?? []).slice(0, 8).map((c) => c.code).join(', '),
    }),
  }
}

function codeOf(keyword: string, kind: string | undefined): string {
  if (keyword === 'required') return 'required'
  if (kind === 'one_choice') return 'choice_unknown'
  if (kind === 'date') return 'not_date'
  if (keyword === 'minimum') return 'below_lowest'
  if (keyword === 'maximum') return 'above_highest'
  if (keyword === 'maxLength') return 'text_too_long'
  if (keyword === 'pattern') return 'required'
  return kind === 'whole_number' ? 'not_whole' : 'not_text'
}

/** A whole number as people type it; anything else stays the text that it is, for the rules to refuse. */
export function readWhole(text: string): Value {
  const trimmed = text.trim()
  if (trimmed === '') return null
  const n = Number(trimmed)
  return /^[+-]?\d+$/.test(trimmed) && Number.isSafeInteger(n) ? n : text
}

/** The values of the design's fields only, without empty ones: what a record carries. */
export function filled(values: Values): Values {
  return Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null && v !== ''))
}
