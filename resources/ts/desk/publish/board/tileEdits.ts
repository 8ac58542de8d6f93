import { v7 as uuid } from 'uuid'
import { t } from '../../../shared/texts'
import type { Api, Tile, TileKind } from '../../../shared/types'

type Measurable = Api['Measurable']

/** Columns and rows in which a kind of tile comes to a board (PinYard\Board\Proposal). */
const SIZES: Record<TileKind, [number, number]> = {
  number: [3, 2],
  target: [6, 2],
  breakdown: [4, 4],
  trend: [6, 4],
  spread: [4, 4],
  pairs: [6, 4],
  table: [6, 4],
  latest: [4, 4],
  details: [4, 5],
  form: [4, 5],
  map: [6, 5],
  coverage: [4, 5],
  crews: [4, 4],
  outings: [4, 4],
  photos: [6, 3],
  text: [4, 2],
  link: [3, 2],
  picker: [3, 2],
}

export const KINDS = Object.keys(SIZES) as TileKind[]

/** Those that read the records of one layer. */
export const readsLayer = (tile: Tile) => tile.layer !== undefined

const firstNumber = (m: Measurable) =>
  m.quantities.find((q) => q.number && !q.key.startsWith('@')) ?? m.quantities.find((q) => q.number)
const firstGroup = (m: Measurable) =>
  m.groupings.find((g) => !g.time && g.parts) ?? m.groupings.find((g) => !g.time)
const firstTime = (m: Measurable) => m.groupings.find((g) => g.time)

/** Which kinds records of a layer can be shown as. */
export function kindsFor(m: Measurable, photos: boolean): TileKind[] {
  const number = firstNumber(m) !== undefined
  const group = firstGroup(m) !== undefined
  return KINDS.filter((kind) =>
    kind === 'coverage'
      ? m.quantities.some((q) => q.key === '@length')
      : kind === 'spread'
        ? number
        : kind === 'pairs'
          ? number && group
          : kind === 'photos'
            ? photos
            : true,
  )
}

const meanOf = (m: Measurable): Api['Measure'] => {
  const number = firstNumber(m)
  return number ? { of: 'mean', field: number.key } : { of: 'count' }
}

/**
 * A tile made into another kind, keeping what goes on meaning something: layer, slice, measure, grouping, title,
 * question.
 */
export function asKind(tile: Tile, kind: TileKind, m: Measurable, layer: number): Tile {
  const [width, height] = SIZES[kind]
  const { id, title, question, page, slice, measure, names } = tile
  const base: Tile = {
    id,
    kind,
    title,
    width,
    height,
    ...(question ? { question } : {}),
    ...(page ? { page } : {}),
  }
  const reads = { layer: tile.layer ?? layer, ...(slice ? { slice } : {}) }
  const number = measure?.of === 'mean' ? measure : meanOf(m)
  const group = (tile.by && !tile.by.step ? tile.by : undefined) ?? firstGroup(m)?.by
  const time = (tile.by?.step ? tile.by : undefined) ?? { ...firstTime(m)?.by, step: 'week' as const }
  const measured = measure ? { measure } : {}
  switch (kind) {
    case 'number':
      return { ...base, ...reads, ...measured }
    case 'target':
      return { ...base, ...reads, ...measured, target: 100 }
    case 'breakdown':
    case 'table':
      return {
        ...base,
        ...reads,
        ...(kind === 'breakdown' ? measured : { columns: [{ measure: measure ?? { of: 'count' } }] }),
        by: group ?? time,
      }
    case 'picker':
      return { ...base, ...reads, by: group ?? time }
    case 'trend':
      return { ...base, ...reads, ...measured, by: time }
    case 'spread':
      return { ...base, ...reads, measure: number }
    case 'pairs':
      return { ...base, ...reads, measure: { of: 'count' }, up: number, by: group ?? time }
    case 'coverage':
      return { ...base, ...reads, metres: tile.metres ?? 50, days: tile.days ?? 7 }
    case 'form':
      return { ...base, layer: reads.layer }
    case 'details':
      return { ...base, ...reads, photo: true, ...(names ? { names } : {}) }
    case 'latest':
    case 'map':
    case 'photos':
      return { ...base, ...reads, ...(names ? { names } : {}) }
    case 'text':
      return {
        ...base,
        text: t('tile.text.first'),
        values: [{ layer: reads.layer, measure: { of: 'count' } }],
      }
    case 'link':
      return { ...base, address: 'https://' }
    default:
      return base
  }
}

export const newTile = (title: string, layer: number, m: Measurable): Tile =>
  asKind({ id: uuid(), kind: 'number', title, width: 3, height: 2 }, 'number', m, layer)

/** A tile with some of it changed; what is undefined goes. */
export function changed(tile: Tile, part: { [K in keyof Tile]?: Tile[K] | undefined }): Tile {
  const next = { ...tile, ...part } as Record<string, unknown>
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key]
  return next as Tile
}

/** What goes without saying, by kind (core/Board/Tiles). */
const UNSAID: Partial<Record<TileKind, Partial<Tile>>> = {
  number: { measure: { of: 'count' } },
  target: { measure: { of: 'count' } },
  breakdown: { measure: { of: 'count' }, shape: 'bars', order: 'list' },
  trend: { measure: { of: 'count' } },
  spread: { bars: 10 },
  latest: { order: 'collected', count: 8 },
  photos: { count: 12 },
  coverage: { metres: 50, days: 7 },
  link: { text: '' },
}

/**
 * A tile with what goes without saying said. The server would say it, and whoever changes it before that is heard would
 * be asked about a change that nobody made.
 */
export const said = (tile: Tile): Tile => ({ ...UNSAID[tile.kind], ...tile })
