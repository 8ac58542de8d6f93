import DesktopWindows from '@mui/icons-material/DesktopWindows'
import History from '@mui/icons-material/History'
import Print from '@mui/icons-material/PrintOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useCallback, useEffect, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import { paint } from '../../../shared/paint'
import { ApiError } from '../../../shared/api'
import { BoardTiles } from '../../../shared/board/BoardTiles'
import { FormSlot } from '../../../shared/board/formSlot'
import { askedOn, usePicksInAddress, type Picking } from '../../../shared/board/picks'
import { useBoard } from '../../../shared/board/useBoard'
import { WallMode } from '../../../shared/board/WallMode'
import { localToday } from '../../../shared/form/RecordForm'
import { Pill } from '../../../shared/parts/Pill'
import { Problems } from '../../../shared/parts/Problems'
import { formatDate, formatInstant, t } from '../../../shared/texts'
import type { BoardAnswers } from '../../../shared/types'
import { useProgramme } from '../../ProgrammePage'
import { BesideTiles, type Side } from './BesideTiles'
import { DeskForm } from './DeskForm'
import { dayQuery, usePastInAddress, type Past } from './pastDay'
import { PastDayBar } from './PastDayBar'
import { recordsOf } from './recordsOf'

/** A board to be read and used, by everyone in the programme. */
export function BoardPage() {
  const { board: id } = useParams()
  const programme = useProgramme()
  const picking = usePicksInAddress(true)
  const [past, putPast] = usePastInAddress()
  const [choosing, setChoosing] = useState(past.on !== null || past.beside !== null)
  const base = `/boards/${Number(id)}`
  const day = dayQuery(past.on, past.collected)
  const { board, query, error, asOf } = useBoard(`${base}/answers`, askedOn(day, picking.picks))
  const [wall, setWall] = useState(location.hash === '#wall')
  const leave = useCallback(() => setWall(false), [])
  useEffect(() => {
    if (board) document.title = `${board.title} · ${board.programme}`
  }, [board])
  if (!board)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={error} />
        {past.on && error !== null && (
          <Button sx={{ mt: 3 }} onClick={() => putPast({ on: null, collected: false })}>
            {t('past.now')}
          </Button>
        )}
      </Box>
    )
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, overflow: 'auto', flex: 1 }}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap', mb: 3 }}>
        <Typography variant="h1" sx={{ flex: '1 1 240px', minWidth: 0, overflowWrap: 'anywhere' }}>
          {board.title}
        </Typography>
        {board.stood ? (
          <Pill tone="soft">
            {t('past.shown', { day: formatDate(board.stood.day), by: board.stood.by_collecting ? 1 : 0 })}
          </Pill>
        ) : (
          <Typography variant="body2" sx={{ color: error ? paint.buoyDark : 'text.secondary' }}>
            {error && !(error instanceof ApiError)
              ? t('board.away')
              : t('board.asof', { when: formatInstant(asOf ?? board.as_of) })}
          </Typography>
        )}
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, displayPrint: 'none' }}>
          {programme.makes && (
            <Button
              variant="outlined"
              component={RouterLink}
              to={`/desk/p/${programme.id}/publish/board/${Number(id)}`}>
              {t('board.view.arrange')}
            </Button>
          )}
          <Button
            variant="outlined"
            startIcon={<History />}
            aria-expanded={choosing}
            onClick={() => setChoosing((on) => !on)}>
            {t('past.open')}
          </Button>
          <Button variant="outlined" startIcon={<Print />} onClick={() => print()}>
            {t('board.print')}
          </Button>
          <Button startIcon={<DesktopWindows />} onClick={() => setWall(true)}>
            {t('wall.begin')}
          </Button>
        </Box>
      </Box>
      <Problems error={error instanceof ApiError ? error : null} />
      {choosing && (
        <PastDayBar
          board={Number(id)}
          programme={programme.id}
          today={localToday(programme.time_zone)}
          past={past}
          onChange={putPast}
          onClose={() => setChoosing(false)}
        />
      )}
      {past.beside ? (
        <WithBeside
          key={past.beside.board}
          left={{ board, base, query, head: head(board) }}
          beside={past.beside}
          collected={past.collected}
          picking={picking}
        />
      ) : (
        <FormSlot.Provider value={DeskForm}>
          <BoardTiles
            board={board}
            base={base}
            picking={picking}
            query={query}
            day={day}
            away={Boolean(error)}
            {...(past.on ? {} : { recordsOf: recordsOf(programme.id) })}
          />
        </FormSlot.Provider>
      )}
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

/** The board with another, or another day of it, beside. */
function WithBeside({
  left,
  beside,
  collected,
  picking,
}: {
  left: Side
  beside: NonNullable<Past['beside']>
  collected: boolean
  picking: Picking
}) {
  const base = `/boards/${beside.board}`
  const other = useBoard(`${base}/answers`, askedOn(dayQuery(beside.on, collected), picking.picks))
  if (!other.board) return other.error ? <Problems error={other.error} /> : null
  return (
    <>
      <Problems error={other.error instanceof ApiError ? other.error : null} />
      <BesideTiles
        left={left}
        right={{ board: other.board, base, query: other.query, head: head(other.board) }}
        picking={picking}
      />
    </>
  )
}

const head = (board: BoardAnswers) =>
  t('past.head', {
    programme: board.programme,
    day: board.stood ? formatDate(board.stood.day) : t('past.today'),
  })
