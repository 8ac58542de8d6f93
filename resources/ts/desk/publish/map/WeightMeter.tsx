import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { Pill } from '../../../shared/parts/Pill'
import { t } from '../../../shared/texts'
import type { Api } from '../../../shared/types'

const TONES = { light: 'plain', medium: 'soft', heavy: 'warn' } as const

/** How much the map asks of whoever opens it; what makes it heavy, and what would help. */
export function WeightMeter({ weight, layers }: { weight: Api['MapWeight'] | undefined; layers: number }) {
  if (!weight) return null
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <Pill tone={TONES[weight.level]}>
        {t(`map.weight.${weight.level}`, { layers, shapes: weight.shapes })}
      </Pill>
      {weight.reasons.map((reason) => (
        <Typography key={reason} variant="body2">
          {reason}
        </Typography>
      ))}
    </Box>
  )
}
