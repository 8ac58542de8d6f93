import type { BackdropStyle } from '../../resources/ts/shared/map/backdrop'

export const MOST_BYTES: number
export class Unsound extends Error {
  reasons: string[]
}
export function checked(
  key: string,
  data: unknown,
  style: unknown,
): {
  data: GeoJSON.FeatureCollection
  style: Partial<BackdropStyle> & Pick<BackdropStyle, 'layers' | 'labels' | 'box'>
  corrections: string[]
}
