const RADIUS = 6_378_137
const F = 1 / 298.257223563
const rad = (degrees: number) => (degrees * Math.PI) / 180

/** Metres between two places on the WGS 84 ellipsoid, as core/Geo/Lambert.php has it. */
export function metresBetween(lon1: number, lat1: number, lon2: number, lat2: number): number {
  const b1 = Math.atan((1 - F) * Math.tan(rad(lat1)))
  const b2 = Math.atan((1 - F) * Math.tan(rad(lat2)))
  const h = Math.sin((b2 - b1) / 2) ** 2 + Math.cos(b1) * Math.cos(b2) * Math.sin(rad(lon2 - lon1) / 2) ** 2
  if (h === 0) return 0
  const angle = 2 * Math.asin(Math.min(1, Math.sqrt(h)))
  const p = (b1 + b2) / 2
  const q = (b2 - b1) / 2
  const x =
    ((angle - Math.sin(angle)) * Math.sin(p) ** 2 * Math.cos(q) ** 2) /
    Math.max(1e-300, Math.cos(angle / 2) ** 2)
  const y = ((angle + Math.sin(angle)) * Math.cos(p) ** 2 * Math.sin(q) ** 2) / Math.sin(angle / 2) ** 2
  return RADIUS * (angle - (F / 2) * (x + y))
}
