import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import type { ReactNode } from 'react'
import { paint } from '../../shared/paint'

/** A square button on the map, large enough for a wet thumb. */
export function Tool({
  label,
  onClick,
  pressed,
  disabled,
  children,
}: {
  label: string
  onClick: () => void
  pressed?: boolean
  disabled?: boolean
  children: ReactNode
}) {
  return (
    <Button
      aria-label={label}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      variant="outlined"
      color="inherit"
      sx={{
        minWidth: 0,
        width: 52,
        height: 52,
        p: 0,
        bgcolor: pressed ? 'primary.main' : 'background.paper',
        color: pressed ? 'primary.contrastText' : 'text.primary',
        borderWidth: 2,
        '&:hover': { bgcolor: pressed ? 'primary.main' : 'background.paper' },
        '&.Mui-disabled': { bgcolor: 'background.paper' },
      }}>
      {children}
    </Button>
  )
}

export function Crosshair() {
  return (
    <Box
      aria-hidden
      sx={{
        position: 'absolute',
        left: '50%',
        top: '50%',
        width: 64,
        height: 64,
        transform: 'translate(-50%,-50%)',
        pointerEvents: 'none',
      }}>
      <svg viewBox="-32 -32 64 64">
        <g fill="none" stroke={paint.white} strokeWidth={6}>
          <circle r={15} />
          <path d="M-30 0H-7M7 0H30M0-30V-7M0 7V30" />
        </g>
        <g fill="none" stroke={paint.buoy} strokeWidth={3}>
          <circle r={15} />
          <path d="M-30 0H-7M7 0H30M0-30V-7M0 7V30" />
        </g>
      </svg>
    </Box>
  )
}
