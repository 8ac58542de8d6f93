import type { Box } from '../../shared/types'

/** Where the map was left, so that coming back from a form finds the same place. */
let left: Box | null = null
/** A place that was looked up by name. */
export type Found = { name: string; lon: number; lat: number }
let found: Found | null = null

/** What of the map was in view when it was left. */
export const leftAt = () => left

/** Opens the map at a place the next time that it is shown. */
export const openAt = (extent: Box) => {
  left = extent
}

/** Degrees around a place that was looked up: some four hundred metres. */
const AROUND = 0.004

export function openAtPlace(place: Found) {
  found = place
  openAt([
    place.lon - AROUND,
    Math.max(-90, place.lat - AROUND),
    place.lon + AROUND,
    Math.min(90, place.lat + AROUND),
  ])
}

export const foundPlace = () => found
export const forgetPlace = () => {
  found = null
}
