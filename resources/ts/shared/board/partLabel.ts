import { formatDate, t } from '../texts'
import type { AnsweredTile } from '../types'
import { stepName } from './numbers'

/** What a picked part of a tile is called, for its chip. */
export function partLabel(tile: AnsweredTile, part: string): string {
  const span = /^(\d{4}-\d\d-\d\d)\.\.(\d{4}-\d\d-\d\d)$/.exec(part)
  if (span)
    return span[1] === span[2] ? formatDate(span[1]!) : `${formatDate(span[1]!)} – ${formatDate(span[2]!)}`
  if (tile.kind === 'crews') return tile.answer.people.find((p) => String(p.crew_id) === part)?.crew ?? part
  // An area on a map brings its name along.
  if (tile.kind === 'map') return part.split(':').slice(2).join(':') || t('map.area')
  const lines =
    tile.kind === 'breakdown' || tile.kind === 'table'
      ? tile.answer.rows
      : tile.kind === 'pairs'
        ? tile.answer.points
        : tile.kind === 'picker'
          ? tile.answer.lines
          : []
  const line = lines.find((l) => (l.code ?? '') === part)
  const step =
    tile.kind === 'breakdown' || tile.kind === 'table' || tile.kind === 'pairs' ? tile.answer.step : null
  return step && line?.code ? stepName(line.code, step) : (line?.label ?? part.replace('..', ' – '))
}
