import Box from '@mui/material/Box'
import type { ReactNode } from 'react'
import { paint } from '../theme'

const TONES = {
  plain: [paint.sand, '#4F4733'],
  well: [paint.kelpWash, paint.kelp],
  warn: [paint.buoy, '#FFFFFF'],
  soft: [paint.buoyWash, '#8F2E08'],
  info: [paint.tideWash, '#27507A'],
  dark: [paint.ink, '#F4EFE4'],
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
