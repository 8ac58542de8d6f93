import Box from '@mui/material/Box'
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
          border: '2.5px dashed #C8420E',
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
          bgcolor: '#FFFCF5',
          border: '1px solid #D8CFBC',
          borderRadius: 1.5,
          px: 3,
          py: 1,
          color: '#1D2B2E',
          fontWeight: 600,
          pointerEvents: 'none',
          whiteSpace: 'nowrap',
        }}>
        {t('programme.area.frame')}
      </Box>
    </>
  )
}
