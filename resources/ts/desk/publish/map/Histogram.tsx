import Box from '@mui/material/Box'
import { useRef, useState } from 'react'
import { paint } from '../../../shared/paint'
import { indexOf, numberText } from '../../../shared/map/classes'
import { t } from '../../../shared/texts'
import type { Api } from '../../../shared/types'

const WIDTH = 340
const HEIGHT = 84

/** How many records have about which number; the breaks between classes are dragged, or moved by arrow keys. */
export function Histogram({
  bars,
  least,
  most,
  breaks,
  colours,
  decimals,
  unit,
  onBreaks,
}: {
  bars: Api['HistogramBar'][]
  least: number
  most: number
  breaks: number[]
  colours: string[]
  decimals: number
  unit: string | null
  onBreaks: (breaks: number[]) => void
}) {
  const svg = useRef<SVGSVGElement>(null)
  const [held, setHeld] = useState<number | null>(null)
  const tallest = Math.max(...bars.map((b) => b.count), 1)
  const span = most - least
  const x = (value: number) => ((Math.min(most, Math.max(least, value)) - least) / span) * WIDTH
  // One key press is about a hundredth of the way, in a round step.
  const step = Math.max(Number((span / 100).toPrecision(1)), 10 ** -decimals)
  const put = (i: number, value: number) => {
    const rounded = Number(value.toFixed(decimals))
    // Breaks never pass each other, nor leave the values.
    const [low, high] = [breaks[i - 1] ?? least, breaks[i + 1] ?? most]
    if (rounded > low && rounded < high && rounded !== breaks[i])
      onBreaks(breaks.map((b, n) => (n === i ? rounded : b)))
  }
  const valueAt = (clientX: number) => {
    const box = svg.current?.getBoundingClientRect()
    return box ? least + ((clientX - box.left) / box.width) * span : null
  }
  return (
    <Box>
      <Box
        component="svg"
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label={t('classes.histogram')}
        sx={{ width: '100%', display: 'block', overflow: 'visible' }}
        onPointerMove={(e: React.PointerEvent) => {
          const value = held === null ? null : valueAt(e.clientX)
          if (held !== null && value !== null) put(held, value)
        }}
        onPointerUp={() => setHeld(null)}>
        {bars.map((bar) => {
          const height = bar.count === 0 ? 0 : Math.max(1.5, (bar.count / tallest) * (HEIGHT - 8))
          const left = x(bar.from)
          return (
            <rect
              key={bar.from}
              x={left + 0.75}
              y={HEIGHT - height}
              width={Math.max(0.5, x(bar.to) - left - 1.5)}
              height={height}
              fill={colours[indexOf(breaks, (bar.from + bar.to) / 2)] ?? paint.other}
              stroke={paint.ink}
              strokeWidth={0.4}
            />
          )
        })}
        {breaks.map((b, i) => (
          <g
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={t('classes.break', { n: i + 1 })}
            aria-valuenow={b}
            aria-valuemin={breaks[i - 1] ?? least}
            aria-valuemax={breaks[i + 1] ?? most}
            style={{ cursor: 'ew-resize', touchAction: 'none' }}
            onPointerDown={(e) => {
              ;(e.target as Element).setPointerCapture?.(e.pointerId)
              setHeld(i)
            }}
            onKeyDown={(e) => {
              const by = { ArrowLeft: -step, ArrowDown: -step, ArrowRight: step, ArrowUp: step }[e.key]
              if (by === undefined) return
              e.preventDefault()
              put(i, b + by)
            }}>
            <rect x={x(b) - 8} y={0} width={16} height={HEIGHT} fill="transparent" />
            <line
              x1={x(b)}
              x2={x(b)}
              y1={0}
              y2={HEIGHT}
              stroke={paint.ink}
              strokeWidth={held === i ? 3 : 2}
            />
            <rect x={x(b) - 5} y={HEIGHT - 5} width={10} height={10} rx={2} fill={paint.ink} />
          </g>
        ))}
      </Box>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          fontSize: '0.82rem',
          color: 'text.secondary',
          fontVariantNumeric: 'tabular-nums',
          mt: 1.5,
        }}>
        <span>{numberText(least)}</span>
        <span>
          {numberText(most)}
          {unit ? ` ${unit}` : ''}
        </span>
      </Box>
    </Box>
  )
}
