import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import useMediaQuery from '@mui/material/useMediaQuery'
import { phoneOrder } from '../../../shared/board/layout'
import { PickingContext, type Picking } from '../../../shared/board/picks'
import { TileFrame } from '../../../shared/board/TileFrame'
import { t } from '../../../shared/texts'
import type { AnsweredTile, BoardAnswers } from '../../../shared/types'

/** One of the two: what it answers, and how that was asked. */
export type Side = { board: BoardAnswers; base: string; query: string; head: string }

/**
 * Two boards, or two days of one, tile by tile: those of the same id stand beside each other, or else those that are
 * called alike. What the other has alone comes last.
 */
export function BesideTiles({ left, right, picking }: { left: Side; right: Side; picking: Picking }) {
  const narrow = useMediaQuery('(max-width: 619.95px)')
  const rows = pairs(left.board, right.board)
  const cell = (side: Side, tile: AnsweredTile | undefined) =>
    tile ? (
      <TileFrame
        tile={tile}
        base={side.base}
        query={side.query}
        today={side.board.today}
        area={side.board.area as [number, number, number, number]}
        records={null}
      />
    ) : (
      !narrow && (
        <Box
          sx={{
            border: '2px dashed',
            borderColor: 'divider',
            borderRadius: 1.5,
            display: 'grid',
            placeItems: 'center',
            color: 'text.secondary',
            p: 3,
          }}>
          {t('past.beside.lacks')}
        </Box>
      )
    )
  return (
    <PickingContext.Provider value={picking}>
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: narrow ? 'minmax(0,1fr)' : 'minmax(0,1fr) minmax(0,1fr)',
        }}>
        {!narrow &&
          [left, right].map((side, i) => (
            <Typography
              key={i}
              variant="h2"
              sx={{
                position: 'sticky',
                top: { xs: -12, md: -20 },
                zIndex: 2,
                bgcolor: 'background.default',
                py: 1.5,
                overflowWrap: 'anywhere',
              }}>
              {side.head}
            </Typography>
          ))}
        {rows.map(({ of, other }, i) =>
          [[left, of] as const, [right, other] as const].map(([side, tile], n) => (
            <Box
              key={`${i}.${n}`}
              role="group"
              aria-label={`${tile?.title ?? ''}, ${side.head}`}
              sx={{
                display: 'grid',
                height: (tile ?? of ?? other)?.kind === 'map' ? 320 : 'auto',
                maxHeight: 460,
              }}>
              {narrow && tile && (
                <Typography variant="body2" color="text.secondary">
                  {side.head}
                </Typography>
              )}
              {cell(side, tile)}
            </Box>
          )),
        )}
      </Box>
    </PickingContext.Provider>
  )
}

function pairs(left: BoardAnswers, right: BoardAnswers) {
  const order = (board: BoardAnswers) =>
    phoneOrder(board.tiles.map((tile) => ({ ...tile, id: tile.id ?? '' }))) as AnsweredTile[]
  const rest = order(right)
  const take = (of: AnsweredTile) => {
    const at = [
      rest.findIndex((one) => one.id === of.id),
      rest.findIndex((one) => one.title === of.title && one.kind === of.kind),
    ].find((n) => n >= 0)
    return at === undefined ? undefined : rest.splice(at, 1)[0]
  }
  const rows: { of: AnsweredTile | undefined; other: AnsweredTile | undefined }[] = order(left).map((of) => ({
    of,
    other: take(of),
  }))
  return [...rows, ...rest.map((other) => ({ of: undefined, other }))]
}
