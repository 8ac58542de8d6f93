import type { Api, Tile } from '../../shared/types'

/** What whoever reads a tile might want to be told of; null where there is nothing that could pass. */
export function alertOf(tile: Tile): Api['AlertRule'] | null {
  if (tile.kind === 'crews') return { kind: 'silence', crew: null, hours: 12, on_outings: true }
  if (tile.layer === undefined) return null
  const of = { layer: tile.layer, slice: tile.slice ?? null }
  switch (tile.kind) {
    case 'number':
    case 'target':
      return {
        kind: 'measure',
        ...of,
        measure: tile.measure ?? { of: 'count' },
        passes: 'above',
        value: tile.target ?? 100,
      }
    case 'latest':
    case 'photos':
      return { kind: 'slice', ...of }
    default:
      return null
  }
}

/** Whether nothing of a rule lacks. */
export const isWhole = (rule: Api['AlertRule']) =>
  rule.kind === 'slice' ? Boolean(rule.slice) : rule.kind !== 'measure' || rule.value !== undefined
