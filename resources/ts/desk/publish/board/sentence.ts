import { measureName } from '../../../shared/board/measureName'
import { formatDate, formatNumber, t, type TextKey } from '../../../shared/texts'
import type { Api, LayerLine, MapDoc, Slice, Tile } from '../../../shared/types'

/** A part of the sentence that a tile is, which one taps to change it. */
export type Part =
  | 'measure'
  | 'layer'
  | 'slice'
  | 'by'
  | 'second'
  | 'shape'
  | 'compare'
  | 'plan'
  | 'lines'
  | 'running'
  | 'bars'
  | 'up'
  | 'columns'
  | 'fields'
  | 'order'
  | 'what'
  | 'count'
  | 'text'
  | 'link'
  | 'reach'
export type Piece = string | { part: Part; words: string }

export type Known = {
  layers: LayerLine[]
  slices: Slice[]
  maps: MapDoc[]
  measurable: Api['Measurable'] | undefined
}

const PARTS: Partial<Record<Tile['kind'], Part[]>> = {
  number: ['measure', 'layer', 'slice', 'compare'],
  target: ['measure', 'layer', 'plan', 'slice'],
  breakdown: ['measure', 'layer', 'by', 'second', 'slice', 'shape'],
  trend: ['measure', 'layer', 'by', 'lines', 'running', 'slice'],
  spread: ['measure', 'layer', 'bars', 'slice'],
  pairs: ['measure', 'up', 'layer', 'by', 'slice'],
  table: ['columns', 'layer', 'by', 'slice'],
  latest: ['layer', 'order', 'fields', 'slice'],
  details: ['layer', 'fields', 'slice'],
  coverage: ['layer', 'reach', 'slice'],
  form: ['layer'],
  map: ['what', 'slice'],
  photos: ['count', 'layer', 'slice'],
  text: ['text'],
  link: ['link'],
  picker: ['layer', 'by'],
}

const MARK = '\u0001'

/** The sentence of a tile, in pieces. */
export function sentenceOf(tile: Tile, known: Known): Piece[] {
  const parts = PARTS[tile.kind] ?? []
  const key = (
    tile.kind === 'map' && tile.map !== undefined ? 'sentence.mapped' : `sentence.${tile.kind}`
  ) as TextKey
  const text = t(key, Object.fromEntries(parts.map((p) => [p, `${MARK}${p}${MARK}`])))
  return text.split(MARK).flatMap((piece, i): Piece[] => {
    if (i % 2 === 1) return [{ part: piece as Part, words: wordsOf(piece as Part, tile, known) }]
    return piece ? [piece] : []
  })
}

const groupLabel = (by: Api['Grouping'] | undefined, m: Api['Measurable'] | undefined) => {
  const found = m?.groupings.find((g) =>
    by?.areas !== undefined ? g.by.areas === by.areas : g.by.field === by?.field,
  )
  const label = found?.label ?? by?.field ?? t('part.by.none')
  return by?.step ? t(`part.by.${by.step}`, { date: label }) : label
}

export const quantityLabel = (m: Api['Measurable'] | undefined) => (key: string) =>
  m?.quantities.find((q) => q.key === key)?.label ?? null

export function wordsOf(part: Part, tile: Tile, known: Known): string {
  const { layers, slices, maps, measurable: m } = known
  const sliceName = (id: number | null | undefined) => slices.find((s) => s.id === id)?.name
  const measure = (of: Api['Measure'] | undefined) => {
    const alone = measureName(of ?? { of: 'count' }, quantityLabel(m))
    const name =
      !of || of.of === 'count' || of.of === 'distinct' ? alone : t('part.measure.the', { measure: alone })
    const slice = sliceName(of?.slice)
    return slice ? t('part.measure.of', { measure: name, slice }) : name
  }
  switch (part) {
    case 'measure':
      return measure(tile.measure)
    case 'up':
      return measure(tile.up)
    case 'layer':
      return layers.find((l) => l.id === tile.layer)?.title ?? t('part.layer.gone')
    case 'slice':
      return sliceName(tile.slice) ?? t('part.slice.all')
    case 'by':
      return groupLabel(tile.by, m)
    case 'second':
      return tile.second ? groupLabel(tile.second, m) : t('part.second.none')
    case 'lines':
      return tile.lines ? t('part.lines', { field: groupLabel(tile.lines, m) }) : t('part.lines.none')
    case 'running':
      return t(tile.running ? 'part.running' : 'part.running.not')
    case 'shape':
      return t(
        tile.shape === 'donut'
          ? 'part.shape.donut'
          : tile.order === 'most'
            ? 'part.shape.most'
            : 'part.shape.bars',
      )
    case 'compare':
      return tile.compare
        ? tile.compare.since
          ? t(`part.compare.since.${tile.compare.against}`, { day: formatDate(tile.compare.since) })
          : t(`part.compare.days.${tile.compare.against}`, { n: tile.compare.days ?? 7 })
        : t('part.compare.none')
    case 'plan':
      return tile.to
        ? t('part.plan.by', { target: formatNumber(tile.target ?? 0), day: formatDate(tile.to) })
        : t('part.plan', { target: formatNumber(tile.target ?? 0) })
    case 'bars':
      return t('part.bars', { n: tile.bars ?? 10 })
    case 'columns':
      return (tile.columns ?? []).map((c) => c.title || measure(c.measure)).join(', ')
    case 'fields':
      if (tile.kind === 'details' && !tile.fields?.length) return t('part.fields.all')
      return tile.fields === undefined
        ? t('part.fields.first')
        : tile.fields.map((key) => quantityLabel(m)(key) ?? key).join(', ') || t('part.fields.none')
    case 'order':
      return t(
        tile.order === 'arrived'
          ? 'part.order.arrived'
          : tile.order === 'name'
            ? 'part.order.name'
            : 'part.order.collected',
      )
    case 'what':
      return tile.map !== undefined
        ? (maps.find((x) => x.id === tile.map)?.title ?? t('part.map.gone'))
        : (layers.find((l) => l.id === tile.layer)?.title ?? t('part.layer.gone'))
    case 'reach':
      return t('part.reach', { metres: tile.metres ?? 50, n: tile.days ?? 7 })
    case 'count':
      return t('part.count', { n: tile.count ?? 12 })
    case 'text':
      return tile.text?.slice(0, 80) || t('part.text.none')
    case 'link':
      return tile.text || tile.address || ''
  }
}
