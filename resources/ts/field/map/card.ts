import { t } from '../../shared/texts'
import type { Api, CardView, Field, Value } from '../../shared/types'
import type { PackLayer, PhoneRecord } from '../db'
import { nameBy } from '../name'
import { workedBy } from './workedText'

type Card = Api['MapCard']
type Line = NonNullable<Card['text']>[number]
type Part = Line['parts'][number]
type Piece = CardView['text'][number][number]

/** The visits to the record that are on this phone, and the layer that they belong to. */
export type Visits = { layer: PackLayer; records: PhoneRecord[] }

/** Of more than these the latest. */
const MOST_VISITS = 100

/** What colours an area, with its value; null where it has none. */
export type Tallied = { label: string; text: string | null }

/**
 * The card of a record on a map, put together on the phone as the server does (App\Maps\LayerPage, CardSentences,
 * PinYard\Carto\CardText); tests/vectors/cards.json holds both together. Photos are on the record's own screen.
 *
 * @param zone of the programme: formulas may ask which day it is
 */
export function cardOf(
  card: Card,
  layer: PackLayer,
  record: PhoneRecord,
  zone: string,
  tallied: Tallied | null = null,
  visits: Visits | null = null,
): CardView {
  const fields = new Map(layer.design.fields.map((f) => [f.key, f]))
  const worked = workedBy(layer, zone)
  const lines = card.text ?? []
  const said = new Set(lines.flatMap((l) => l.parts.flatMap((p) => ('field' in p ? [p.field] : []))))
  const named =
    layer.name_field !== null && (card.fields.includes(layer.name_field) || said.has(layer.name_field))
  const name = named ? fields.get(layer.name_field ?? '') : undefined
  const piece = (part: Part): Piece => {
    if ('text' in part) return { text: part.text, is: 'words' }
    if ('formula' in part) {
      const text = worked(card.trees?.[part.formula], record)
      return known(text, kindOf(undefined, text, false))
    }
    if ('tally' in part) return known(tallied?.text ?? null, 'value')
    const field = fields.get(part.field)
    const value = record.values[part.field]
    return known(field ? nameBy(field, value) : null, kindOf(field, value, part.as === 'ago'))
  }
  return {
    id: record.id,
    name: name ? nameBy(name, record.values[name.key]) : null,
    text: lines
      .filter((line) => !line.only || fits(line.only, record.values[line.only.field]))
      .map((line) => line.parts.map(piece)),
    visits: visitsOf(card, visits),
    chart: card.chart ? chartOf(card.chart, fields, record) : null,
    collected_at: record.collected_at,
    values: [
      ...(tallied
        ? [{ label: tallied.label, kind: 'calculated' as const, text: tallied.text ?? t('tally.none') }]
        : []),
      ...layer.design.fields.flatMap((field) => {
        const value = record.values[field.key]
        const text = card.fields.includes(field.key) ? nameBy(field, value) : null
        const kind = kindOf(field, value, false) === 'date' ? ('date' as const) : field.kind
        return text === null ? [] : [{ label: field.label, kind, text }]
      }),
    ],
    photos: [],
  }
}

function visitsOf(card: Card, visits: Visits | null): CardView['visits'] {
  if (!card.visits || !visits) return null
  const field = visits.layer.design.fields.find((f) => f.key === card.visits?.field)
  const list = visits.records
    .toSorted((a, b) => b.collected_at.localeCompare(a.collected_at) || b.id.localeCompare(a.id))
    .slice(0, MOST_VISITS)
    .map((v) => {
      const value = field ? v.values[field.key] : null
      return {
        at: v.collected_at,
        value: typeof value === 'number' ? value : null,
        text: field ? nameBy(field, value) : null,
      }
    })
  return { count: visits.records.length, label: field?.label ?? null, list }
}

const known = (text: string | null, is: Piece['is']): Piece =>
  text === null || text === '' ? { text: t('card.unknown'), is: 'missing' } : { text, is }

/** How the reader gets a value: days and moments in their own way. */
function kindOf(
  field: Field | { kind: 'calculated' } | undefined,
  value: Value | undefined,
  ago: boolean,
): Piece['is'] {
  const text = typeof value === 'string' ? value : ''
  // Of what is worked out the value tells what it is.
  const calculated = field === undefined || field.kind === 'calculated'
  const day = field?.kind === 'date' || (calculated && /^\d{4}-\d\d-\d\d$/.test(text))
  const moment = field?.kind === 'date_time' || (calculated && /^\d{4}-\d\d-\d\dT[\d:]{8}Z$/.test(text))
  if (!day && !moment) return 'value'
  return ago ? 'ago' : day ? 'date' : 'moment'
}

/** Whether a sentence is said of a record with this value (PinYard\Carto\CardText::fits). */
function fits(only: NonNullable<Line['only']>, value: Value | undefined): boolean {
  const asked = only.value as string | number | boolean | undefined
  const missing =
    value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0)
  const same = Array.isArray(value)
    ? value.includes(asked as string)
    : typeof value === 'number'
      ? isNumeric(asked) && Number(asked) === value
      : value === asked
  switch (only.test) {
    case 'there':
      return !missing
    case 'missing':
      return missing
    case 'is':
      return !missing && same
    case 'is_not':
      return missing || !same
    default: {
      if (missing || Array.isArray(value)) return false
      const below =
        isNumeric(value) && isNumeric(asked)
          ? Number(value) < Number(asked)
          : String(value) < String(asked ?? '')
      return (only.test === 'below') === below
    }
  }
}

const isNumeric = (value: unknown): boolean =>
  typeof value === 'number' ||
  (typeof value === 'string' && value.trim() !== '' && Number.isFinite(Number(value)))

function chartOf(
  chart: NonNullable<Card['chart']>,
  fields: Map<string, Field>,
  record: PhoneRecord,
): CardView['chart'] {
  const bars = chart.fields.flatMap((key) => {
    const field = fields.get(key)
    const value = record.values[key]
    // What is missing is no part of anything; and of a whole there are no parts below zero.
    return field && typeof value === 'number' && (chart.kind !== 'donut' || value >= 0)
      ? [{ label: field.label, value, text: nameBy(field, value) ?? '' }]
      : []
  })
  return bars.length === 0 ? null : { kind: chart.kind, bars }
}
