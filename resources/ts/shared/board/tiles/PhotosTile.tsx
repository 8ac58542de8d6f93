import Box from '@mui/material/Box'
import { useState } from 'react'
import { paint } from '../../paint'
import { formatInstant, t } from '../../texts'
import { Nothing, type TileProps } from './shared'
import { LargePhoto } from './LargePhoto'

/** The latest photos, side by side; a tap shows one large. */
export function PhotosTile({ tile, base }: TileProps<'photos'>) {
  const { photos } = tile.answer
  const [at, setAt] = useState<number | null>(null)
  const address = (id: string, size: string) =>
    base.startsWith('/open/')
      ? `/api/v1${base}/tiles/${tile.id}/photos/${id}/${size}`
      : `/api/v1/attachments/${id}/${size}`
  if (photos.length === 0) return <Nothing />
  const shown = at === null ? null : photos[at]
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, overflowX: 'auto', flex: 1, mt: 1, minHeight: 96 }}>
        {photos.map((p, i) => (
          <Box
            component="button"
            key={p.id}
            onClick={() => setAt(i)}
            aria-label={p.name ?? t('photos.one', { n: i + 1 })}
            sx={{
              border: 0,
              p: 0,
              borderRadius: 1,
              overflow: 'hidden',
              height: '100%',
              aspectRatio: '1',
              flexShrink: 0,
              cursor: 'pointer',
              bgcolor: paint.sand,
              position: 'relative',
            }}>
            <Box
              component="img"
              loading="lazy"
              alt=""
              src={address(p.id, 'thumb')}
              sx={{ width: '100%', height: '100%', objectFit: 'cover', display: 'block' }}
            />
            {p.name && (
              <Box
                sx={{
                  position: 'absolute',
                  left: 0,
                  right: 0,
                  bottom: 0,
                  bgcolor: `${paint.ink}d0`,
                  color: paint.white,
                  fontSize: '0.78rem',
                  px: 1.5,
                  py: 0.5,
                }}>
                {p.name}
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {shown && (
        <LargePhoto
          src={address(shown.id, 'view')}
          words={[shown.name, shown.at ? formatInstant(shown.at) : null].filter(Boolean).join(' · ')}
          onClose={() => setAt(null)}
          onStep={(by) => setAt((n) => ((n ?? 0) + by + photos.length) % photos.length)}
        />
      )}
    </>
  )
}
