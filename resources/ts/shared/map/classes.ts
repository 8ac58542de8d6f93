import { decimal, t } from '../texts'
import type { DensityLook, InsideLook, Look, NumberLook, Peg, Values } from '../types'

/* Which class of a look a record is drawn by, and what classes are called; the server does the same (core/Carto). */

/** By breaks in ascending order: below the first is class 0; a break belongs to the class above it. */
export function indexOf(breaks: number[], value: number): number {
  const above = breaks.findIndex((b) => value < b)
  return above === -1 ? breaks.length : above
}

/** Whether a look goes by classes of numbers. */
export const isByNumbers = (look: Look): look is NumberLook | InsideLook | DensityLook =>
  look.kind === 'classes' || look.kind === 'inside' || look.kind === 'density'

/** The fields that marks differ by. */
export function fieldsOf(look: Look): string[] {
  if (look.kind === 'crossed') return look.fields
  return 'field' in look && look.field !== null ? [look.field] : []
}

/** Steps of shades (PinYard\Carto\Marks\Shades). */
export const SHADES = 64

const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value)

/** What a feature carries as `class`; undefined where the record has no such value, or others decide it. */
export function classOf(look: Look, values: Values): string | undefined {
  if (look.kind === 'single' || look.kind === 'inside' || look.kind === 'density') return undefined
  if (look.kind === 'crossed') {
    const both = look.fields.map((f) => values[f])
    return both.every(isNumber)
      ? both.map((value, i) => indexOf(look.breaks[i] as number[], value)).join('-')
      : undefined
  }
  const value = values[look.field]
  if (look.kind === 'category') return typeof value === 'string' && value !== '' ? value : undefined
  if (!isNumber(value)) return undefined
  if (look.kind === 'classes') return String(indexOf(look.breaks, value))
  const at = Math.floor(((value - look.from) / (look.to - look.from)) * SHADES)
  return String(Math.max(0, Math.min(SHADES - 1, at)))
}

const STEPS = 60

/** How large a record is drawn (PinYard\Carto\SizeBy); undefined where it has no size. */
export function sizeOf(look: Look, values: Values, geometry: string | undefined): number | undefined {
  const value = look.size ? values[look.size.field] : undefined
  if (!look.size || typeof value !== 'number' || !Number.isFinite(value) || value < 0) return undefined
  const share = Math.min(1, value / look.size.most)
  return Math.round((geometry === 'line' ? share : Math.sqrt(share)) * STEPS) / STEPS
}

/** The mark of a record by its class. */
export function pegFor(look: Look, values: Values): Peg {
  if (look.kind === 'single') return look.peg
  // Their colours are worked out where styles are made.
  if (look.kind === 'shades' || look.kind === 'crossed') return look.other
  const code = classOf(look, values)
  const own =
    look.kind === 'category' ? look.classes.find((c) => c.code === code) : look.classes[Number(code ?? -1)]
  return own ?? look.other
}

/** What a class of numbers is called where it has no name of its own. */
export function rangeText(breaks: number[], i: number, unit: string | undefined): string {
  const [from, to] = [breaks[i - 1], breaks[i]]
  const after = unit ? ` ${unit}` : ''
  if (from === undefined && to === undefined) return t('legend.any')
  if (from === undefined) return t('legend.under', { to: numberText(to as number) + after })
  if (to === undefined) return t('legend.over', { from: numberText(from) + after })
  return t('legend.range', { from: numberText(from), to: numberText(to) + after })
}

/** As short as it can be told. */
export const numberText = (number: number) => decimal(String(Number(number.toFixed(6)) + 0).replace('-', '−'))
