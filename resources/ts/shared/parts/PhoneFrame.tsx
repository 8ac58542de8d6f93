import Box from '@mui/material/Box'
import type { ReactNode } from 'react'
import { paint } from '../paint'

/** A phone around a working piece of the field app. */
export function PhoneFrame({ children, label }: { children: ReactNode; label: string }) {
  return (
    <Box
      role="group"
      aria-label={label}
      sx={{
        width: 330,
        maxWidth: '100%',
        height: 640,
        mx: 'auto',
        borderRadius: '30px',
        bgcolor: paint.ink,
        p: 2.5,
        boxShadow: `0 14px 34px ${paint.ropeDark}55`,
      }}>
      <Box
        sx={{
          bgcolor: 'background.default',
          color: 'text.primary',
          borderRadius: '21px',
          height: '100%',
          overflow: 'hidden',
          position: 'relative',
          display: 'flex',
          flexDirection: 'column',
        }}>
        {children}
      </Box>
    </Box>
  )
}
