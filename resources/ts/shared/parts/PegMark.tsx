import { paint } from '../paint'
import { isOwn, markAddress } from '../map/marks'
import { HEADS } from '../map/pegs'
import type { GeometryKind, Peg } from '../types'

/** A peg beside text, in legends and lists. The text says what it means, so it is hidden from readers. */
export function PegMark({
  head,
  colour,
  size = 22,
  stem = 'currentColor',
  geometry = 'point',
  plain = false,
  filled = false,
  hatched = false,
  dash = 'solid',
  fill = 'tint',
}: Peg & {
  size?: number
  stem?: string
  geometry?: GeometryKind
  plain?: boolean
  filled?: boolean
  hatched?: boolean
}) {
  if (geometry === 'area' && (filled || hatched))
    return <ClassMark colour={colour} size={size} hatched={hatched} fill={fill} dash={dash} />
  if (geometry !== 'point')
    return (
      <ShapeMark
        head={head}
        colour={colour}
        size={size}
        area={geometry === 'area'}
        plain={plain}
        dash={dash}
        fill={fill}
      />
    )
  const ring = head === 'ring'
  return (
    <svg
      width={(size * 18) / 26}
      height={size}
      viewBox={plain ? '-9 -13 18 26' : '-9 -25 18 26'}
      aria-hidden
      focusable={false}
      style={{ flex: 'none' }}>
      {plain ? (
        <circle
          r={7}
          fill={colour}
          fillOpacity={ring ? 0 : 1}
          stroke={ring ? colour : paint.ink}
          strokeWidth={ring ? 2.4 : 1.3}
        />
      ) : (
        <>
          <path d="M0 0V-10" stroke={stem} strokeWidth={2.2} />
          <g transform="translate(0,-16.5)" strokeLinejoin="round">
            <Head head={head} colour={colour} />
          </g>
        </>
      )}
    </svg>
  )
}

function Head({ head, colour }: Peg) {
  if (isOwn(head))
    return (
      <>
        <circle r={7.6} fill={paint.white} stroke={colour} strokeWidth={1.8} />
        <image href={markAddress(head)} x={-5} y={-5} width={10} height={10} />
      </>
    )
  return (
    <>
      <path d={HEADS[head]} fill={colour} stroke={paint.white} strokeWidth={3.4} />
      <path d={HEADS[head]} fill={colour} stroke={paint.ink} strokeWidth={1.2} />
    </>
  )
}

/** An area by its class, as the map fills it. */
function ClassMark({
  colour,
  size,
  hatched,
  fill,
  dash,
}: {
  colour: string
  size: number
  hatched: boolean
} & Required<Pick<Peg, 'fill' | 'dash'>>) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="-13 -13 26 26"
      aria-hidden
      focusable={false}
      style={{ flex: 'none' }}>
      <rect
        x={-12}
        y={-12}
        width={24}
        height={24}
        rx={3}
        fill={hatched || (fill !== 'tint' && fill !== 'full') ? paint.sheet : colour}
        stroke={paint.ink}
        strokeWidth={1.2}
        strokeDasharray={DASHES[dash]}
      />
      <Pattern fill={fill} colour={colour} />
      {hatched && <path d="M-11 1 1-11M-11 11 11-11M-1 11 11-1" stroke={colour} strokeWidth={2.4} />}
    </svg>
  )
}

/** A line or an area beside text, with the head that marks its class; plain where there is but one. */
function ShapeMark({
  head,
  colour,
  size,
  area,
  plain,
  dash,
  fill,
}: Required<Peg> & { size: number; area: boolean; plain: boolean }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="-13 -13 26 26"
      aria-hidden
      focusable={false}
      style={{ flex: 'none' }}>
      {area ? (
        <>
          <rect
            x={-12}
            y={-12}
            width={24}
            height={24}
            rx={3}
            fill={colour}
            fillOpacity={fill === 'full' ? 0.78 : fill === 'tint' ? 0.28 : 0}
            stroke={colour}
            strokeWidth={1.6}
            strokeDasharray={DASHES[dash]}
          />
          <Pattern fill={fill} colour={colour} />
        </>
      ) : (
        <path
          d="M-12 6C-6-6 6 6 12-6"
          fill="none"
          stroke={colour}
          strokeWidth={3.2}
          strokeLinecap={dash === 'dashed' ? 'butt' : 'round'}
          strokeDasharray={DASHES[dash]}
        />
      )}
      {!plain && (
        <g transform="scale(.72)" strokeLinejoin="round">
          <Head head={head} colour={colour} />
        </g>
      )}
    </svg>
  )
}

const DASHES = { solid: undefined, dashed: '6 4', dotted: '0.1 5.5' }

/** What fills an area besides a plain colour, as the map draws it. */
function Pattern({ fill, colour }: { fill: NonNullable<Peg['fill']>; colour: string }) {
  if (fill === 'stripes')
    return <path d="M-11-1 1 11M-11-11 11 11M-1-11 11 1" stroke={colour} strokeWidth={2} fill="none" />
  if (fill === 'grid')
    return <path d="M-5-11V11M5-11V11M-11-5H11M-11 5H11" stroke={colour} strokeWidth={1.8} fill="none" />
  if (fill === 'dots')
    return (
      <g fill={colour}>
        {[-6, 0, 6].flatMap((x) => [-6, 0, 6].map((y) => <circle key={`${x} ${y}`} cx={x} cy={y} r={1.8} />))}
      </g>
    )
  return null
}
