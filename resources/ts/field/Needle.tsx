import Box from '@mui/material/Box'
import { paint } from '../shared/paint'
import { t } from '../shared/texts'
import { useHeading } from './heading'

/** Points to where something is: by the phone's own compass where it has one, else with north at the top. */
export function Needle({ degrees, size = 72 }: { degrees: number; size?: number }) {
  const heading = useHeading()
  const turn = Math.round(degrees - (heading ?? 0))
  return (
    <Box sx={{ display: 'grid', justifyItems: 'center', flex: 'none' }}>
      <svg
        viewBox="-36 -36 72 72"
        width={size}
        height={size}
        role="img"
        aria-label={t(heading === null ? 'needle.north' : 'needle.ahead', {
          degrees: Math.round((degrees + 360) % 360),
        })}>
        <circle r={33} fill="none" stroke="currentColor" strokeWidth={2.5} opacity={0.5} />
        {heading === null && <path d="M0-35V-27" stroke="currentColor" strokeWidth={4} />}
        <g transform={`rotate(${turn})`}>
          <path d="M0-28L13 20 0 11-13 20Z" fill={paint.buoy} stroke={paint.white} strokeWidth={2} />
        </g>
      </svg>
      {heading === null && (
        <Box aria-hidden sx={{ fontSize: '0.75rem', color: 'text.secondary' }}>
          {t('needle.top')}
        </Box>
      )}
    </Box>
  )
}
