import type { Picked } from '../../shared/form/files'
import { carryOver } from './jpeg'

const QUALITY = 0.88

/** A canvas as JPEG, with what the photo that it was drawn from says of itself. */
export async function asJpeg(canvas: HTMLCanvasElement, from: Blob): Promise<Blob> {
  const drawn = await new Promise<Blob>((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('no picture'))), 'image/jpeg', QUALITY),
  )
  if (from.type !== 'image/jpeg') return drawn
  const [said, picture] = await Promise.all([from.arrayBuffer(), drawn.arrayBuffer()])
  return new Blob([carryOver(new Uint8Array(said), new Uint8Array(picture), canvas.width, canvas.height)], {
    type: 'image/jpeg',
  })
}

/**
 * A photo no longer than `edge` pixels on its longer side, with its metadata. Only what comes out of a camera
 * is scaled; what is small enough already, or would not become smaller in bytes, stays byte for byte as it
 * was taken.
 */
export async function scaled(blob: Blob, edge: number | null): Promise<Blob> {
  if (edge === null || blob.type !== 'image/jpeg') return blob
  const picture = await createImageBitmap(blob)
  const share = edge / Math.max(picture.width, picture.height)
  if (share >= 1) {
    picture.close()
    return blob
  }
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(picture.width * share))
  canvas.height = Math.max(1, Math.round(picture.height * share))
  const pen = canvas.getContext('2d')!
  pen.imageSmoothingQuality = 'high'
  pen.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  const small = await asJpeg(canvas, blob)
  return small.size < blob.size ? small : blob
}

/** Where a photo was taken, from its own metadata. */
export async function placeOf(blob: Blob): Promise<{ lon: number; lat: number } | null> {
  try {
    // Only when a photo is there, so that the app opens without it.
    const { gps } = await import('exifr/dist/mini.esm.mjs')
    const found = await gps(blob)
    if (!found || !Number.isFinite(found.longitude) || !Number.isFinite(found.latitude)) return null
    if (
      Math.abs(found.longitude) > 180 ||
      Math.abs(found.latitude) > 90 ||
      (found.longitude === 0 && found.latitude === 0)
    )
      return null
    return { lon: Number(found.longitude.toFixed(7)), lat: Number(found.latitude.toFixed(7)) }
  } catch {
    // Broken metadata is no reason to refuse a photo.
    return null
  }
}

export type FieldPhoto = Picked & { at?: { lon: number; lat: number } }

/** A photo as it goes with the record: where it was taken is read before anything is done to it. */
export async function prepared(file: Picked, edge: number | null): Promise<FieldPhoto> {
  if (!file.blob.type.startsWith('image/')) return file
  const at = await placeOf(file.blob)
  // A picture that cannot be made smaller goes as it is.
  const blob = await scaled(file.blob, edge).catch(() => file.blob)
  return { ...file, blob, ...(at ? { at } : {}) }
}
