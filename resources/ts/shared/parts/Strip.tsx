import Box, { type BoxProps } from '@mui/material/Box'
import type { ReactNode } from 'react'
import { paint } from '../paint'

const TONES = { well: paint.kelp, warn: paint.buoy, busy: paint.strip } as const

/** The strip along the top edge of the field app: what has not arrived yet, and whether there is signal. */
export function Strip({
  left,
  right,
  tone,
  ...rest
}: { left: ReactNode; right: ReactNode; tone: keyof typeof TONES } & Omit<BoxProps, 'left' | 'right'>) {
  return (
    <Box
      {...rest}
      sx={{
        minHeight: 46,
        flex: 'none',
        px: 4,
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'center',
        gap: 3,
        bgcolor: TONES[tone],
        color: paint.white,
        fontWeight: 650,
        fontSize: '0.92rem',
        textAlign: 'left',
      }}>
      <span>{left}</span>
      <span>{right}</span>
    </Box>
  )
}
