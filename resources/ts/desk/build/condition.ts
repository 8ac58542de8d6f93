import type { Design, Field } from '../../shared/types'

/** A condition that can be chosen from lists; anything else is written as a formula. */
export type Simple = { field: string; test: Test; value: string }
export type Test = 'is' | 'is_not' | 'at_least' | 'at_most' | 'given' | 'missing' | 'has'

export function testsFor(field: Field | undefined): Test[] {
  switch (field?.kind) {
    case 'several_choices':
      return ['has', 'given', 'missing']
    case 'whole_number':
    case 'decimal':
    case 'date':
    case 'time':
      return ['is', 'at_least', 'at_most', 'given', 'missing']
    case 'date_time':
      return ['at_least', 'at_most', 'given', 'missing']
    case 'long_text':
      return ['given', 'missing']
    default:
      return ['is', 'is_not', 'given', 'missing']
  }
}

const SIGN: Partial<Record<Test, string>> = { is: '==', is_not: '!=', at_least: '>=', at_most: '<=' }
const quoted = (text: string) => `"${text.replaceAll('\\', '\\\\').replaceAll('"', '\\"')}"`

/** The formula that says it; empty while its value is. */
export function written({ field, test, value }: Simple, design: Design): string {
  if (test === 'given' || test === 'missing') return `${test}(${field})`
  const kind = design.fields.find((f) => f.key === field)?.kind
  if (value === '') return ''
  if (test === 'has') return `has(${field}, ${quoted(value)})`
  const literal =
    kind === 'yes_no'
      ? value
      : kind === 'whole_number' || kind === 'decimal'
        ? value.replace(',', '.')
        : quoted(value)
  return `${field} ${SIGN[test]} ${literal}`
}

/** Reads back what `written` made; null for what people wrote in other ways. */
export function simple(text: string, design: Design): Simple | null {
  const called = /^(given|missing)\((\w+)\)$/.exec(text)
  if (called) return { field: called[2]!, test: called[1] as Test, value: '' }
  const has = /^has\((\w+), "((?:[^"\\]|\\.)*)"\)$/.exec(text)
  if (has) return { field: has[1]!, test: 'has', value: has[2]!.replaceAll(/\\(.)/g, '$1') }
  const compared = /^(\w+) (==|!=|>=|<=) (?:"((?:[^"\\]|\\.)*)"|(true|false|-?[\d.]+))$/.exec(text)
  if (!compared || !design.fields.some((f) => f.key === compared[1])) return null
  const test = (Object.keys(SIGN) as Test[]).find((k) => SIGN[k] === compared[2])!
  return { field: compared[1]!, test, value: compared[3]?.replaceAll(/\\(.)/g, '$1') ?? compared[4] ?? '' }
}
