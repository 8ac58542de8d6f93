import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { paint } from '../paint'
import { formatNumber, t } from '../texts'
import type { LegendLine } from '../types'
import type { Row } from './beside'

type Bar = {
  key: string
  label: string
  colour: string
  hatched?: boolean
  value: number | null
  text: string
  pressed: boolean
  onPress: () => void
}

/** How many records there are in each class; a tap cuts the map and the table to it. */
export function ClassBars({
  legend,
  counts,
  only,
  onOnly,
}: {
  legend: LegendLine[]
  counts: Record<string, number>
  only: string | null
  onOnly: (code: string | null) => void
}) {
  return (
    <Bars
      bars={legend.map((line) => {
        const code = line.code ?? ''
        const count = counts[code] ?? 0
        return {
          key: code,
          label: line.label ?? t('legend.other'),
          colour: line.colour,
          value: count,
          text: formatNumber(count),
          pressed: only === code,
          onPress: () => onOnly(only === code ? null : code),
        }
      })}
    />
  )
}

/** What each area is coloured by, in the order of the table; a tap picks it on the map. */
export function ValueBars({
  rows,
  legend,
  selected,
  onPick,
}: {
  rows: Row[]
  legend: LegendLine[]
  selected: string | null
  onPick: (row: Row) => void
}) {
  return (
    <Bars
      bars={rows.map((row) => {
        const line = legend.find((l) => (l.code ?? null) === row.class)
        return {
          key: row.id,
          label: row.name ?? row.cells[0] ?? t('record.unnamed'),
          colour: line?.colour ?? paint.other,
          value: row.value,
          text: row.said ?? line?.label ?? '–',
          pressed: row.id === selected,
          onPress: () => onPick(row),
        }
      })}
    />
  )
}

/** Lying bars from a common line; what lies below zero goes the other way. */
function Bars({ bars }: { bars: Bar[] }) {
  const values = bars.map((b) => b.value ?? 0)
  const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)]
  const span = most - least || 1
  const zero = (-least / span) * 100
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 2, display: 'grid', gap: 0.25 }}>
      {bars.map((bar) => (
        <Box component="li" key={bar.key}>
          <ButtonBase
            aria-pressed={bar.pressed}
            onClick={bar.onPress}
            sx={{
              width: '100%',
              display: 'grid',
              gridTemplateColumns: 'minmax(90px, 26%) 1fr minmax(60px, auto)',
              gap: 2,
              px: 1,
              minHeight: 30,
              borderRadius: 1,
              textAlign: 'left',
              bgcolor: bar.pressed ? paint.kelpWash : undefined,
              '&:hover': { bgcolor: bar.pressed ? paint.kelpWash : paint.page },
            }}>
            <Box sx={{ overflowWrap: 'anywhere' }}>{bar.label}</Box>
            <Box sx={{ position: 'relative', height: 18 }}>
              <Box
                sx={{
                  position: 'absolute',
                  top: 0,
                  bottom: 0,
                  left: `${(bar.value ?? 0) < 0 ? zero + ((bar.value ?? 0) / span) * 100 : zero}%`,
                  width: `${(Math.abs(bar.value ?? 0) / span) * 100}%`,
                  bgcolor: bar.colour,
                  border: bar.value ? `1px solid ${paint.ink}` : 0,
                  borderRadius: 0.5,
                }}
              />
            </Box>
            <Box sx={{ textAlign: 'right', fontVariantNumeric: 'tabular-nums' }}>{bar.text}</Box>
          </ButtonBase>
        </Box>
      ))}
    </Box>
  )
}
