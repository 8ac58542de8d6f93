import Box from '@mui/material/Box'
import { formatNumber, t } from '../texts'
import type { LegendLine } from '../types'
import { PegMark } from './PegMark'

/** What the pegs of a map mean, with the number of records of each. */
export function Legend({ lines, single }: { lines: LegendLine[]; single: string }) {
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1 }}>
      {lines.map((line) => (
        <Box component="li" key={line.code ?? ''} sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
          <PegMark {...line} />
          <Box sx={{ flex: 1 }}>{line.label ?? (lines.length === 1 ? single : t('legend.other'))}</Box>
          <Box sx={{ fontVariantNumeric: 'tabular-nums', color: 'text.secondary' }}>
            {formatNumber(line.count)}
          </Box>
        </Box>
      ))}
    </Box>
  )
}
