import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useEffect, useState } from 'react'
import { useParams } from 'react-router'
import { paint } from '../shared/paint'
import { ApiError } from '../shared/api'
import { BoardTiles } from '../shared/board/BoardTiles'
import { asQuery, usePicksInAddress } from '../shared/board/picks'
import { useBoard } from '../shared/board/useBoard'
import { Problems } from '../shared/parts/Problems'
import { formatInstant, t } from '../shared/texts'
import { ClosedThing } from './Closed'
import { OpenHead } from './OpenHead'

/** A shared board; it keeps itself current. */
export function OpenBoard() {
  const { token } = useParams()
  const [mayPick, setMayPick] = useState(false)
  const picking = usePicksInAddress(mayPick)
  const base = `/open/boards/${token}`
  const { board, query, error, asOf } = useBoard(base, asQuery(picking.picks))
  useEffect(() => {
    if (!board) return
    document.title = `${board.title} · ${board.programme}`
    setMayPick(board.may_pick)
  }, [board])
  if (error instanceof ApiError && error.status === 404) return <ClosedThing />
  if (!board)
    return (
      <Box sx={{ p: 4 }}>
        <Problems error={error} />
      </Box>
    )
  return (
    <Box sx={{ minHeight: '100%', display: 'flex', flexDirection: 'column' }}>
      <OpenHead title={board.title} programme={board.programme}>
        <Typography
          variant="caption"
          sx={{ color: error ? paint.onDarkWarning : paint.onDark, whiteSpace: 'nowrap' }}>
          {error ? t('board.away') : t('board.asof', { when: formatInstant(asOf ?? board.as_of) })}
        </Typography>
      </OpenHead>
      <Box component="main" sx={{ p: { xs: 3, md: 4 } }}>
        <BoardTiles board={board} base={base} picking={picking} query={query} away={Boolean(error)} />
      </Box>
    </Box>
  )
}
