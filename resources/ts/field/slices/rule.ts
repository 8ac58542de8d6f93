import type { Value } from '../../shared/types'

/** A rule as it is stored (PinYard\Filter\Filter): all, any or none of its parts. */
export type Rule = { all: Part[] } | { any: Part[] } | { none: Part[] }
export type Part = Rule | Condition
export type Condition = { field: string; test: string; value?: unknown; of?: 'visit' }

export type Rules = {
  /** Today, by the programme's calendar. */
  today: string
  zone: string
  /** The kind of a field of the record or of its visits, that of the outcome where it is calculated. */
  kindOf: (key: string, ofVisit: boolean) => string | undefined
  /** The shape of an area; null where it is no more, undefined where this phone does not carry its layer. */
  areaOf: (layer: number, record: string) => GeoJSON.Polygon | GeoJSON.MultiPolygon | null | undefined
  visitsTo: (record: string) => Asked[]
}

/** What is asked of a record, or of a visit to one. */
export type Asked = {
  id: string
  lon: number
  lat: number
  values: Record<string, Value | undefined>
  collected_at: string
  mine?: boolean | undefined
}

export const isRule = (part: Part): part is Rule => !('field' in part)

export const partsOf = (rule: Rule): Part[] =>
  'all' in rule ? rule.all : 'any' in rule ? rule.any : rule.none

/** All conditions of a rule, wherever they stand. */
export const conditionsOf = (rule: Rule): Condition[] =>
  partsOf(rule).flatMap((part) => (isRule(part) ? conditionsOf(part) : [part]))
