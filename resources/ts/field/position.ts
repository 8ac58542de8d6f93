import { useEffect, useState } from 'react'
import { decimal } from '../shared/texts'
import { setMeta, type Fix } from './db'
import { useMeta } from './phoneState'

export type Position = {
  lon: number
  lat: number
  accuracy: number
  at: number
  altitude: number | null
  satellites?: number | null
  type?: string | null
}
export type PositionState = { position: Position | null; denied: boolean }

/** Fixes of the last seconds are averaged, the better ones counting for more. */
const WINDOW_MS = 8_000
/** A fix this far from the mean (in metres) means that one is walking, so older ones are dropped. */
const STILL_M = 15

/** Where the phone is, live. Weights are 1 / accuracy squared, as for independent errors. */
export function usePosition(): PositionState {
  const [state, setState] = useState<PositionState>({ position: null, denied: false })
  const receiver = useReceiver()
  useEffect(() => {
    let fixes: Position[] = []
    const take = (fix: Position) => {
      fixes = fixes.filter(
        (f) => f.at > fix.at - WINDOW_MS && metres(f, fix) < Math.max(STILL_M, fix.accuracy),
      )
      fixes.push(fix)
      setState({ position: mean(fixes), denied: false })
    }
    if (receiver)
      return listen(receiver, take, () => {
        fixes = []
        setState({ position: null, denied: false })
      })
    const watch = navigator.geolocation?.watchPosition(
      ({ coords, timestamp }) =>
        take({
          lon: coords.longitude,
          lat: coords.latitude,
          accuracy: coords.accuracy,
          at: timestamp,
          altitude: coords.altitude,
        }),
      (error) => setState((s) => ({ ...s, denied: error.code === error.PERMISSION_DENIED })),
      { enableHighAccuracy: true, maximumAge: 2_000 },
    )
    return () => {
      if (watch !== undefined) navigator.geolocation.clearWatch(watch)
    }
  }, [receiver])
  return state
}

function mean(fixes: Position[]): Position {
  let weight = 0,
    lon = 0,
    lat = 0
  for (const f of fixes) {
    const w = 1 / Math.max(1, f.accuracy) ** 2
    weight += w
    lon += w * f.lon
    lat += w * f.lat
  }
  // Fixes of one receiver in a row are not independent, so the mean claims no more than the best of them.
  return {
    lon: lon / weight,
    lat: lat / weight,
    accuracy: Math.min(...fixes.map((f) => f.accuracy)),
    at: fixes.at(-1)?.at ?? 0,
    altitude: fixes.at(-1)?.altitude ?? null,
    satellites: fixes.at(-1)?.satellites ?? null,
    type: fixes.at(-1)?.type ?? null,
  }
}

/** Address of the bridge to a receiver outside the phone; none for the phone's own. */
export const useReceiver = (): string | null => useMeta<string>('receiver') ?? null
export const setReceiver = (address: string) => setMeta('receiver', address.trim() || undefined)

type Told = {
  lon: number
  lat: number
  altitude: number | null
  accuracy: number | null
  satellites: number | null
  type: string
  at: string | null
} | null
/** A receiver that says nothing for so long has gone: an old place must not be taken for the present one. */
const SILENCE_MS = 5_000

function listen(address: string, take: (fix: Position) => void, lost: () => void): () => void {
  const events = new EventSource(address)
  let silence = setTimeout(lost, SILENCE_MS)
  events.onmessage = ({ data }: MessageEvent<string>) => {
    clearTimeout(silence)
    silence = setTimeout(lost, SILENCE_MS)
    const told = JSON.parse(data) as Told
    if (told)
      take({
        lon: told.lon,
        lat: told.lat,
        accuracy: told.accuracy ?? 10,
        at: told.at ? Date.parse(told.at) : Date.now(),
        altitude: told.altitude,
        satellites: told.satellites,
        type: told.type,
      })
    else lost()
  }
  return () => {
    clearTimeout(silence)
    events.close()
  }
}

/** What of a position goes with a record, in an address and back. */
export const fixQuery = (p: Position) =>
  [
    `&accuracy=${p.accuracy.toFixed(1)}`,
    `&at=${encodeURIComponent(new Date(p.at).toISOString())}`,
    p.altitude === null ? '' : `&altitude=${p.altitude.toFixed(1)}`,
    p.satellites ? `&satellites=${p.satellites}` : '',
    p.type ? `&type=${p.type}` : '',
  ].join('')

export function readFix(search: URLSearchParams): Fix {
  const number = (key: string) => (search.get(key) === null ? null : Number(search.get(key)))
  return search.get('accuracy') === null
    ? null
    : {
        accuracy: number('accuracy'),
        at: search.get('at'),
        altitude: number('altitude'),
        ...(search.get('satellites') ? { satellites: number('satellites')! } : {}),
        ...(search.get('type') ? { type: search.get('type')! } : {}),
      }
}

type Place = { lon: number; lat: number }
const EARTH_M = 6_371_008.8 // mean radius of the WGS 84 ellipsoid, (2a + b) / 3

/**
 * Great-circle distance in metres (haversine); within 0.6 % of the ellipsoid, for ordering and rough telling.
 */
export function metres(a: Place, b: Place): number {
  const rad = Math.PI / 180
  const s =
    Math.sin(((b.lat - a.lat) * rad) / 2) ** 2 +
    Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin(((b.lon - a.lon) * rad) / 2) ** 2
  return 2 * EARTH_M * Math.asin(Math.sqrt(s))
}

/** Initial bearing from a to b, in degrees from north. */
export function bearing(a: Place, b: Place): number {
  const rad = Math.PI / 180
  const dLon = (b.lon - a.lon) * rad
  const y = Math.sin(dLon) * Math.cos(b.lat * rad)
  const x =
    Math.cos(a.lat * rad) * Math.sin(b.lat * rad) -
    Math.sin(a.lat * rad) * Math.cos(b.lat * rad) * Math.cos(dLon)
  return (Math.atan2(y, x) / rad + 360) % 360
}

const POINTS = [
  'north',
  'north-east',
  'east',
  'south-east',
  'south',
  'south-west',
  'west',
  'north-west',
] as const
export const compassPoint = (degrees: number) => POINTS[Math.round(degrees / 45) % 8] ?? 'north'
export const farAway = (m: number) =>
  m < 995
    ? `${m < 100 ? Math.round(m) : Math.round(m / 10) * 10} m`
    : `${decimal((m / 1000).toFixed(m < 9950 ? 1 : 0))} km`
