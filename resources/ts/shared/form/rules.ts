import Ajv2020, { type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { now } from '../clock'
import { t, type TextKey } from '../texts'
import type { Design, Field, FieldKind, RuleTrees, Value, Values } from '../types'
import { work, type Surroundings, type Tree } from './formula'
import { asInstant, asTime, instantOf, local } from './moment'

/** What is wrong with one field, by the same codes as the server's (core/Record/ValueCheck.php). */
export type FieldProblem = { field: string; code: string; message: string }
/** Where and when a record is being written. */
export type Here = {
  now?: Date
  zone?: string
  lon?: number | null
  lat?: number | null
  length?: number | null
  area?: number | null
  altitude?: number | null
  visits?: number
  latest?: Record<string, unknown>
  areas?: Surroundings['areas']
}
export type Judged = {
  problems: FieldProblem[]
  /** Values outside limits that ask: acceptable, but unusual. */
  asks: FieldProblem[]
  /** What the record carries: hidden fields left out, calculated ones worked out. */
  values: Values
  /** Keys of fields and headings whose condition does not hold. */
  hidden: Set<string>
  needed: Set<string>
}
export type Rules = (values: Record<string, unknown>, here?: Here) => Judged

const ajv = new Ajv2020({ allErrors: true, strict: true, allowUnionTypes: true })
addFormats(ajv, ['date', 'date-time'])

const isMissing = (field: Field, value: unknown) =>
  value === null ||
  value === undefined ||
  (Array.isArray(value) && value.length === 0) ||
  (field.required &&
    (field.kind === 'short_text' || field.kind === 'long_text') &&
    typeof value === 'string' &&
    /^[ \t\r\n]*$/.test(value))

/** A value in the form in which it is kept. */
function clean(field: Field, value: unknown): Value {
  if (field.kind === 'time') return asTime(value)
  if (field.kind === 'date_time') return asInstant(value)
  return value as Value
}

/**
 * Compiles what the server made of a design (JSON Schema and trees) into a check that runs without signal.
 * It goes through the fields in their order of dependence, as core/Record/ValueCheck does.
 */
export function compileRules(design: Design, schema: object, trees: RuleTrees): Rules {
  const check = ajv.compile(schema)
  const fields = new Map(design.fields.map((f) => [f.key, f]))
  const labels = Object.fromEntries(
    design.fields
      .filter((f) => f.choices)
      .map((f) => [f.key, Object.fromEntries(f.choices!.map((c) => [c.code, c.label]))]),
  )
  return (values, here = {}) => {
    const moment = here.now ?? now()
    const zone = here.zone ?? 'UTC'
    const given = Object.fromEntries(
      Object.entries(values).filter(([key, v]) => {
        const f = fields.get(key)
        return f ? !isMissing(f, v) : v !== null && v !== undefined
      }),
    )
    const wrong = schemaProblems(design, given, check)
    const inside: Surroundings & { values: Record<string, Value> } = {
      values: {},
      now: moment,
      zone,
      labels,
      lon: here.lon ?? null,
      lat: here.lat ?? null,
      length: here.length ?? null,
      area: here.area ?? null,
      altitude: here.altitude ?? null,
      visits: here.visits ?? 0,
      latest: here.latest ?? {},
      areas: here.areas,
    }
    const nowText = instantOf(Math.floor(moment.getTime() / 1000)) ?? ''
    const clock = { today: local(nowText, zone).date, now: nowText }
    const hidden = new Set<string>()
    const result: Values = {}
    for (const key of trees.order) {
      const field = fields.get(key)
      if (!field) continue
      let value: Value = null
      if (trees.show[key] && work(trees.show[key] as Tree, inside) !== true) hidden.add(key)
      else if (field.kind === 'calculated')
        value = calculated(trees.formulas[key] as Tree | undefined, inside)
      else if (key in given && !wrong.has(key)) {
        value = clean(field, given[key])
        if (field.read_only && !same(value, moving(field.default ?? null, clock)))
          wrong.set(key, off('read_only', field, value))
        if (wrong.has(key)) value = null
      }
      result[key] = value
      inside.values[key] = value
    }
    for (const field of design.fields)
      if (
        field.kind === 'heading' &&
        trees.show[field.key] &&
        work(trees.show[field.key] as Tree, inside) !== true
      )
        hidden.add(field.key)
    const problems = [...wrong]
      .filter(([key]) => !fields.has(key) || fields.get(key)?.kind === 'heading')
      .map(([, p]) => p)
    const asks: FieldProblem[] = []
    const needed = new Set<string>()
    for (const field of design.fields) {
      const { key } = field
      if (field.kind === 'heading' || field.kind === 'calculated' || hidden.has(key)) continue
      if (field.required || (trees.require[key] && work(trees.require[key] as Tree, inside) === true))
        needed.add(key)
      const bad = wrong.get(key)
      if (bad && bad.code !== 'required') problems.push(bad)
      else if ((result[key] ?? null) === null && needed.has(key))
        problems.push(off('required', field, values[key]))
      else {
        const outside = outsideOf(field, result[key] ?? null, clock)
        if (outside) (field.limits?.outside === 'ask' ? asks : problems).push(outside)
      }
    }
    return { problems, asks, values: result, hidden, needed }
  }
}

function calculated(tree: Tree | undefined, inside: Surroundings): Value {
  const value = tree ? work(tree, inside) : null
  if (typeof value === 'number' && Math.abs(value) > 1e15) return null
  return Array.isArray(value) ? value.join(',') : value
}

/** `today` and `now` stand for the moment when the form is used. */
export const moving = (value: Value, clock: { today: string; now: string }): Value =>
  value === 'today' ? clock.today : value === 'now' ? clock.now : value
const same = (a: Value, b: Value) => JSON.stringify(a) === JSON.stringify(b)

function outsideOf(field: Field, value: Value, clock: { today: string; now: string }): FieldProblem | null {
  if (value === null || !field.limits) return null
  const lowest = moving(field.limits.lowest ?? null, clock)
  const highest = moving(field.limits.highest ?? null, clock)
  if (lowest !== null && value < lowest) return off('below_lowest', field, value, { lowest: String(lowest) })
  if (highest !== null && value > highest)
    return off('above_highest', field, value, { highest: String(highest) })
  return null
}

function schemaProblems(
  design: Design,
  given: Record<string, unknown>,
  check: ValidateFunction,
): Map<string, FieldProblem> {
  const problems = new Map<string, FieldProblem>()
  if (check(given)) return problems
  for (const error of check.errors ?? []) {
    const problem = read(design, given, error)
    if (!problems.has(problem.field)) problems.set(problem.field, problem)
  }
  return problems
}

function read(design: Design, values: Record<string, unknown>, error: ErrorObject): FieldProblem {
  const params = error.params as Record<string, unknown>
  const key =
    error.keyword === 'required'
      ? String(params.missingProperty)
      : error.keyword === 'additionalProperties'
        ? String(params.additionalProperty)
        : (error.instancePath.split('/')[1] ?? '').replaceAll('~1', '/').replaceAll('~0', '~')
  const field = design.fields.find((f) => f.key === key)
  if (!field || error.keyword === 'additionalProperties')
    return { field: key, code: 'field_unknown', message: t('problem.field_unknown', { key }) }
  return off(codeOf(error.keyword, field), field, values[key])
}

const NOT_OF_KIND: Partial<Record<FieldKind, string>> = {
  date: 'not_date',
  time: 'not_time',
  date_time: 'not_date_time',
  whole_number: 'not_whole',
  decimal: 'not_number',
  yes_no: 'not_yes_no',
  one_choice: 'choice_unknown',
  several_choices: 'choice_unknown',
}

function codeOf(keyword: string, field: Field): string {
  if (keyword === 'required') return 'required'
  if (keyword === 'minimum') return 'below_lowest'
  if (keyword === 'maximum') return 'above_highest'
  if (keyword === 'maxLength') return 'text_too_long'
  if (keyword === 'uniqueItems') return 'choice_doubled'
  if (keyword === 'pattern' && (field.kind === 'short_text' || field.kind === 'long_text'))
    return field.shape ? 'not_shape' : 'required'
  return NOT_OF_KIND[field.kind] ?? 'not_text'
}

function off(code: string, field: Field, value: unknown, params: Record<string, string> = {}): FieldProblem {
  const shown =
    typeof value === 'string' && value.length > 60
      ? `${value.slice(0, 60)}…`
      : typeof value === 'string' || typeof value === 'number'
        ? value
        : JSON.stringify(value ?? '')
  const whole = field.kind === 'whole_number' ? Number.MAX_SAFE_INTEGER : 1e15
  return {
    field: field.key,
    code,
    message: t(`problem.${code}` as TextKey, {
      key: field.key,
      label: field.label,
      value: shown,
      lowest: field.limits?.lowest ?? -whole,
      highest: field.limits?.highest ?? whole,
      most: field.most ?? (field.kind === 'short_text' ? 255 : 10_000),
      length: typeof value === 'string' ? [...value].length : 0,
      known:
        (field.choices ?? [])
          .slice(0, 8)
          .map((c) => c.code)
          .join(', ') + ((field.choices?.length ?? 0) > 8 ? ', …' : ''),
      shape: field.shape ?? '',
      ...params,
    }),
  }
}

/** A whole number as people type it; anything else stays the text that it is, for the rules to refuse. */
export function readWhole(text: string): Value {
  const trimmed = text.trim()
  if (trimmed === '') return null
  const n = Number(trimmed)
  return /^[+-]?\d+$/.test(trimmed) && Number.isSafeInteger(n) ? n : text
}

/** A number with a point or a comma; anything else stays text. */
export function readDecimal(text: string): Value {
  const trimmed = text.trim()
  if (trimmed === '') return null
  return /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(trimmed) ? Number(trimmed.replace(',', '.')) : text
}

/** The values of the design's fields only, without empty ones: what a record carries. */
export function filled(values: Values): Values {
  return Object.fromEntries(
    Object.entries(values).filter(([, v]) => v !== null && v !== '' && !(Array.isArray(v) && v.length === 0)),
  )
}

/** What a new record begins with. */
export function defaults(design: Design, here: Here = {}): Values {
  const nowText = instantOf(Math.floor((here.now ?? now()).getTime() / 1000)) ?? ''
  const clock = { today: local(nowText, here.zone ?? 'UTC').date, now: nowText }
  return Object.fromEntries(
    design.fields
      .filter((f) => f.default !== undefined && f.default !== null)
      .map((f) => [f.key, moving(f.default as Value, clock)]),
  )
}
