/** What a layout needs of a tile. */
export type Placed = { id: string; width: number; height: number; x?: number; y?: number }
export type Spot = { x: number; y: number; w: number; h: number }

export const COLUMNS = 12

const overlap = (a: Spot, b: Spot) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h

/**
 * Where each tile stands on twelve columns: those with a place of their own there, unless another is; the rest in order
 * wherever there is room, from the top.
 */
export function layOut(tiles: Placed[]): Record<string, Spot> {
  const spots: Record<string, Spot> = {}
  const taken: Spot[] = []
  const put = (id: string, spot: Spot) => {
    spots[id] = spot
    taken.push(spot)
  }
  const free = (spot: Spot) => !taken.some((t) => overlap(t, spot))
  const loose: Placed[] = []
  for (const tile of tiles) {
    const spot = { x: tile.x ?? 0, y: tile.y ?? 0, w: Math.min(tile.width, COLUMNS), h: tile.height }
    if (tile.x !== undefined && tile.y !== undefined && spot.x + spot.w <= COLUMNS && free(spot))
      put(tile.id, spot)
    else loose.push(tile)
  }
  for (const tile of loose) {
    const w = Math.min(tile.width, COLUMNS)
    for (let y = 0, done = false; !done; y++)
      for (let x = 0; x + w <= COLUMNS && !done; x++) {
        const spot = { x, y, w, h: tile.height }
        if (free(spot)) {
          put(tile.id, spot)
          done = true
        }
      }
  }
  return spots
}

/** The order on a phone: as chosen there, otherwise as at the desk, row by row; those left out are not in it. */
export function phoneOrder<T extends Placed & { phone?: number; on_phone?: boolean }>(tiles: T[]): T[] {
  const spots = layOut(tiles)
  const rank = (tile: T) => {
    const at = spots[tile.id]
    return at ? at.y * COLUMNS + at.x : 0
  }
  const shown = tiles.filter((tile) => tile.on_phone !== false)
  const free = shown.filter((tile) => tile.phone === undefined).sort((a, b) => rank(a) - rank(b))
  const order = [...free]
  for (const tile of shown
    .filter((t) => t.phone !== undefined)
    .sort((a, b) => (a.phone ?? 0) - (b.phone ?? 0)))
    order.splice(Math.min(tile.phone ?? 0, order.length), 0, tile)
  return order
}
