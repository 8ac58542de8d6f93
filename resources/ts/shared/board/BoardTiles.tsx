import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Chip from '@mui/material/Chip'
import Tab from '@mui/material/Tab'
import Tabs from '@mui/material/Tabs'
import useMediaQuery from '@mui/material/useMediaQuery'
import { useMemo, useState } from 'react'
import { t } from '../texts'
import type { AnsweredTile, BoardAnswers } from '../types'
import { crewsOn } from './crews'
import { layOut, phoneOrder } from './layout'
import { partLabel } from './partLabel'
import { askedOn, PickingContext, type Picking } from './picks'
import { TileFrame } from './TileFrame'

export const ROW = 76
export const GAP = 12

type Props = {
  board: BoardAnswers
  /** The board's address in the API. */
  base: string
  picking: Picking
  /** What the answers are to (useBoard). */
  query: string
  /** The day that was asked for, as the server is asked; nothing: now. */
  day?: string
  /** Whether the server does not answer: what was picked meanwhile is not shown yet. */
  away?: boolean
  /** Where the records behind a tile are. */
  recordsOf?: (tile: AnsweredTile) => string | null
  /** Drawn as on a phone, or not, whatever the window is. */
  phone?: boolean
  /** The page that is shown, where that is chosen elsewhere. */
  page?: number
  /** Pixels of a row. */
  rowHeight?: number
}

/** The tiles of a page; those of a page that is gone stand on the last. */
const onPage = (board: BoardAnswers, page: number) => {
  const pages = Math.max(1, board.pages.length)
  return board.tiles.filter((tile) => Math.min(tile.page ?? 0, pages - 1) === page)
}

/** How many rows a page takes. */
export const rowsOn = (board: BoardAnswers, page: number) =>
  Object.values(layOut(onPage(board, page).map((tile) => ({ ...tile, id: tile.id ?? '' })))).reduce(
    (most, at) => Math.max(most, at.y + at.h),
    0,
  )

/** The tiles of a board on twelve columns, with what is picked above them; one below the other on a phone. */
export function BoardTiles({
  board,
  base,
  picking,
  query,
  day = '',
  away = false,
  recordsOf,
  phone,
  page: chosen,
  rowHeight = ROW,
}: Props) {
  const narrow = useMediaQuery('(max-width: 819.95px)')
  const small = phone ?? narrow
  const [page, setPage] = useState(0)
  const pages = Math.max(1, board.pages.length)
  const shown = Math.min(chosen ?? page, pages - 1)
  const tiles = onPage(board, shown)
  const frame = (tile: AnsweredTile) => (
    <TileFrame
      tile={tile}
      base={base}
      query={query}
      today={board.today}
      area={board.area as [number, number, number, number]}
      records={recordsOf?.(tile) ?? null}
    />
  )
  const onBoard = useMemo(
    () => ({
      ...picking,
      details: board.tiles.some((tile) => tile.kind === 'details'),
      maps: board.tiles.some((tile) => tile.kind === 'map'),
      crews: crewsOn(board),
    }),
    [picking, board],
  )
  const placed = tiles.map((tile) => ({ ...tile, id: tile.id ?? '' }))
  const spots = layOut(placed)
  return (
    <PickingContext.Provider value={onBoard}>
      {pages > 1 && chosen === undefined && (
        <Tabs
          value={shown}
          onChange={(_, n: number) => setPage(n)}
          variant="scrollable"
          aria-label={t('board.pages')}
          sx={{ minHeight: 40, mb: 2 }}>
          {board.pages.map((title, i) => (
            <Tab
              key={i}
              value={i}
              label={title || t('board.page', { n: i + 1 })}
              sx={{ minHeight: 40, textTransform: 'none' }}
            />
          ))}
        </Tabs>
      )}
      <PickedChips board={board} picking={picking} come={askedOn(day, picking.picks) === query} away={away} />
      {small ? (
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
          {phoneOrder(placed).map((tile) => (
            <Box
              key={tile.id}
              sx={{
                maxHeight: tile.kind === 'map' ? undefined : 560,
                height: tile.kind === 'map' ? 360 : undefined,
                display: 'grid',
              }}>
              {frame(tile as AnsweredTile)}
            </Box>
          ))}
        </Box>
      ) : (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: 'repeat(12, minmax(0, 1fr))',
            gridAutoRows: `${rowHeight}px`,
            gap: `${GAP}px`,
          }}>
          {[...placed]
            // Readers hear them as eyes meet them.
            .sort((a, b) => order(spots[a.id]) - order(spots[b.id]))
            .map((tile) => {
              const at = spots[tile.id]!
              return (
                <Box
                  key={tile.id}
                  sx={{
                    gridColumn: `${at.x + 1} / span ${at.w}`,
                    gridRow: `${at.y + 1} / span ${at.h}`,
                    minWidth: 0,
                    minHeight: 0,
                  }}>
                  {frame(tile as AnsweredTile)}
                </Box>
              )
            })}
        </Box>
      )}
    </PickingContext.Provider>
  )
}

const order = (at: { x: number; y: number } | undefined) => (at ? at.y * 12 + at.x : 0)

/** What is picked; each can be let go, or all of it. */
function PickedChips({
  board,
  picking,
  come,
  away,
}: {
  board: BoardAnswers
  picking: Picking
  come: boolean
  away: boolean
}) {
  const { picks, pick, find, reset } = picking
  const picked = Object.entries(picks.pick)
  const found = Object.entries(picks.find)
  if (picked.length + found.length === 0 || !board.may_pick) return null
  const of = (id: string) => board.tiles.find((tile) => tile.id === id)
  return (
    <Box role="status" sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', mb: 3 }}>
      {picked.map(([id, part]) => {
        const tile = of(id)
        return (
          <Chip
            key={id}
            color="secondary"
            variant="outlined"
            label={
              tile && (board.picked.includes(id) || !come)
                ? `${tile.title}: ${partLabel(tile, part)}`
                : t('board.pick.gone', { part })
            }
            onDelete={() => pick(id, null)}
          />
        )
      })}
      {found.map(([id, text]) => (
        <Chip key={id} variant="outlined" label={`“${text}”`} onDelete={() => find(id, '')} />
      ))}
      <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
        {t(come ? 'board.follow' : away ? 'board.pick.away' : 'board.pick.asking')}
      </Box>
      <Button size="small" variant="outlined" onClick={reset}>
        {t('board.reset')}
      </Button>
    </Box>
  )
}
