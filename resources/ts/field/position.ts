import { useEffect, useState } from 'react'

export type Position = { lon: number; lat: number; accuracy: number; at: number; altitude: number | null }
export type PositionState = { position: Position | null; denied: boolean }

/** Fixes of the last seconds are averaged, the better ones counting for more. */
const WINDOW_MS = 8_000
/** A fix this far from the mean (in metres) means that one is walking, so older ones are dropped. */
const STILL_M = 15

/** Where the phone is, live. Weights are 1 / accuracy squared, as for independent errors. */
export function usePosition(): PositionState {
  const [state, setState] = useState<PositionState>({ position: null, denied: false })
  useEffect(() => {
    let fixes: Position[] = []
    const watch = navigator.geolocation?.watchPosition(
      ({ coords, timestamp }) => {
        const fix = { lon: coords.longitude, lat: coords.latitude, accuracy: coords.accuracy, at: timestamp, altitude: coords.altitude }
        fixes = fixes.filter((f) => f.at > timestamp - WINDOW_MS && metres(f, fix) < Math.max(STILL_M, fix.accuracy))
        fixes.push(fix)
        setState({ position: mean(fixes), denied: false })
      },
      (error) => setState((s) => ({ ...s, denied: error.code === error.PERMISSION_DENIED })),
      { enableHighAccuracy: true, maximumAge: 2_000 },
    )
    return () => { if (watch !== undefined) navigator.geolocation.clearWatch(watch) }
  }, [])
  return state
}

function mean(fixes: Position[]): Position {
  let weight = 0, lon = 0, lat = 0
  for (const f of fixes) {
    const w = 1 / Math.max(1, f.accuracy) ** 2
    weight += w
    lon += w * f.lon
    lat += w * f.lat
  }
  // Fixes of one receiver in a row are not independent, so the mean claims no more than the best of them.
  return { lon: lon / weight, lat: lat / weight, accuracy: Math.min(...fixes.map((f) => f.accuracy)), at: fixes.at(-1)?.at ?? 0, altitude: fixes.at(-1)?.altitude ?? null }
}

type Place = { lon: number; lat: number }
const EARTH_M = 6_371_008.8 // mean radius of the WGS 84 ellipsoid, (2a + b) / 3

/** Great-circle distance in metres (haversine); within 0.6 % of the ellipsoid, for ordering and rough telling. */
export function metres(a: Place, b: Place): number {
  const rad = Math.PI / 180
  const s = Math.sin(((b.lat - a.lat) * rad) / 2) ** 2 + Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin(((b.lon - a.lon) * rad) / 2) ** 2
  return 2 * EARTH_M * Math.asin(Math.sqrt(s))
}

/** Initial bearing from a to b, in degrees from north. */
export function bearing(a: Place, b: Place): number {
  const rad = Math.PI / 180
  const dLon = (b.lon - a.lon) * rad
  const y = Math.sin(dLon) * Math.cos(b.lat * rad)
  const x = Math.cos(a.lat * rad) * Math.sin(b.lat * rad) - Math.sin(a.lat * rad) * Math.cos(b.lat * rad) * Math.cos(dLon)
  return (Math.atan2(y, x) / rad + 360) % 360
}

const POINTS = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'] as const
export const compassPoint = (degrees: number) => POINTS[Math.round(degrees / 45) % 8] ?? 'north'
export const farAway = (m: number) => (m < 995 ? `${m < 100 ? Math.round(m) : Math.round(m / 10) * 10} m` : `${(m / 1000).toFixed(m < 9950 ? 1 : 0)} km`)
