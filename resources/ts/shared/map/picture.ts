import type { Map as MapLibre } from 'maplibre-gl'
import { paint, sun } from '../paint'

const FOOT = 54

/**
 * What the map shows now, as a PNG with a line below it that says what it is. The canvas keeps nothing after
 * it was shown, so it is read in the moment of drawing.
 */
export function pictureOf(map: MapLibre, title: string, under: string): Promise<Blob> {
  return new Promise((done, fail) => {
    map.once('render', () => {
      const shown = map.getCanvas()
      const share = shown.width / shown.clientWidth
      const canvas = document.createElement('canvas')
      canvas.width = shown.width
      canvas.height = shown.height + Math.round(FOOT * share)
      const pen = canvas.getContext('2d')
      if (!pen) return fail(new Error('no canvas'))
      pen.fillStyle = paint.white
      pen.fillRect(0, 0, canvas.width, canvas.height)
      pen.drawImage(shown, 0, 0)
      pen.scale(share, share)
      pen.fillStyle = sun.ink
      const width = shown.clientWidth - 24
      pen.font = '700 16px "Archivo Variable", sans-serif'
      pen.fillText(title, 12, shown.clientHeight + 22, width)
      pen.font = '13px "Atkinson Hyperlegible Next Variable", sans-serif'
      pen.fillText(under, 12, shown.clientHeight + 42, width)
      canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error('no picture'))), 'image/png')
    })
    map.triggerRepaint()
  })
}

/** Hands a picture to whatever the phone shares with; where it cannot, it is saved as a file. */
export async function sharePicture(picture: Blob, name: string): Promise<void> {
  const file = new File([picture], name, { type: 'image/png' })
  if (navigator.canShare?.({ files: [file] })) {
    // Given up by the person, which is no failure.
    await navigator.share({ files: [file], title: name }).catch(() => undefined)
    return
  }
  const link = document.createElement('a')
  link.href = URL.createObjectURL(picture)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
