import { v7 as uuid } from 'uuid'
import { t } from '../texts'
import type { Design, FileKind, Slot } from '../types'

/** A file that a person picked for a record; `slot` is null for photos at large. */
export type Picked = { id: string; blob: Blob; name: string; slot: string | null }
export type Declared = {
  id: string
  name: string
  type: string
  bytes: number
  sha256: string
  slot: string | null
}

const ACCEPT: Record<FileKind, string> = {
  photo: 'image/jpeg,image/png,image/webp',
  audio: 'audio/mpeg,audio/mp4,audio/ogg,audio/wav,audio/webm,.mp3,.m4a,.ogg,.wav,.webm',
  video: 'video/mp4,video/quicktime,video/webm,.mp4,.mov,.webm',
  pdf: 'application/pdf',
}
const USUAL: Record<FileKind, number> = {
  photo: 26_214_400,
  audio: 52_428_800,
  video: 209_715_200,
  pdf: 26_214_400,
}

/** What a place for files takes, whether it is a slot or the photos at large. */
export type FilePlace = {
  slot: string | null
  label: string
  hint?: string | undefined
  kind: FileKind
  least: number
  most: number
  maxBytes: number
  accept: string
}

export const placeOfSlot = (s: Slot): FilePlace => ({
  slot: s.key,
  label: s.label,
  hint: s.hint,
  kind: s.kind,
  least: s.least ?? 0,
  most: s.most ?? 1,
  maxBytes: s.max_bytes ?? USUAL[s.kind],
  accept: ACCEPT[s.kind],
})

/** All places for files of a design, in the order of the form: named slots first. */
export function filePlaces(design: Design): FilePlace[] {
  const { photos } = design
  return [
    ...(design.slots ?? []).map(placeOfSlot),
    ...(photos.allowed
      ? [
          {
            slot: null,
            label: t('form.photos'),
            kind: 'photo' as const,
            least: photos.least,
            most: photos.most,
            maxBytes: photos.max_bytes,
            accept: ACCEPT.photo,
          },
        ]
      : []),
  ]
}

/** What is missing of the files, as sentences. */
export function filesMissing(design: Design, files: { slot: string | null }[]): string[] {
  return filePlaces(design).flatMap((place) => {
    const count = files.filter((f) => f.slot === place.slot).length
    if (count >= place.least && count <= place.most) return []
    return [
      place.slot === null
        ? t('problem.photos_count', { count, least: place.least, most: place.most })
        : t('problem.slot_count', { slot: place.label, count, least: place.least, most: place.most }),
    ]
  })
}

/** Takes a picked file, or says why not; what the server would refuse is refused here already. */
export async function takeFile(file: File, place: FilePlace): Promise<Picked | { refused: string }> {
  const mb = (n: number) => Math.round((n / 1_048_576) * 10) / 10
  if (file.size > place.maxBytes)
    return {
      refused: t('problem.photo_too_large', { name: file.name, mb: mb(file.size), most: mb(place.maxBytes) }),
    }
  const type = typeOf(new Uint8Array(await file.slice(0, 12).arrayBuffer()), place.kind)
  if (!type)
    return {
      refused:
        place.kind === 'photo'
          ? t(
              ACCEPT.photo.includes(file.type) && file.type
                ? 'problem.photo_no_picture'
                : 'problem.photo_type',
              { name: file.name },
            )
          : t('problem.file_type', { name: file.name, slot: place.label, kind: place.kind }),
    }
  // A copy of the bytes: the file behind a camera picture may be gone by the time there is signal.
  const blob = new Blob([await file.arrayBuffer()], { type })
  const fits =
    place.kind !== 'photo' ||
    (await createImageBitmap(blob).then(
      (b) => (b.close(), true),
      () => false,
    ))
  return fits
    ? { id: uuid(), blob, name: file.name, slot: place.slot }
    : { refused: t('problem.photo_no_picture', { name: file.name }) }
}

/**
 * By the first bytes, as the server does (core/Device/FileType.php); a container that can be either is what
 * its place takes.
 */
function typeOf(head: Uint8Array, kind: FileKind): string | null {
  const text = String.fromCharCode(...head)
  const brand = text.slice(4, 8) === 'ftyp' ? text.slice(8, 12) : null
  switch (kind) {
    case 'photo':
      if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'image/jpeg'
      if (text.startsWith('\x89PNG\r\n\x1a\n')) return 'image/png'
      return text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP' ? 'image/webp' : null
    case 'pdf':
      return text.startsWith('%PDF-') ? 'application/pdf' : null
    case 'audio':
      if (text.startsWith('ID3') || (head[0] === 0xff && ((head[1] ?? 0) & 0xe6) === 0xe2))
        return 'audio/mpeg'
      if (text.startsWith('OggS')) return 'audio/ogg'
      if (text.startsWith('RIFF') && text.slice(8, 12) === 'WAVE') return 'audio/wav'
      if (text.startsWith('\x1aE\xdf\xa3')) return 'audio/webm'
      return brand && brand !== 'qt  ' && !['heic', 'heix', 'mif1', 'avif'].includes(brand)
        ? 'audio/mp4'
        : null
    case 'video':
      if (text.startsWith('\x1aE\xdf\xa3')) return 'video/webm'
      if (brand === 'qt  ' || ['moov', 'mdat', 'wide'].includes(text.slice(4, 8))) return 'video/quicktime'
      return brand && !['heic', 'heix', 'mif1', 'avif', 'M4A '].includes(brand) ? 'video/mp4' : null
  }
}

export async function sha256(blob: Blob): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', await blob.arrayBuffer())
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('')
}

/** What is said of a file before its bytes are sent. */
export const declare = async (file: Picked): Promise<Declared> => ({
  id: file.id,
  name: file.name,
  type: file.blob.type,
  bytes: file.blob.size,
  sha256: await sha256(file.blob),
  slot: file.slot,
})
