import Box from '@mui/material/Box'
import { paint } from '../paint'
import { formatNumber, t } from '../texts'
import type { LegendLine } from '../types'

/** Pixels: as wide as what stands under them. */
const [WIDTH, HEIGHT] = [58, 30]

/** Two numbers at once: the first grows to the right, the second upwards; each field has how many records it stands for. */
export function CrossedLegend({ lines, counted = true }: { lines: LegendLine[]; counted?: boolean }) {
  const columns = Math.max(...lines.map((l) => l.at?.[0] ?? 0)) + 1
  const rows = Math.max(...lines.map((l) => l.at?.[1] ?? 0)) + 1
  const at = (i: number, j: number) => lines.find((l) => l.at?.[0] === i && l.at[1] === j)
  const upwards = Array.from({ length: rows }, (_, j) => rows - 1 - j)
  const along = Array.from({ length: columns }, (_, i) => i)
  return (
    <Box
      component="table"
      aria-label={t('legend.crossed')}
      sx={{
        borderCollapse: 'separate',
        borderSpacing: 2,
        mb: 1,
        fontSize: '0.82rem',
        '& th': { fontWeight: 400, color: 'text.secondary' },
      }}>
      <tbody>
        {upwards.map((j) => (
          <tr key={j}>
            <Box component="th" scope="row" sx={{ textAlign: 'right', pr: 1 }}>
              {at(0, j)?.ends?.[1]}
            </Box>
            {along.map((i) => {
              const line = at(i, j)
              return (
                <Box
                  component="td"
                  key={i}
                  title={line?.label ?? undefined}
                  sx={{
                    width: WIDTH,
                    height: HEIGHT,
                    p: 0,
                    textAlign: 'center',
                    fontVariantNumeric: 'tabular-nums',
                    border: `1.2px solid ${paint.ink}`,
                    borderRadius: 0.75,
                    bgcolor: line?.colour,
                    color: line && isDark(line.colour) ? paint.white : paint.ink,
                  }}>
                  {counted && line && line.count > 0 ? formatNumber(line.count) : ''}
                </Box>
              )
            })}
          </tr>
        ))}
        <tr>
          <td />
          {along.map((i) => (
            <Box component="th" scope="col" key={i} sx={{ maxWidth: WIDTH, verticalAlign: 'top', px: 0 }}>
              {at(i, 0)?.ends?.[0]}
            </Box>
          ))}
        </tr>
      </tbody>
    </Box>
  )
}

/** By relative luminance (WCAG 2.2), where black and white have the same contrast. */
function isDark(colour: string): boolean {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const part = parseInt(colour.slice(i, i + 2), 16) / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b < 0.179
}
