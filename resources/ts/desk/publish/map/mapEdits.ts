import type { LayerOnMap } from '../../../shared/types'

/* Changes of a map's layers, the topmost first. */

export const withPart = (parts: LayerOnMap[], id: string, change: Partial<LayerOnMap>): LayerOnMap[] =>
  parts.map((p) => (p.id === id ? { ...p, ...change } : p))

/** Moved by so many places; at either end it stays. */
export function withMoved(parts: LayerOnMap[], id: string, by: number): LayerOnMap[] {
  const from = parts.findIndex((p) => p.id === id)
  const to = Math.max(0, Math.min(parts.length - 1, from + by))
  if (from === -1 || from === to) return parts
  const next = [...parts]
  next.splice(to, 0, ...next.splice(from, 1))
  return next
}

export const without = (parts: LayerOnMap[], id: string): LayerOnMap[] => parts.filter((p) => p.id !== id)

/** Put back where it was. */
export function withBack(parts: LayerOnMap[], part: LayerOnMap, at: number): LayerOnMap[] {
  if (parts.some((p) => p.id === part.id)) return parts
  const next = [...parts]
  next.splice(at, 0, part)
  return next
}

/** What comes new lies on top, but under it what is smaller stays to be seen: areas come lowest, lines above them. */
export function withNew(
  parts: LayerOnMap[],
  part: LayerOnMap,
  geometry: (p: LayerOnMap) => string,
): LayerOnMap[] {
  const rank = (p: LayerOnMap) => ['point', 'line', 'area'].indexOf(geometry(p))
  const at = parts.findIndex((p) => rank(p) >= rank(part))
  const next = [...parts]
  next.splice(at === -1 ? parts.length : at, 0, part)
  return next
}

export const newPartId = () =>
  `l${[...crypto.getRandomValues(new Uint8Array(4))].map((b) => b.toString(16).padStart(2, '0')).join('')}`
