import { t } from '../texts'
import type { AnsweredTile } from '../types'
import { stepName } from './numbers'

type Cell = string | number | null

/** What a tile tells as rows, its heads first; null where there is nothing to put into rows. */
export function rowsOf(tile: AnsweredTile): Cell[][] | null {
  switch (tile.kind) {
    case 'number':
      return [[tile.title, 'n'], [tile.answer.value, tile.answer.n], ...(tile.answer.line ?? [])]
    case 'target':
      return [
        [tile.title, t('target.target'), t('target.due')],
        [tile.answer.value, tile.answer.target, tile.answer.due],
      ]
    case 'coverage':
      return [['', '%'], ...tile.answer.rows.map((r): Cell[] => [r.name, Math.round(r.share * 1000) / 10])]
    case 'breakdown': {
      const lines = tile.answer.lines.map((l) => l.label ?? t('legend.other'))
      return [
        ['', tile.title, 'n', '%', ...lines],
        ...tile.answer.rows.map((r): Cell[] => [
          tile.answer.step && r.code ? stepName(r.code, tile.answer.step) : r.label,
          r.value,
          r.n,
          r.share,
          ...(r.parts ?? []),
        ]),
      ]
    }
    case 'trend':
      return [
        ['', ...tile.answer.lines.map((l) => l.label ?? tile.title)],
        ...tile.answer.steps.map((at, i): Cell[] => [
          at,
          ...tile.answer.lines.map((l) => l.values[i] ?? null),
        ]),
      ]
    case 'spread':
      return [
        [t('spread.from'), t('spread.to'), 'n'],
        ...tile.answer.bars.map((b): Cell[] => [b.from, b.to, b.count]),
      ]
    case 'pairs':
      return [
        ['', 'x', 'y', 'n'],
        ...tile.answer.points.map((p): Cell[] => [p.label ?? p.code, p.x, p.y, p.n]),
      ]
    case 'table':
      return [
        ['', ...tile.answer.columns.map((c, i) => c.title || String(i + 1))],
        ...tile.answer.rows.map((r): Cell[] => [r.label ?? r.code, ...r.cells]),
      ]
    case 'latest':
      return [
        [t('record.name'), ...tile.answer.labels, t('latest.at')],
        ...tile.answer.records.map((r): Cell[] => [r.name, ...r.details, r.at]),
      ]
    default:
      return null
  }
}

/**
 * As CSV (RFC 4180). What a spreadsheet would run as a formula is told to be text (OWASP, CSV Injection); numbers stay
 * what they are.
 */
export function csvOf(rows: Cell[][]): string {
  const cell = (value: Cell) => {
    if (value === null) return ''
    if (typeof value === 'number') return String(value)
    const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value
    return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
  }
  return `\uFEFF${rows.map((row) => row.map(cell).join(',')).join('\r\n')}\r\n`
}
