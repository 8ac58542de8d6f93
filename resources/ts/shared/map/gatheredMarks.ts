import type { Map as MapLibre } from 'maplibre-gl'
import { paint } from '../paint'

const SCALE = 2

function canvasOf(side: number) {
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = side * SCALE
  const pen = canvas.getContext('2d')
  pen?.scale(SCALE, SCALE)
  return pen
}

/** A ring that is so far filled as the share is, on paper for the number. */
export function share(map: MapLibre, id: string, colour: string, percent: number) {
  const side = 44
  const pen = canvasOf(side)
  if (!pen) return
  pen.translate(side / 2, side / 2)
  pen.beginPath()
  pen.arc(0, 0, 20, 0, 2 * Math.PI)
  pen.fillStyle = paint.sheet
  pen.fill()
  pen.strokeStyle = paint.ink
  pen.lineWidth = 1.2
  pen.stroke()
  pen.lineWidth = 5
  pen.strokeStyle = paint.gathered
  pen.beginPath()
  pen.arc(0, 0, 16.6, 0, 2 * Math.PI)
  pen.stroke()
  if (percent > 0) {
    pen.strokeStyle = colour
    pen.beginPath()
    pen.arc(0, 0, 16.6, -Math.PI / 2, -Math.PI / 2 + (Math.min(100, percent) / 100) * 2 * Math.PI)
    pen.stroke()
  }
  map.addImage(id, pen.getImageData(0, 0, side * SCALE, side * SCALE), { pixelRatio: SCALE })
}

/**
 * A photo in a ring of the class's colour, on a short stem. Until it has come, and where it does not come, nothing is drawn and the peg
 * below it is seen.
 */
export function photo(map: MapLibre, id: string, colour: string, address: string | null) {
  const [side, ring] = [52, 21]
  const pen = canvasOf(side)
  if (!pen) return
  map.addImage(id, pen.getImageData(0, 0, side * SCALE, side * SCALE), { pixelRatio: SCALE })
  if (address === null) return
  const picture = new Image()
  picture.onload = () => {
    pen.translate(side / 2, ring + 2)
    pen.strokeStyle = paint.ink
    pen.lineWidth = 2.2
    pen.beginPath()
    pen.moveTo(0, ring)
    pen.lineTo(0, side - ring - 2)
    pen.stroke()
    pen.beginPath()
    pen.arc(0, 0, ring, 0, 2 * Math.PI)
    pen.save()
    pen.clip()
    // The middle of the picture, as large as the ring.
    const scale = (2 * ring) / Math.min(picture.width, picture.height)
    pen.drawImage(
      picture,
      (-picture.width * scale) / 2,
      (-picture.height * scale) / 2,
      picture.width * scale,
      picture.height * scale,
    )
    pen.restore()
    pen.strokeStyle = paint.sheet
    pen.lineWidth = 5
    pen.stroke()
    pen.strokeStyle = colour
    pen.lineWidth = 3
    pen.stroke()
    if (map.hasImage(id)) map.updateImage(id, pen.getImageData(0, 0, side * SCALE, side * SCALE))
  }
  picture.src = address
}
