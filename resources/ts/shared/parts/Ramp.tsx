import Box from '@mui/material/Box'
import { paint } from '../paint'
import { formatNumber } from '../texts'
import type { LegendLine } from '../types'

/** Colours that pass into each other, with the numbers at their ends. */
export function Ramp({ line, counted = true }: { line: LegendLine; counted?: boolean }) {
  const [from, to] = line.ends ?? ['', '']
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      <Box
        aria-hidden
        sx={{
          height: 16,
          borderRadius: 1,
          border: `1.2px solid ${paint.ink}`,
          background: `linear-gradient(to right, ${line.ramp?.join(', ') ?? line.colour})`,
        }}
      />
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          gap: 2,
          fontVariantNumeric: 'tabular-nums',
          fontSize: '0.9rem',
        }}>
        <span>{from}</span>
        {counted && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {formatNumber(line.count)}
          </Box>
        )}
        <span>{to}</span>
      </Box>
    </Box>
  )
}
