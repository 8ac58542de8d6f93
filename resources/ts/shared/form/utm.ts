/**
 * Universal Transverse Mercator on WGS 84, both ways, where there is no server: as core/Geo/Utm.php has it
 * (Krüger's series, Karney 2011).
 */

const RADIUS = 6_378_137
const FLATTENING = 1 / 298.257223563
const N = FLATTENING / (2 - FLATTENING)
const A = (RADIUS / (1 + N)) * (1 + N ** 2 / 4 + N ** 4 / 64)
const SCALE = 0.9996
const ALPHA = [
  N / 2 - (2 * N ** 2) / 3 + (5 * N ** 3) / 16,
  (13 * N ** 2) / 48 - (3 * N ** 3) / 5,
  (61 * N ** 3) / 240,
]
const BETA = [N / 2 - (2 * N ** 2) / 3 + (37 * N ** 3) / 96, N ** 2 / 48 + N ** 3 / 15, (17 * N ** 3) / 480]
const DELTA = [2 * N - (2 * N ** 2) / 3 - 2 * N ** 3, (7 * N ** 2) / 3 - (8 * N ** 3) / 5, (56 * N ** 3) / 15]
const BANDS = 'CDEFGHJKLMNPQRSTUVWX'
const RAD = Math.PI / 180

export type Utm = { zone: number; north: boolean; easting: number; northing: number }

const meridian = (zone: number) => zone * 6 - 183

export const isNorthern = (band: string): boolean | null => {
  const i = BANDS.indexOf(band.toUpperCase())
  return i < 0 ? null : i >= 10
}

/** The letter of the eight degrees of latitude that a place lies in. */
export const bandOf = (lat: number) => BANDS[Math.min(19, Math.max(0, Math.floor((lat + 80) / 8)))] ?? 'N'

export function toUtm(lon: number, lat: number): Utm {
  const zone = Math.min(60, Math.floor((lon + 180) / 6) + 1)
  const phi = lat * RAD
  const lambda = (lon - meridian(zone)) * RAD
  const k = (2 * Math.sqrt(N)) / (1 + N)
  const tau = Math.sinh(Math.atanh(Math.sin(phi)) - k * Math.atanh(k * Math.sin(phi)))
  const xi = Math.atan2(tau, Math.cos(lambda))
  const eta = Math.atanh(Math.sin(lambda) / Math.sqrt(1 + tau * tau))
  let [east, north] = [eta, xi]
  ALPHA.forEach((c, i) => {
    const j = 2 * (i + 1)
    east += c * Math.cos(j * xi) * Math.sinh(j * eta)
    north += c * Math.sin(j * xi) * Math.cosh(j * eta)
  })
  return {
    zone,
    north: lat >= 0,
    easting: 500_000 + SCALE * A * east,
    northing: SCALE * A * north + (lat >= 0 ? 0 : 10_000_000),
  }
}

export function fromUtm({ zone, north, easting, northing }: Utm): { lon: number; lat: number } {
  const xi = (northing - (north ? 0 : 10_000_000)) / (SCALE * A)
  const eta = (easting - 500_000) / (SCALE * A)
  let [x, e] = [xi, eta]
  BETA.forEach((c, i) => {
    const j = 2 * (i + 1)
    x -= c * Math.sin(j * xi) * Math.cosh(j * eta)
    e -= c * Math.cos(j * xi) * Math.sinh(j * eta)
  })
  const chi = Math.asin(Math.sin(x) / Math.cosh(e))
  const phi = DELTA.reduce((sum, c, i) => sum + c * Math.sin(2 * (i + 1) * chi), chi)
  const lon = meridian(zone) + Math.atan2(Math.sinh(e), Math.cos(x)) / RAD
  return { lon: lon > 180 ? lon - 360 : lon < -180 ? lon + 360 : lon, lat: phi / RAD }
}
