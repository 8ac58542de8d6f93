import { api, ApiError } from '../shared/api'
import { db, deviceId, meta, setMeta, type TrailPoint } from './db'
import { useMeta } from './phoneState'
import { metres } from './position'

/**
 * Where this phone has been, if its bearer says so: kept here, thinned, and sent with the rounds. A point is
 * kept when one has gone some way from the last, or has stood for some time; a poor fix says nothing of a
 * way.
 */
const STEP_M = 12
const STAND_MS = 120_000
const POOR_M = 50
const BATCH = 2_000
/** Ways of former days that have arrived need not stay on the phone. */
const KEEP_MS = 3 * 86_400_000

type On = { since: string; programme: number } | null

export const useTrailOn = (): On => useMeta<On>('trail') ?? null
export const startTrail = (programme: number) =>
  setMeta('trail', { since: new Date().toISOString(), programme })
export const stopTrail = () => setMeta('trail', null)

/** Whether a fix belongs to a trail that ended in `last`. */
export const isStep = (
  last: { lon: number; lat: number; at: number } | undefined,
  next: { lon: number; lat: number; at: number; accuracy: number },
) =>
  next.accuracy <= POOR_M &&
  (!last || next.at - last.at >= STAND_MS || metres(last, next) >= Math.max(STEP_M, next.accuracy / 2))

/** Keeps a trail while it is on; answers with how to stop. */
export function followTrail(programme: number): () => void {
  let last: TrailPoint | undefined
  let busy = false
  const watch = navigator.geolocation?.watchPosition(
    async ({ coords, timestamp }) => {
      const fix = {
        at: Math.round(timestamp),
        lon: Number(coords.longitude.toFixed(6)),
        lat: Number(coords.latitude.toFixed(6)),
        accuracy: Math.round(coords.accuracy),
      }
      if (busy) return
      busy = true
      try {
        last ??= await db.trail.orderBy('at').last()
        if (isStep(last, fix)) {
          const point: TrailPoint = { ...fix, programme, sent: 0 }
          await db.trail.put(point)
          last = point
        }
      } finally {
        busy = false
      }
    },
    undefined,
    { enableHighAccuracy: true, maximumAge: 5_000 },
  )
  return () => {
    if (watch !== undefined) navigator.geolocation.clearWatch(watch)
  }
}

/** Sends what of the trail has not arrived. */
export async function sendTrail(): Promise<void> {
  for (;;) {
    const points = await db.trail.where('sent').equals(0).limit(BATCH).toArray()
    const first = points[0]
    if (!first) break
    const some = points.filter((p) => p.programme === first.programme)
    const battery = await (navigator as Navigator & { getBattery?: () => Promise<{ level: number }> })
      .getBattery?.()
      .catch(() => null)
    try {
      await api('POST', `/programmes/${first.programme}/trails`, {
        device: await deviceId(),
        points: some.map((p) => [p.at, p.lon, p.lat, p.accuracy]),
        clock_off: Math.round(((await meta<number>('clock_offset_ms')) ?? 0) / 1000),
        battery: battery ? Math.round(100 * battery.level) : null,
      })
    } catch (e) {
      // Whoever has left a programme shares no way with it any more.
      if (!(e instanceof ApiError) || (e.status !== 403 && e.status !== 404)) throw e
      await stopTrail()
    }
    await db.trail.bulkPut(some.map((p) => ({ ...p, sent: 1 as const })))
  }
  await db.trail
    .where('at')
    .below(Date.now() - KEEP_MS)
    .filter((p) => p.sent === 1)
    .delete()
}
