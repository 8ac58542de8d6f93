import { paint } from '../../shared/paint'
/**
 * An arrow or a circle on a photo, in pixels of the photo: an arrow points to where the finger was lifted, a
 * circle's edge is there.
 */
export type Sign = { kind: 'arrow' | 'circle'; from: [number, number]; to: [number, number] }

const EDGE = paint.white
const LINE = paint.drawn

/** Draws a sign with a light edge, so that it can be seen on sand and on dark water. */
export function draw(pen: CanvasRenderingContext2D, { kind, from, to }: Sign): void {
  const width = Math.max(pen.canvas.width, pen.canvas.height) / 110
  pen.lineCap = 'round'
  pen.lineJoin = 'round'
  for (const [colour, wide] of [
    [EDGE, width * 2],
    [LINE, width],
  ] as const) {
    pen.strokeStyle = colour
    pen.lineWidth = wide
    pen.beginPath()
    if (kind === 'circle')
      pen.arc(from[0], from[1], Math.hypot(to[0] - from[0], to[1] - from[1]), 0, 2 * Math.PI)
    else arrow(pen, from, to, width * 5)
    pen.stroke()
  }
}

function arrow(pen: CanvasRenderingContext2D, from: [number, number], to: [number, number], head: number) {
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0])
  pen.moveTo(...from)
  pen.lineTo(...to)
  for (const side of [-1, 1]) {
    pen.moveTo(...to)
    pen.lineTo(to[0] - head * Math.cos(angle + side * 0.5), to[1] - head * Math.sin(angle + side * 0.5))
  }
}
