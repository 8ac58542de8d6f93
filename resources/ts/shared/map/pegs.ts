import type { Map as MapLibre } from 'maplibre-gl'
import { paint } from '../paint'
import { isOwn, markAddress } from './marks'
import { photo, share } from './gatheredMarks'
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
    pen.fillStyle = paint.white
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
  pen.fillStyle = `${paint.sheet}B0`
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

/** What fills an area besides a plain colour; it goes on from one piece to the next. */
function filled(map: MapLibre, id: string, pattern: string, colour: string) {
  const side = (pattern === 'dots' ? 9 : 10) * SCALE
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = side
  const pen = canvas.getContext('2d')
  if (!pen) return
  pen.strokeStyle = pen.fillStyle = colour
  pen.lineWidth = 1.8 * SCALE
  pen.beginPath()
  if (pattern === 'dots') {
    pen.arc(side / 2, side / 2, 1.9 * SCALE, 0, 2 * Math.PI)
    pen.fill()
  } else if (pattern === 'grid') {
    pen.moveTo(side / 2, 0)
    pen.lineTo(side / 2, side)
    pen.moveTo(0, side / 2)
    pen.lineTo(side, side / 2)
    pen.stroke()
  } else {
    for (const from of [-side, 0, side]) {
      pen.moveTo(from - 4, -4)
      pen.lineTo(from + side + 4, side + 4)
    }
    pen.stroke()
  }
  map.addImage(id, pen.getImageData(0, 0, side, side), { pixelRatio: SCALE })
}

/**
 * Draws the picture that a style names `fill-<pattern>-<colour>`, `share-<colour>-<percent>`, `photo-<colour>-<id>`, `hatch-<colour>`, `peg-<head>-<colour>`, or `head-…` for the head alone, when the map
 * first asks for it.
 */
export function providePegs(map: MapLibre, photoAddress?: (id: string) => string | null) {
  map.on('styleimagemissing', ({ id }: { id: string }) => {
    const hatch = /^hatch-([0-9A-F]{6})$/.exec(id)
    if (hatch && !map.hasImage(id)) return hatched(map, id, `#${hatch[1]}`)
    const pattern = /^fill-(stripes|dots|grid)-([0-9A-F]{6})$/.exec(id)
    if (pattern && !map.hasImage(id)) return filled(map, id, pattern[1]!, `#${pattern[2]}`)
    const part = /^share-([0-9A-F]{6})-(\d+)$/.exec(id)
    if (part && !map.hasImage(id)) return share(map, id, `#${part[1]}`, Number(part[2]))
    const seen = /^photo-([0-9A-F]{6})-(.+)$/.exec(id)
    if (seen && !map.hasImage(id)) return photo(map, id, `#${seen[1]}`, photoAddress?.(seen[2]!) ?? null)
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
      pen.strokeStyle = paint.ink
      pen.beginPath()
      pen.moveTo(0, 0)
      pen.lineTo(0, -12)
      pen.stroke()
      pen.translate(0, -18)
    }
    if (isOwn(found[2]!)) return own(map, id, found[2], `#${found[3]}`, canvas, pen)
    const head = new Path2D(HEADS[found[2] as OurHead])
    pen.lineJoin = 'round'
    pen.strokeStyle = paint.white
    pen.lineWidth = 4.4
    pen.stroke(head)
    pen.fillStyle = `#${found[3]}`
    pen.fill(head)
    pen.strokeStyle = paint.ink
    pen.lineWidth = 1.3
    pen.stroke(head)
    map.addImage(id, pen.getImageData(0, 0, canvas.width, canvas.height), { pixelRatio: SCALE })
  })
}
