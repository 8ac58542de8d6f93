import Box from '@mui/material/Box'
import { paint } from '../paint'
import { t } from '../texts'

/** Pixels between the edge of the map and the frame. */
export const FRAME = 18

/** The frame that holds the area. */
export function AreaFrame() {
  return (
    <>
      <Box
        aria-hidden
        sx={{
          position: 'absolute',
          inset: FRAME,
          border: `2.5px dashed ${paint.buoy}`,
          borderRadius: 1.5,
          pointerEvents: 'none',
        }}
      />
      <Box
        sx={{
          position: 'absolute',
          left: '50%',
          top: 30,
          transform: 'translateX(-50%)',
          bgcolor: paint.sheet,
          border: `1px solid ${paint.line}`,
          borderRadius: 1.5,
          px: 3,
          py: 1,
          color: paint.ink,
          fontWeight: 600,
          pointerEvents: 'none',
          whiteSpace: 'nowrap',
        }}>
        {t('programme.area.frame')}
      </Box>
    </>
  )
}
