import Box from '@mui/material/Box'
import { SERIES_COLOURS, paint } from '../paint'
import { t } from '../texts'
import type { CardView } from '../types'

type View = NonNullable<CardView['chart']>

/** Dark enough on paper to be told apart, also without colours: neighbours differ in lightness. */
const AROUND = 100

/** Numbers of a record beside each other; its list says the same to readers of screens. */
export function CardChart({ chart }: { chart: View }) {
  return chart.kind === 'donut' ? <Donut bars={chart.bars} /> : <Bars bars={chart.bars} />
}

function Donut({ bars }: { bars: View['bars'] }) {
  const whole = bars.reduce((sum, b) => sum + b.value, 0)
  let from = 0
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, my: 2 }}>
      <svg
        width={92}
        height={92}
        viewBox="-21 -21 42 42"
        aria-hidden
        focusable={false}
        style={{ flex: 'none' }}>
        {whole > 0 &&
          bars.map((bar, i) => {
            const share = (bar.value / whole) * AROUND
            const start = from
            from += share
            return (
              <circle
                key={bar.label}
                r={15.9155}
                fill="none"
                stroke={SERIES_COLOURS[i % SERIES_COLOURS.length]}
                strokeWidth={9}
                // The way around is a hundred long; it begins at the top.
                strokeDasharray={`${share} ${AROUND - share}`}
                strokeDashoffset={25 - start}
              />
            )
          })}
        {whole <= 0 && <circle r={15.9155} fill="none" stroke={paint.line} strokeWidth={9} />}
      </svg>
      <Lines
        bars={bars}
        said={(bar) =>
          whole > 0
            ? t('chart.share', { value: bar.text, percent: Math.round((bar.value / whole) * 100) })
            : bar.text
        }
      />
    </Box>
  )
}

const Lines = ({ bars, said }: { bars: View['bars']; said: (bar: View['bars'][number]) => string }) => (
  <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 0.5, fontSize: '0.9rem' }}>
    {bars.map((bar, i) => (
      <Box component="li" key={bar.label} sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
        <Box
          sx={{
            flex: 'none',
            width: 11,
            height: 11,
            borderRadius: 0.5,
            bgcolor: SERIES_COLOURS[i % SERIES_COLOURS.length],
          }}
        />
        <span>
          {bar.label} <b>{said(bar)}</b>
        </span>
      </Box>
    ))}
  </Box>
)

function Bars({ bars }: { bars: View['bars'] }) {
  const values = bars.map((b) => b.value)
  const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)]
  const span = most - least || 1
  return (
    <Box
      component="ul"
      sx={{ listStyle: 'none', m: 0, p: 0, my: 2, display: 'grid', gap: 1, fontSize: '0.9rem' }}>
      {bars.map((bar) => (
        <li key={bar.label}>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
            <span>{bar.label}</span>
            <b>{bar.text}</b>
          </Box>
          <Box sx={{ position: 'relative', height: 10, bgcolor: paint.rowLine, borderRadius: 0.5 }}>
            <Box
              sx={{
                position: 'absolute',
                top: 0,
                bottom: 0,
                left: `${((Math.min(0, bar.value) - least) / span) * 100}%`,
                width: `${(Math.abs(bar.value) / span) * 100}%`,
                bgcolor: SERIES_COLOURS[0],
                borderRadius: 0.5,
              }}
            />
          </Box>
        </li>
      ))}
    </Box>
  )
}
