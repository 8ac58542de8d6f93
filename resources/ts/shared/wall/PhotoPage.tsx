import ArrowBack from '@mui/icons-material/ArrowBack'
import ChevronLeft from '@mui/icons-material/ChevronLeft'
import ChevronRight from '@mui/icons-material/ChevronRight'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { api } from '../api'
import { padded } from '../map/around'
import { served } from '../map/backdrop'
import { LazyMap } from '../map/LazyMap'
import { spotAt } from '../map/spot'
import { paint } from '../paint'
import { Problems } from '../parts/Problems'
import { CardBody } from '../parts/RecordCard'
import { t } from '../texts'
import type { CardView, MapView } from '../types'
import { calledBy } from './PhotoGrid'
import type { useWall, WallPhoto } from './useWall'

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
        <Picture
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
          <Where {...props} shown={shown} />
          <Said key={`${shown.part} ${shown.record}`} base={props.base} shown={shown} />
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

/** A finger that goes so far sideways (pixels), and further than up or down, leafs. */
const SWIPE = 50

/** As large as there is room, and never cut. */
function Picture({
  shown,
  address,
  onSwipe,
}: {
  shown: WallPhoto
  address: string
  onSwipe: (to: 'next' | 'before') => void
}) {
  const [gone, setGone] = useState(false)
  const from = useRef<{ x: number; y: number } | null>(null)
  return (
    <Box
      onTouchStart={({ touches }) => {
        const one = touches.length === 1 ? touches[0] : undefined
        // Two fingers make it larger.
        from.current = one ? { x: one.clientX, y: one.clientY } : null
      }}
      onTouchEnd={({ changedTouches }) => {
        const to = changedTouches[0]
        if (!from.current || !to) return
        const [east, south] = [to.clientX - from.current.x, to.clientY - from.current.y]
        from.current = null
        if (Math.abs(east) > SWIPE && Math.abs(east) > Math.abs(south)) onSwipe(east < 0 ? 'next' : 'before')
      }}
      sx={{
        bgcolor: paint.ink,
        color: paint.page,
        minHeight: { xs: 220, md: 0 },
        height: { xs: '52vh', md: 'auto' },
        display: 'grid',
        placeItems: 'center',
        overflow: 'hidden',
      }}>
      {gone ? (
        <Typography role="alert" sx={{ p: 4 }}>
          {t('photowall.gone')}
        </Typography>
      ) : (
        <Box
          component="img"
          src={address}
          alt={calledBy(shown)}
          onError={() => setGone(true)}
          sx={{ width: '100%', height: '100%', objectFit: 'contain', minHeight: 0 }}
        />
      )}
    </Box>
  )
}

/** How far around the place is seen, in degrees. */
const AROUND = 0.012
const NOT_EXACT = {
  cell: 'photowall.where.cell',
  area: 'photowall.where.area',
  none: 'photowall.where.none',
  exact: null,
} as const

function Where({ view, shown, onMap }: Props & { shown: WallPhoto }) {
  const { lon, lat } = shown
  const backdrops = useMemo(() => view.backdrops.map(served), [view.backdrops])
  const layers = useMemo(() => (lon === null || lat === null ? [] : [spotAt(lon, lat)]), [lon, lat])
  const extent = useMemo(
    () => (lon === null || lat === null ? null : padded([lon, lat, lon, lat], AROUND, AROUND)),
    [lon, lat],
  )
  const said = NOT_EXACT[shown.place]
  return (
    <>
      {extent && (
        <Box sx={{ height: 220 }}>
          <LazyMap
            label={t('photowall.where')}
            backdrops={backdrops}
            extent={extent}
            layers={layers}
            controls={false}
          />
        </Box>
      )}
      <Box sx={{ px: 4, pt: 3, display: 'grid', gap: 2, justifyItems: 'start' }}>
        {said && (
          <Typography variant="body2" color="text.secondary">
            {t(said)}
          </Typography>
        )}
        {extent && (
          <Button size="small" variant="outlined" onClick={() => onMap(shown)}>
            {t('photowall.onmap')}
          </Button>
        )}
      </Box>
    </>
  )
}

/** What the card of its record says, without the photos. */
function Said({ base, shown }: { base: string; shown: WallPhoto }) {
  const card = useQuery({
    queryKey: ['card-read', base, shown.part, shown.record],
    queryFn: () => api<CardView>('GET', `${base}/layers/${shown.part}/records/${shown.record}`),
    networkMode: 'always',
    retry: 1,
  })
  if (!card.data) return <Problems error={card.error} />
  return <CardBody card={{ ...card.data, photos: [] }} photo={() => ''} />
}
