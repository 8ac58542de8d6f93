/** What a tap on a map has picked. */
export type Picked = {
  id: string
  lon: number
  lat: number
  source?: string
  /** Its mark lies around its place, and does not stand on it as a peg does. */
  around?: boolean
}
