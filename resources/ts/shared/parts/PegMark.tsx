import { HEADS } from '../map/pegs'
import type { Peg } from '../types'

/** A peg beside text, in legends and lists. The text says what it means, so it is hidden from readers. */
export function PegMark({ head, colour, size = 22, stem = '#1D2B2E' }: Peg & { size?: number; stem?: string }) {
  return (
    <svg width={(size * 18) / 26} height={size} viewBox="-9 -25 18 26" aria-hidden focusable={false} style={{ flex: 'none' }}>
      <path d="M0 0V-10" stroke={stem} strokeWidth={2.2} />
      <g transform="translate(0,-16.5)" strokeLinejoin="round">
        <path d={HEADS[head]} fill={colour} stroke="#fff" strokeWidth={3.4} />
        <path d={HEADS[head]} fill={colour} stroke="#1D2B2E" strokeWidth={1.2} />
      </g>
    </svg>
  )
}
