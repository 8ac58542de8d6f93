import { paint } from '../paint'
import type { TextKey } from '../texts'

/** How a tile that draws by itself, as a map does, gives its picture. */
export type OwnPicture = { current: (() => Promise<Blob>) | null }

/** Not in pictures: what one taps. */
export const NOT_IN_PICTURE = 'data-not-in-picture'

/** A tile as it is on the screen, as a PNG. */
export async function pictureOfTile(tile: HTMLElement): Promise<Blob> {
  const { toBlob } = await import('html-to-image')
  const picture = await toBlob(tile, {
    pixelRatio: 2,
    backgroundColor: paint.sheet,
    filter: (node) => !(node instanceof HTMLElement && node.hasAttribute(NOT_IN_PICTURE)),
  })
  if (!picture) throw new Error('tile.picture.failed' satisfies TextKey)
  return picture
}
