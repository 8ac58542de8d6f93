import { decimal } from '../shared/texts'
import { shownArea, shownLength } from '../shared/form/geodesic'

/**
 * Lengths and areas as people of different trades read them. One nautical mile is 1,852 m, one foot 0.3048 m,
 * one acre 43,560 square feet (exact by definition).
 */
export const UNITS = ['metric', 'nautical', 'feet'] as const
export type Units = (typeof UNITS)[number]

const short = (n: number) => decimal(n.toFixed(n < 10 ? 2 : n < 100 ? 1 : 0))
const FOOT = 0.3048

export function lengthIn(metres: number, units: Units): string {
  if (units === 'nautical') return metres < 185.2 ? `${Math.round(metres)} m` : `${short(metres / 1852)} NM`
  if (units === 'feet')
    return metres < 1609.344 / 2 ? `${Math.round(metres / FOOT)} ft` : `${short(metres / 1609.344)} mi`
  return shownLength(metres)
}

export function areaIn(square: number, units: Units): string {
  if (units === 'nautical') return `${short(square / 1852 ** 2)} NM²`
  if (units === 'feet')
    return square < 4046.8564224 / 2
      ? `${Math.round(square / FOOT ** 2)} ft²`
      : `${short(square / 4046.8564224)} acres`
  return shownArea(square)
}
