import Box from '@mui/material/Box'
import type { ReactNode } from 'react'
import { paint } from '../paint'

const TONES = {
  plain: [paint.sand, paint.sandDark],
  well: [paint.kelpWash, paint.kelp],
  warn: [paint.buoy, paint.white],
  soft: [paint.buoyWash, paint.buoyDark],
  info: [paint.tideWash, paint.tideDark],
  dark: [paint.ink, paint.page],
} as const

/** A small word in a coloured lozenge. */
export function Pill({ tone = 'plain', children }: { tone?: keyof typeof TONES; children: ReactNode }) {
  return (
    <Box
      component="span"
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: 1.5,
        borderRadius: 5,
        px: 2.25,
        py: 0.25,
        fontSize: '0.8rem',
        fontWeight: 600,
        whiteSpace: 'nowrap',
        bgcolor: TONES[tone][0],
        color: TONES[tone][1],
      }}>
      {children}
    </Box>
  )
}
