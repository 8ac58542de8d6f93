import Box from '@mui/material/Box'
import { formatNumber, t } from '../texts'
import type { LegendLine } from '../types'
import { CrossedLegend } from './CrossedLegend'
import { PegMark } from './PegMark'
import { Ramp } from './Ramp'

/** What the pegs of a map mean, with the number of records of each. */
export function Legend({
  lines,
  single,
  counted = true,
}: {
  lines: LegendLine[]
  single: string
  /** Whether the number of records stands beside each. */
  counted?: boolean
}) {
  const crossed = lines.filter((l) => l.at)
  return (
    <>
      {crossed.length > 0 && <CrossedLegend lines={crossed} counted={counted} />}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1 }}>
        {lines
          .filter((l) => !l.at)
          .map((line) =>
            line.ramp ? (
              <Box component="li" key="ramp">
                <Ramp line={line} counted={counted} />
              </Box>
            ) : (
              <Box
                component="li"
                key={line.code ?? ''}
                sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
                <PegMark {...line} />
                <Box sx={{ flex: 1 }}>{line.label ?? (lines.length === 1 ? single : t('legend.other'))}</Box>
                <Box sx={{ fontVariantNumeric: 'tabular-nums', color: 'text.secondary' }}>
                  {counted && formatNumber(line.count)}
                </Box>
              </Box>
            ),
          )}
      </Box>
    </>
  )
}
