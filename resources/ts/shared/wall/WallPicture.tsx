import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useRef, useState } from 'react'
import { paint } from '../paint'
import { t } from '../texts'
import { calledBy } from './PhotoGrid'
import type { WallPhoto } from './useWall'

/** A finger that goes so far sideways (pixels), and further than up or down, leafs. */
const SWIPE = 50

/** As large as there is room, and never cut. */
export function WallPicture({
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
