import transliteration from '../../../../core/Design/transliteration.json' with { type: 'json' }
import type { Choice, Design, Field, FieldKind } from '../../shared/types'

/** Kinds in the groups in which people look for them. */
export const KIND_GROUPS = [
  { key: 'write', kinds: ['short_text', 'long_text'] },
  { key: 'count', kinds: ['whole_number', 'decimal', 'yes_no'] },
  { key: 'choose', kinds: ['one_choice', 'several_choices'] },
  { key: 'when', kinds: ['date', 'time', 'date_time'] },
  { key: 'more', kinds: ['calculated', 'heading'] },
] as const satisfies { key: string; kinds: FieldKind[] }[]

/** What stands before a field of each kind, so that kinds are told apart at a glance. */
export const KIND_MARK: Record<FieldKind, string> = {
  short_text: 'Aa',
  long_text: '¶',
  whole_number: '12',
  decimal: '1.5',
  yes_no: '✓',
  date: '▤',
  time: '◷',
  date_time: '▤◷',
  one_choice: '◇',
  several_choices: '☑',
  calculated: 'ƒ',
  heading: 'H',
}

export const blankDesign = (): Design => ({
  title: '',
  purpose: '',
  geometry: 'point',
  fields: [],
  photos: { allowed: true, least: 0, most: 6, max_bytes: 26_214_400 },
  rights: { crew: { add: true, see: 'all', change: 'own', delete: 'none' } },
})

const LETTERS: Record<string, string> = transliteration

/**
 * A machine name made from a label: small letters, digits, underscores. The same as the server makes
 * (core/Design/KeyText.php; tests/vectors/keys.json holds both).
 */
export function keyFrom(label: string, taken: string[], fallback = 'field'): string {
  const bare = [
    ...label
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, ''),
  ]
    .map((letter) => LETTERS[letter] ?? letter)
    .join('')
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
  const whole = /^[a-z]/.test(bare) ? bare : `${fallback}_${bare}`
  const plain = whole.slice(0, 36).replace(/_+$/, '')
  const reserved = [
    'id',
    'lon',
    'lat',
    'collected_at',
    'author',
    'version',
    'photos',
    'true',
    'false',
    'null',
    'and',
    'or',
    'not',
    'in',
    'xor',
    'contains',
    'matches',
    ...taken,
  ]
  let key = plain
  for (let n = 2; reserved.includes(key); n++) key = `${plain}_${n}`
  return key
}

export function newField(kind: FieldKind, fields: Field[]): Field {
  const field: Field = {
    key: keyFrom(
      '',
      fields.map((f) => f.key),
    ),
    label: '',
    kind,
  }
  if (kind === 'one_choice' || kind === 'several_choices')
    return { ...field, choices: [{ code: '', label: '' }] }
  return kind === 'calculated' ? { ...field, formula: '' } : field
}

/**
 * Rows pasted from a spreadsheet or a list: one choice a line, as a label, or as a code and a label parted by
 * a tab, a semicolon or a comma. Empty lines are left out; so are a row of headings, and a title that was
 * merged over both columns.
 */
export function pastedChoices(text: string): { code: string; label: string }[] {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.replace(/\s+$/, ''))
    .filter((line) => line.trim())
  const parted = (by: string) => lines.filter((line) => cells(line, by).filter(Boolean).length === 2).length
  // A comma parts only where nearly every line has just one; labels may have commas of their own.
  const by = lines.some((line) => line.trim().includes('\t'))
    ? '\t'
    : [';', ','].find(
        (d) =>
          lines.length > 1 &&
          parted(d) >= lines.length - 1 &&
          lines.every((line) => cells(line, d).length <= 2),
      )
  if (!by) return lines.map((line) => ({ code: '', label: unquoted(line.trim()) }))
  const rows = lines.map((line) => cells(line, by))
  const two = rows.filter(([x, y]) => x && y).length > rows.length / 2
  return rows
    .filter(
      ([x = '', y = ''], i) =>
        !(i < 2 && two && HEADING.test(x) && (y === '' || HEADING.test(y))) &&
        !(i === 0 && two && (x === '' || y === '')),
    )
    .map(([x = '', y = '']) => (x && y ? { code: x, label: y } : { code: '', label: x || y }))
    .filter((c) => c.label)
}

const HEADING = /^(codes?|values?|keys?|labels?|names?|descriptions?|choices?|meaning|text)$/i
const unquoted = (cell: string) => (/^".*"$/.test(cell) ? cell.slice(1, -1).replaceAll('""', '"') : cell)
const cells = (line: string, by: string) => line.split(by).map((cell) => unquoted(cell.trim()))

/**
 * The document as the server takes it: codes that were left empty are made from their labels, empty rows go.
 */
export function finished(design: Design): Design {
  return {
    ...design,
    ...(design.slots
      ? {
          slots: design.slots
            .filter((s) => s.label.trim() !== '')
            .map(({ hint, ...s }) => ({ ...s, ...(hint ? { hint } : {}) })),
        }
      : {}),
    fields: design.fields.map((field) => {
      const { choices, limits, ...rest } = field
      // What was opened and left empty says nothing.
      const out = Object.fromEntries(
        Object.entries(rest).filter(([, v]) => v !== undefined && v !== null && v !== '' && v !== false),
      ) as unknown as Field
      if (field.default === false) out.default = false
      out.label = field.label
      out.key = field.key
      if (field.kind === 'calculated') out.formula = field.formula ?? ''
      if (limits && (limits.lowest !== undefined || limits.highest !== undefined)) out.limits = limits
      if (choices) out.choices = withCodes(choices)
      return out
    }),
  }
}

export function withCodes(choices: Choice[]): Choice[] {
  const kept = choices.filter((c) => c.label.trim() !== '' || c.code !== '')
  const codes = kept.map((c) => c.code)
  return kept.map((c) => {
    if (c.code !== '') return c
    const code = keyFrom(c.label, codes, 'choice')
    codes.push(code)
    return { ...c, code }
  })
}

/** Whether two documents say the same, in whatever order their parts stand. */
export const alike = (a: unknown, b: unknown) => sorted(a) === sorted(b)
const sorted = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([x], [y]) => (x < y ? -1 : 1)))
      : v,
  )
