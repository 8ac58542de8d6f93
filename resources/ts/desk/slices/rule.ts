import { v7 as uuid } from 'uuid'
import type { Api } from '../../shared/types'

/** What a slice says, as one builds it: a value may still be missing or half typed. */
export type Subject = Api['AskableSubject']
export type FilterTest = Api['FilterTest']
export type Joined = 'all' | 'any' | 'none'
export type Line = {
  id: string
  of: 'record' | 'visit'
  field: string
  test: FilterTest
  /** As the inputs have it: numbers are text until the rule is sent. */
  value: unknown
}
export type Group = { id: string; joined: Joined; parts: Part[] }
export type Part = Line | Group
export type Around = { lon: number; lat: number; metres: string }

export const isGroup = (part: Part): part is Group => 'joined' in part

export const emptyGroup = (joined: Joined = 'all'): Group => ({ id: uuid(), joined, parts: [] })

/** Tests that say all by themselves. */
const ALONE: FilterTest[] = ['today', 'this_week', 'missing', 'there']
const LISTS: FilterTest[] = ['one_of', 'none_of']

export const isAlone = (test: FilterTest) => ALONE.includes(test)
export const takesList = (test: FilterTest) => LISTS.includes(test)

export const subjectOf = (subjects: Subject[], line: Pick<Line, 'of' | 'field'>) =>
  subjects.find((s) => s.of === line.of && s.field === line.field)

export const isNumber = (subject: Subject) =>
  subject.kind === 'whole_number' || subject.kind === 'decimal' || subject.field === '@visits'

export const isDay = (subject: Subject) =>
  subject.kind === 'date' || subject.kind === 'date_time' || subject.field === 'collected_at'

/** What is answered by yes or no. */
export const isYesNo = (subject: Subject) => subject.kind === 'yes_no' || subject.field === '@accepted'

/** A line about something, with its commonest test and nothing asked yet. */
export function lineOn(subject: Subject, id: string = uuid()): Line {
  const test = subject.tests[0] ?? 'is'
  return { id, of: subject.of, field: subject.field, test, value: blank(subject, test) }
}

/** What an input begins with; what was said before stays where it still fits. */
export function blank(subject: Subject, test: FilterTest, before: unknown = undefined): unknown {
  if (isAlone(test)) return null
  if (subject.field === '@own') return true
  if (isYesNo(subject)) return typeof before === 'boolean' ? before : true
  if (takesList(test)) return Array.isArray(before) ? before : single(before)
  if (test === 'between') return isPair(before) ? before : [textOf(before), '']
  if (test === 'last_days') return textOf(before).match(/^\d+$/) ? before : '30'
  if (['in_area', 'in_shape', 'within'].includes(test)) return null
  return Array.isArray(before) ? (before[0] ?? '') : textOf(before)
}

const textOf = (value: unknown) => (typeof value === 'string' ? value : '')
const single = (value: unknown): unknown[] => (value === '' || typeof value !== 'string' ? [] : [value])
const isPair = (value: unknown): value is [string, string] => Array.isArray(value) && value.length === 2

/** A number as people type it, with a comma or a point. */
function number(text: unknown): number | null {
  if (typeof text !== 'string' || !/^\s*[-+−]?\d{1,15}([.,]\d{0,10})?\s*$/.test(text)) return null
  return Number(text.trim().replace('−', '-').replace(',', '.'))
}

/** The value of a line as the server takes it; undefined while it is not complete. */
export function valueOf(line: Line, subject: Subject): unknown {
  const { test, value } = line
  if (isAlone(test)) return null
  const one = (of: unknown) => {
    if (isNumber(subject)) return number(of) ?? undefined
    return typeof of === 'string' && of.trim() !== '' ? of : undefined
  }
  if (subject.field === '@own' || isYesNo(subject)) return value
  if (test === 'last_days') {
    const days = number(value)
    return days !== null && Number.isInteger(days) && days >= 1 ? days : undefined
  }
  if (test === 'between') {
    const pair = Array.isArray(value) ? value.map(one) : []
    const [low, high] = pair as (string | number | undefined)[]
    return low !== undefined && high !== undefined && low <= high ? pair : undefined
  }
  if (takesList(test)) return Array.isArray(value) && value.length > 0 ? value : undefined
  if (test === 'within') {
    const around = value as Around | null
    const metres = number(around?.metres)
    return around && metres !== null && metres > 0 ? { ...around, metres } : undefined
  }
  if (test === 'in_area' || test === 'in_shape') return value ?? undefined
  return one(value)
}

/** The rule as the server reads it, or how many of its lines are not complete yet. */
export function toFilter(group: Group, subjects: Subject[]): { filter: object } | { open: number } {
  let open = 0
  const read = (part: Part): object => {
    if (isGroup(part)) return { [part.joined]: part.parts.map(read) }
    const subject = subjectOf(subjects, part)
    const value = subject && valueOf(part, subject)
    if (value === undefined) open++
    return {
      ...(part.of === 'visit' ? { of: 'visit' } : {}),
      field: part.field,
      test: part.test,
      ...(isAlone(part.test) ? {} : { value }),
    }
  }
  const filter = read(group)
  return open > 0 ? { open } : { filter }
}

/** A saved rule, to go on with. */
export function fromFilter(filter: unknown): Group {
  const read = (part: unknown): Part => {
    const one = (part ?? {}) as Record<string, unknown>
    const joined = (['all', 'any', 'none'] as const).find((word) => Array.isArray(one[word]))
    if (joined) return { id: uuid(), joined, parts: (one[joined] as unknown[]).map(read) }
    return {
      id: uuid(),
      of: one.of === 'visit' ? 'visit' : 'record',
      field: String(one.field),
      test: one.test as FilterTest,
      value: typed(one.value ?? null, one.test === 'between'),
    }
  }
  const part = read(filter)
  return isGroup(part) ? part : { ...emptyGroup(), parts: [part] }
}

/** Numbers as the inputs have them. */
function typed(value: unknown, pair: boolean): unknown {
  if (typeof value === 'number') return String(value)
  if (pair && Array.isArray(value)) return value.map(String)
  if (value && typeof value === 'object' && 'metres' in value)
    return { ...value, metres: String((value as { metres: unknown }).metres) }
  return value
}

/** The rule with one part changed, or taken out where it is null. */
export function withPart(group: Group, id: string, next: Part | null): Group {
  if (group.id === id) return next && isGroup(next) ? next : group
  return {
    ...group,
    parts: group.parts.flatMap((part) => {
      if (part.id === id) return next ? [next] : []
      return [isGroup(part) ? withPart(part, id, next) : part]
    }),
  }
}
