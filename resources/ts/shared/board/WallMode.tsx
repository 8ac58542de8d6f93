import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import Typography from '@mui/material/Typography'
import { useEffect, useRef, useState } from 'react'
import { paint } from '../paint'
import { formatInstant, t } from '../texts'
import type { BoardAnswers } from '../types'
import { BoardTiles, rowsOn } from './BoardTiles'
import { NONE, type Picking } from './picks'

const TURNS = [10, 20, 60]
const HEAD = 56
const PAD = 16

const STILL: Picking = {
  picks: NONE,
  mayPick: false,
  pick: () => undefined,
  find: () => undefined,
  show: () => undefined,
  reset: () => undefined,
}

/**
 * A board for a screen on the wall: as large as the window, a page at a time, each for some seconds; the screen stays
 * awake. Escape leaves it.
 */
export function WallMode({
  board: whole,
  base,
  asOf,
  away,
  onClose,
}: {
  board: BoardAnswers
  base: string
  asOf: string
  /** Whether the server is not answering. */
  away: boolean
  onClose: () => void
}) {
  const holder = useRef<HTMLDivElement>(null)
  const board = { ...whole, tiles: whole.tiles.filter((tile) => tile.kind !== 'picker') }
  const pages = Math.max(1, board.pages.length)
  const [page, setPage] = useState(0)
  const [seconds, setSeconds] = useState(20)
  const [height, setHeight] = useState(innerHeight)
  useEffect(() => {
    const resize = () => setHeight(innerHeight)
    const leave = (e: KeyboardEvent) => e.key === 'Escape' && onClose()
    addEventListener('resize', resize)
    addEventListener('keydown', leave)
    holder.current?.focus()
    // A browser that refuses shows it in its window all the same.
    void holder.current?.requestFullscreen?.().catch(() => undefined)
    return () => {
      removeEventListener('resize', resize)
      removeEventListener('keydown', leave)
      if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined)
    }
  }, [onClose])
  useEffect(() => {
    let lock: WakeLockSentinel | null = null
    const keep = () => {
      if (document.visibilityState === 'visible')
        void navigator.wakeLock
          ?.request('screen')
          .then((l) => (lock = l))
          .catch(() => undefined)
    }
    keep()
    document.addEventListener('visibilitychange', keep)
    return () => {
      document.removeEventListener('visibilitychange', keep)
      void lock?.release()
    }
  }, [])
  useEffect(() => {
    if (pages < 2) return
    const timer = setInterval(() => setPage((p) => (p + 1) % pages), seconds * 1000)
    return () => clearInterval(timer)
  }, [pages, seconds])
  const rows = rowsOn(board, page)
  const row = Math.max(48, (height - HEAD - 2 * PAD) / Math.max(1, rows) - 12)
  return (
    <Box
      ref={holder}
      tabIndex={-1}
      role="dialog"
      aria-label={t('wall.title', { board: board.title })}
      sx={{
        position: 'fixed',
        inset: 0,
        zIndex: 1300,
        bgcolor: paint.bench,
        overflow: 'auto',
        // Nothing to be tapped.
        '& section button[aria-haspopup=menu]': { display: 'none' },
        // Read from across the room.
        '& section': { fontSize: '1.12rem', zoom: innerWidth > 1600 ? 1.25 : 1.05 },
      }}>
      <Box
        sx={{
          height: HEAD,
          px: 4,
          display: 'flex',
          gap: 4,
          alignItems: 'center',
          bgcolor: paint.ink,
          color: paint.page,
        }}>
        <Typography variant="h1" sx={{ fontSize: '1.5rem', flex: 1, minWidth: 0 }} noWrap>
          {board.title}
          {pages > 1 && ` · ${board.pages[page % pages] || t('board.page', { n: (page % pages) + 1 })}`}
        </Typography>
        <Box sx={{ color: away ? paint.onDarkWarning : paint.onDark }}>
          {away ? t('board.away') : t('board.asof', { when: formatInstant(asOf) })}
        </Box>
        {pages > 1 && (
          <NativeSelect
            value={seconds}
            onChange={(e) => setSeconds(Number(e.target.value))}
            inputProps={{ 'aria-label': t('wall.turn') }}
            sx={{ color: 'inherit', '& option': { color: paint.ink }, '& svg': { color: 'inherit' } }}>
            {TURNS.map((n) => (
              <option key={n} value={n}>
                {t('wall.seconds', { n })}
              </option>
            ))}
          </NativeSelect>
        )}
        <IconButton onClick={onClose} aria-label={t('wall.leave')} sx={{ color: 'inherit' }}>
          <Close />
        </IconButton>
      </Box>
      <Box sx={{ p: `${PAD}px` }}>
        <BoardTiles
          board={board}
          base={base}
          picking={STILL}
          query=""
          page={page % pages}
          rowHeight={row}
          phone={false}
        />
      </Box>
    </Box>
  )
}
