import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import { useEffect, useRef } from 'react'
import { paint } from '../paint'
import { formatInstant, t } from '../texts'
import type { useWall, WallPhoto } from './useWall'

type Props = {
  wall: ReturnType<typeof useWall>
  photo: (id: string, size: 'thumb' | 'view') => string
  onOpen: (photo: string) => void
  /** The one that one comes back from. */
  last: string | null
}

/** What a photo is called: by its record and when that was collected. */
export const calledBy = (p: WallPhoto) =>
  p.name === null
    ? t('photowall.unnamed', { layer: p.layer, at: formatInstant(p.at) })
    : t('photowall.one', { name: p.name, at: formatInstant(p.at) })

/** All photos beside each other; those behind come as one goes down. */
export function PhotoGrid({ wall, photo, onOpen, last }: Props) {
  const end = useRef<HTMLDivElement>(null)
  const { hasNextPage, isFetching, fetchNextPage, isError } = wall
  useEffect(() => {
    const mark = end.current
    if (!mark || !hasNextPage || isFetching || isError) return
    const seen = new IntersectionObserver((entries) => {
      if (entries.some((e) => e.isIntersecting)) void fetchNextPage()
    })
    seen.observe(mark)
    return () => seen.disconnect()
  }, [hasNextPage, isFetching, isError, fetchNextPage])
  return (
    <>
      {wall.hasPreviousPage && (
        <Button variant="outlined" disabled={isFetching} onClick={() => void wall.fetchPreviousPage()}>
          {t('photowall.more')}
        </Button>
      )}
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          m: 0,
          p: 0,
          display: 'grid',
          gap: { xs: 1, sm: 2 },
          gridTemplateColumns: {
            xs: 'repeat(3, minmax(0, 1fr))',
            sm: 'repeat(auto-fill, minmax(150px, 1fr))',
          },
        }}>
        {wall.photos.map((p) => (
          <Box component="li" key={p.id}>
            <ButtonBase
              aria-label={calledBy(p)}
              autoFocus={p.id === last}
              onClick={() => onOpen(p.id)}
              sx={{
                width: '100%',
                aspectRatio: '1',
                borderRadius: 1,
                overflow: 'hidden',
                bgcolor: paint.sand,
              }}>
              <Box
                component="img"
                src={photo(p.id, 'thumb')}
                alt=""
                loading="lazy"
                sx={{ width: '100%', height: '100%', objectFit: 'cover' }}
              />
            </ButtonBase>
          </Box>
        ))}
      </Box>
      {hasNextPage && (
        <Box ref={end} sx={{ display: 'grid', justifyItems: 'center', py: 2 }}>
          <Button variant="outlined" disabled={isFetching} onClick={() => void fetchNextPage()}>
            {t('photowall.more')}
          </Button>
        </Box>
      )}
    </>
  )
}
