import type { Map as MapLibre } from 'maplibre-gl'
import { isOwn, markAddress } from './marks'
import type { OurHead } from '../types'

/** Outlines of the heads, around (0, 0), within 7 units. */
export const HEADS: Record<OurHead, string> = {
  diamond: 'M0-7L7 0 0 7-7 0Z',
  disc: 'M-6 0A6 6 0 1 1 6 0 6 6 0 1 1-6 0Z',
  triangle: 'M0-7L7 5H-7Z',
  bar: 'M-7-4.4H7V4.4H-7Z',
  ring: 'M-6.4 0A6.4 6.4 0 1 1 6.4 0 6.4 6.4 0 1 1-6.4 0ZM-2.6 0A2.6 2.6 0 1 0 2.6 0 2.6 2.6 0 1 0-2.6 0Z',
  cross: 'M-2.5-7H2.5V-2.5H7V2.5H2.5V7H-2.5V2.5H-7V-2.5H-2.5Z',
}

const SCALE = 3

/**
 * A mark of one's own on a plate with the class's colour around it, so that it stands out from any ground.
 */
function own(
  map: MapLibre,
  id: string,
  head: string,
  colour: string,
  canvas: HTMLCanvasElement,
  pen: CanvasRenderingContext2D,
) {
  const plate = () => {
    pen.beginPath()
    pen.arc(0, 0, 9, 0, 2 * Math.PI)
    pen.fillStyle = '#FFFFFF'
    pen.fill()
    pen.strokeStyle = colour
    pen.lineWidth = 2.4
    pen.stroke()
  }
  plate()
  map.addImage(id, pen.getImageData(0, 0, canvas.width, canvas.height), { pixelRatio: SCALE })
  const picture = new Image()
  picture.onload = () => {
    const scale = 11 / Math.max(picture.width, picture.height)
    pen.drawImage(
      picture,
      (-picture.width * scale) / 2,
      (-picture.height * scale) / 2,
      picture.width * scale,
      picture.height * scale,
    )
    if (map.hasImage(id)) map.updateImage(id, pen.getImageData(0, 0, canvas.width, canvas.height))
  }
  picture.src = markAddress(head)
}

/** Slanted lines on paper, for areas of which too little is known. */
function hatched(map: MapLibre, id: string, colour: string) {
  const side = 8 * SCALE
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = side
  const pen = canvas.getContext('2d')
  if (!pen) return
  pen.fillStyle = '#FFFCF5B0'
  pen.fillRect(0, 0, side, side)
  pen.strokeStyle = colour
  pen.lineWidth = 1.6 * SCALE
  pen.beginPath()
  // Beyond both edges, so that the lines go on from one piece to the next.
  for (const from of [-side, 0, side]) {
    pen.moveTo(from - 4, side + 4)
    pen.lineTo(from + side + 4, -4)
  }
  pen.stroke()
  map.addImage(id, pen.getImageData(0, 0, side, side), { pixelRatio: SCALE })
}

/**
 * Draws the picture that a style names `hatch-<colour>`, `peg-<head>-<colour>`, or `head-…` for the head alone, when the map
 * first asks for it.
 */
export function providePegs(map: MapLibre) {
  map.on('styleimagemissing', ({ id }: { id: string }) => {
    const hatch = /^hatch-([0-9A-F]{6})$/.exec(id)
    if (hatch && !map.hasImage(id)) return hatched(map, id, `#${hatch[1]}`)
    const found = /^(peg|head)-(own-\w+|\w+)-([0-9A-F]{6})$/.exec(id)
    if (!found || map.hasImage(id)) return
    const canvas = document.createElement('canvas')
    const stem = found[1] === 'peg'
    canvas.width = 22 * SCALE
    canvas.height = (stem ? 30 : 22) * SCALE
    const pen = canvas.getContext('2d')
    if (!pen) return
    pen.scale(SCALE, SCALE)
    pen.translate(11, stem ? 29 : 11)
    if (stem) {
      pen.lineWidth = 2.2
      pen.strokeStyle = '#1D2B2E'
      pen.beginPath()
      pen.moveTo(0, 0)
      pen.lineTo(0, -12)
      pen.stroke()
      pen.translate(0, -18)
    }
    if (isOwn(found[2]!)) return own(map, id, found[2], `#${found[3]}`, canvas, pen)
    const head = new Path2D(HEADS[found[2] as OurHead])
    pen.lineJoin = 'round'
    pen.strokeStyle = '#FFFFFF'
    pen.lineWidth = 4.4
    pen.stroke(head)
    pen.fillStyle = `#${found[3]}`
    pen.fill(head)
    pen.strokeStyle = '#1D2B2E'
    pen.lineWidth = 1.3
    pen.stroke(head)
    map.addImage(id, pen.getImageData(0, 0, canvas.width, canvas.height), { pixelRatio: SCALE })
  })
}
