/**
 * What a JPEG says of its picture, beside the picture: when and where it was taken, by what, in which
 * direction, by whom. Segments after ISO/IEC 10918-1, B.1; Exif in APP1 after Exif 2.32 (CIPA DC-008), 4.5
 * and 4.6.
 */

const [SOI, SOS, EOI] = [0xd8, 0xda, 0xd9]
const APP1 = 0xe1
const APP13 = 0xed
const COMMENT = 0xfe

type Segment = { marker: number; bytes: Uint8Array }

/** The segments before the picture's own data, each with its marker and length. */
function* segments(jpeg: Uint8Array): Generator<Segment> {
  let at = 2
  while (at + 4 <= jpeg.length && jpeg[at] === 0xff) {
    const marker = jpeg[at + 1]!
    if (marker === 0xff) {
      at += 1
      continue
    }
    if (marker === SOS || marker === EOI) return
    const length = 2 + jpeg[at + 2]! * 256 + jpeg[at + 3]!
    if (length < 4 || at + length > jpeg.length) return
    yield { marker, bytes: jpeg.subarray(at, at + length) }
    at += length
  }
}

/**
 * Exif and XMP, captions, comments. A colour profile is left out: what is drawn anew is in the colours of the
 * screen.
 */
const tells = ({ marker }: Segment) => marker === APP1 || marker === APP13 || marker === COMMENT

/**
 * Puts what one JPEG says of itself into another that was drawn from it, upright and `width` by `height`
 * pixels.
 */
export function carryOver(
  from: Uint8Array,
  to: Uint8Array,
  width: number,
  height: number,
): Uint8Array<ArrayBuffer> {
  if (from[1] !== SOI || to[1] !== SOI) throw new Error('no JPEG')
  const said = [...segments(from)]
    .filter(tells)
    .map(({ marker, bytes }) => (marker === APP1 ? redrawn(bytes, width, height) : bytes))
  const plain = [...segments(to)].filter(tells)
  const out: Uint8Array[] = [to.subarray(0, 2), ...said]
  let at = 2
  for (const { bytes } of plain) {
    out.push(to.subarray(at, bytes.byteOffset - to.byteOffset))
    at = bytes.byteOffset - to.byteOffset + bytes.length
  }
  out.push(to.subarray(at))
  const whole = new Uint8Array(out.reduce((n, part) => n + part.length, 0))
  let put = 0
  for (const part of out) {
    whole.set(part, put)
    put += part.length
  }
  return whole
}

/**
 * Exif of a picture that was drawn anew: it lies upright now, and has other sides. Anything that is no sound
 * Exif stays as it is.
 */
function redrawn(segment: Uint8Array, width: number, height: number): Uint8Array {
  const copy = segment.slice()
  const data = new DataView(copy.buffer)
  const head = 10
  if (copy.length < head + 8 || String.fromCharCode(...copy.subarray(4, 8)) !== 'Exif') return copy
  const little = data.getUint16(head) === 0x4949
  /** Sets numbers of a directory by tag; answers with the directory of the camera's own tags. */
  const set = (offset: number, wanted: Record<number, number>): number | null => {
    const at = head + offset
    let within: number | null = null
    if (offset < 8 || at + 2 > copy.length) return null
    for (let i = 0, n = data.getUint16(at, little); i < n; i++) {
      const entry = at + 2 + 12 * i
      if (entry + 12 > copy.length) return within
      const tag = data.getUint16(entry, little)
      const type = data.getUint16(entry + 2, little)
      if (tag === 0x8769) within = data.getUint32(entry + 8, little)
      const value = wanted[tag]
      if (value === undefined) continue
      if (type === 3) data.setUint16(entry + 8, value, little)
      if (type === 4) data.setUint32(entry + 8, value, little)
    }
    return within
  }
  const camera = set(data.getUint32(head + 4, little), { 0x0112: 1, 0x0100: width, 0x0101: height })
  if (camera !== null) set(camera, { 0xa002: width, 0xa003: height })
  return copy
}
