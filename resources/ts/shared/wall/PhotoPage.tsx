import ArrowBack from '@mui/icons-material/ArrowBack'
import ChevronLeft from '@mui/icons-material/ChevronLeft'
import ChevronRight from '@mui/icons-material/ChevronRight'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useEffect, type ReactNode } from 'react'
import { paint } from '../paint'
import { Problems } from '../parts/Problems'
import { t } from '../texts'
import type { MapView } from '../types'
import { calledBy } from './PhotoGrid'
import type { useWall, WallPhoto } from './useWall'
import { WallPicture } from './WallPicture'
import { WallPlace, WallRecord } from './WallRecord'

type Props = {
  view: MapView
  base: string
  photo: (id: string, size: 'thumb' | 'view') => string
  /** Which one is asked for, and that, once it is there. */
  opened: string
  shown: WallPhoto | null
  before: WallPhoto | null
  next: WallPhoto | null
  wall: ReturnType<typeof useWall>
  error: Error | null
  onOpen: (photo: string) => void
  onAll: () => void
  onMap: (photo: WallPhoto) => void
  /** The way out where it is not to be had. */
  again: ReactNode
}

/** A photo on its own, with where it was taken and what its record says; forth and back by buttons and arrow keys. */
export function PhotoPage(props: Props) {
  const { shown, before, next, wall, photo, onOpen, onAll } = props
  const { hasNextPage, hasPreviousPage, isFetching, fetchNextPage, fetchPreviousPage } = wall
  // At either end of what is there more is fetched, before one comes to it.
  useEffect(() => {
    if (!shown || isFetching || wall.isError) return
    if (!next && hasNextPage) void fetchNextPage()
    else if (!before && hasPreviousPage) void fetchPreviousPage()
  }, [
    shown,
    next,
    before,
    isFetching,
    wall.isError,
    hasNextPage,
    hasPreviousPage,
    fetchNextPage,
    fetchPreviousPage,
  ])
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      // The map beside it has its own use for arrows.
      if (e.target instanceof HTMLCanvasElement || e.altKey || e.ctrlKey || e.metaKey) return
      // At either end the button that one was at is gone, and with it where keys were heard.
      if (e.key === 'Escape' && document.activeElement === document.body) onAll()
      const to = e.key === 'ArrowRight' ? next : e.key === 'ArrowLeft' ? before : null
      if (to) onOpen(to.id)
    }
    addEventListener('keydown', key)
    return () => removeEventListener('keydown', key)
  }, [next, before, onOpen, onAll])
  useEffect(() => {
    // The next one is there when it is asked for.
    if (next) new Image().src = photo(next.id, 'view')
  }, [next, photo])

  if (!shown)
    return (
      <Box sx={{ p: 5, display: 'grid', gap: 3, justifyItems: 'start' }}>
        {props.error ? (
          <>
            <Problems error={props.error} />
            {props.again}
          </>
        ) : (
          <Typography role="status">{t('photowall.coming')}</Typography>
        )}
      </Box>
    )
  return (
    <Box
      sx={{
        height: '100%',
        display: 'grid',
        gridTemplateRows: wall.isError ? 'auto auto minmax(0, 1fr)' : 'auto minmax(0, 1fr)',
        gridTemplateColumns: 'minmax(0, 1fr)',
      }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', px: { xs: 2, md: 4 }, py: 1.5 }}>
        <Button variant="text" color="inherit" startIcon={<ArrowBack />} onClick={onAll} autoFocus>
          {t('photowall.all')}
        </Button>
        <Typography sx={{ flex: 1, minWidth: 0 }} noWrap role="status">
          {calledBy(shown)}
        </Typography>
        {wall.isError && (
          <Button
            variant="outlined"
            size="small"
            onClick={() => void (!next && hasNextPage ? fetchNextPage() : fetchPreviousPage())}>
            {t('photowall.more')}
          </Button>
        )}
        <Turn label={t('photowall.before')} to={before} onOpen={onOpen}>
          <ChevronLeft />
        </Turn>
        <Turn label={t('photowall.next')} to={next} onOpen={onOpen}>
          <ChevronRight />
        </Turn>
      </Box>
      {wall.isError && <Problems error={props.error} />}
      <Box
        sx={{
          minHeight: 0,
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 360px' },
          gridTemplateRows: { xs: 'auto auto', md: 'minmax(0, 1fr)' },
          overflow: { xs: 'auto', md: 'hidden' },
        }}>
        <WallPicture
          key={shown.id}
          shown={shown}
          address={photo(shown.id, 'view')}
          onSwipe={(to) => {
            const other = to === 'next' ? next : before
            if (other) onOpen(other.id)
          }}
        />
        <Box
          sx={{
            overflow: { md: 'auto' },
            bgcolor: 'background.paper',
            borderLeft: `1px solid ${paint.line}`,
          }}>
          <WallPlace view={props.view} shown={shown} onMap={props.onMap} />
          <WallRecord key={`${shown.part} ${shown.record}`} base={props.base} shown={shown} />
        </Box>
      </Box>
    </Box>
  )
}

function Turn({
  label,
  to,
  onOpen,
  children,
}: {
  label: string
  to: WallPhoto | null
  onOpen: (photo: string) => void
  children: ReactNode
}) {
  return (
    <IconButton
      aria-label={label}
      disabled={!to}
      onClick={() => to && onOpen(to.id)}
      sx={{ width: 48, height: 48, border: '1px solid', borderColor: 'divider' }}>
      {children}
    </IconButton>
  )
}
