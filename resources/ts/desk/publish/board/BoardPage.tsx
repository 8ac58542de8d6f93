import DesktopWindows from '@mui/icons-material/DesktopWindows'
import Print from '@mui/icons-material/PrintOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useCallback, useEffect, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import { ApiError } from '../../../shared/api'
import { BoardTiles } from '../../../shared/board/BoardTiles'
import { asQuery, usePicksInAddress } from '../../../shared/board/picks'
import { useBoard } from '../../../shared/board/useBoard'
import { WallMode } from '../../../shared/board/WallMode'
import { Problems } from '../../../shared/parts/Problems'
import { formatInstant, t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'
import { recordsOf } from './recordsOf'

/** A board to be read and used, by everyone in the programme. */
export function BoardPage() {
  const { board: id } = useParams()
  const programme = useProgramme()
  const picking = usePicksInAddress(true)
  const base = `/boards/${Number(id)}`
  const { board, query, error, asOf } = useBoard(`${base}/answers`, asQuery(picking.picks))
  const [wall, setWall] = useState(location.hash === '#wall')
  const leave = useCallback(() => setWall(false), [])
  useEffect(() => {
    if (board) document.title = `${board.title} · ${board.programme}`
  }, [board])
  if (!board)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={error} />
      </Box>
    )
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, overflow: 'auto', flex: 1 }}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap', mb: 3 }}>
        <Typography variant="h1" sx={{ flex: '1 1 240px', minWidth: 0, overflowWrap: 'anywhere' }}>
          {board.title}
        </Typography>
        <Typography variant="body2" sx={{ color: error ? '#8F2E08' : 'text.secondary' }}>
          {error && !(error instanceof ApiError)
            ? t('board.away')
            : t('board.asof', { when: formatInstant(asOf ?? board.as_of) })}
        </Typography>
        <Box sx={{ display: 'flex', gap: 2, displayPrint: 'none' }}>
          {programme.role === 'coordinator' && (
            <Button
              variant="outlined"
              component={RouterLink}
              to={`/desk/p/${programme.id}/publish/board/${Number(id)}`}>
              {t('board.view.arrange')}
            </Button>
          )}
          <Button variant="outlined" startIcon={<Print />} onClick={() => print()}>
            {t('board.print')}
          </Button>
          <Button startIcon={<DesktopWindows />} onClick={() => setWall(true)}>
            {t('wall.begin')}
          </Button>
        </Box>
      </Box>
      <Problems error={error instanceof ApiError ? error : null} />
      <BoardTiles
        board={board}
        base={base}
        picking={picking}
        query={query}
        away={Boolean(error)}
        recordsOf={recordsOf(programme.id)}
      />
      {wall && (
        <WallMode
          board={board}
          base={base}
          asOf={asOf ?? board.as_of}
          away={Boolean(error)}
          onClose={leave}
        />
      )}
    </Box>
  )
}
