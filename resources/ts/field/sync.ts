import { useSyncExternalStore } from 'react'
import { api, ApiError } from '../shared/api'
import type { Problem, RecordRow } from '../shared/types'
import { db, deviceId, meta, setMeta, type OutboxItem, type PackLayer } from './db'
import { refreshPack } from './packs'
import { sendPhotos } from './photos'
import { nameOf } from './save'

/** One exchange that empties the outbox and fetches news. It can be broken off anywhere and begun again. */

type Outcome = { op: string | null; outcome: 'applied' | 'refused'; record?: string; problems?: Problem[] }
type News = { cursor: number; more: boolean; design: number; records: RecordRow[]; gone: string[] }
type Answer = { server_time: string; outcomes: Outcome[]; news: Record<string, News>; lost: number[] }

export type SyncState = { phase: 'idle' | 'sending'; signal: boolean; signIn: boolean; trouble: string | null; last: number | null }

const BATCH = 100
/** So long a pack's outings, rights and lists are taken for what they are. */
const FRESH_MS = 300_000
let state: SyncState = { phase: 'idle', signal: navigator.onLine, signIn: false, trouble: null, last: null }
const watchers = new Set<() => void>()

function put(part: Partial<SyncState>) {
  state = { ...state, ...part }
  for (const watcher of watchers) watcher()
}

export const useSync = () => useSyncExternalStore((watcher) => { watchers.add(watcher); return () => watchers.delete(watcher) }, () => state)

/** Runs one sync round, unless one is running already, here or in another tab. */
export async function syncNow(): Promise<void> {
  if (!navigator.onLine) return put({ signal: false })
  await navigator.locks.request('pin-yard-sync', { ifAvailable: true }, async (lock) => {
    if (!lock) return
    put({ phase: 'sending', trouble: null })
    try {
      while (await round());
      await sendPhotos()
      await freshen()
      put({ signal: true, signIn: false, last: Date.now() })
    } catch (e) {
      told(e)
    }
    put({ phase: 'idle' })
  })
}

/** Outings and rights may change without any record or design doing so. */
async function freshen() {
  const packs = await db.packs.toArray()
  if (packs.some((p) => Date.now() - new Date(p.fetched_at ?? 0).getTime() > FRESH_MS)) await refreshPack()
}

function told(e: unknown) {
  if (!(e instanceof ApiError)) return put({ trouble: e instanceof Error ? e.message : String(e) })
  if (e.status === 0) return put({ signal: false })
  if (e.status === 401) return put({ signal: true, signIn: true })
  put({ signal: true, trouble: e.problems[0]?.message ?? e.message })
}

/** @returns whether there is more to send or to fetch */
async function round(): Promise<boolean> {
  const batch = await db.outbox.where('state').equals('waiting').limit(BATCH).sortBy('seq')
  const cursors = Object.fromEntries((await db.cursors.toArray()).map((c) => [c.layer, c.since]))
  if (batch.length === 0 && Object.keys(cursors).length === 0) return false
  const waiting = (await db.outbox.count()) + (await db.photos.where('state').equals('waiting').count())
  const answer = await api<Answer>('POST', '/sync', {
    device: await deviceId(), sent_at: new Date().toISOString(), waiting: waiting - batch.length,
    operations: batch.map((item) => item.operation), cursors,
  })
  await settle(batch, answer.outcomes)
  const packsChanged = await takeNews(answer)
  if (packsChanged) await refreshPack()
  await setMeta('clock_offset_ms', new Date(answer.server_time).getTime() - Date.now())
  const answered = new Set(answer.outcomes.map((o) => o.op))
  const progress = batch.some((item) => answered.has(item.op))
  return (progress && batch.length === BATCH) || Object.values(answer.news).some((n) => n.more)
}

/** An operation leaves the outbox only when the server has named its outcome. */
async function settle(batch: OutboxItem[], outcomes: Outcome[]) {
  await db.transaction('rw', [db.outbox, db.records], async () => {
    for (const outcome of outcomes) {
      const item = batch.find((b) => b.op === outcome.op)
      if (!item) continue
      if (outcome.outcome === 'applied') {
        await db.outbox.delete(item.seq)
        await db.records.update(item.operation.record, { local: undefined })
      } else {
        await db.outbox.update(item.seq, { state: 'refused', problems: outcome.problems?.map((p) => p.message) ?? [] })
        await db.records.update(item.operation.record, { local: 'refused' })
      }
    }
  })
}

/** @returns whether a design has changed, so that the pack must be fetched again */
async function takeNews(answer: Answer): Promise<boolean> {
  const layers = new Map<number, PackLayer>((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l]))
  let designChanged = false
  await db.transaction('rw', [db.records, db.cursors, db.outbox], async () => {
    const unsent = new Set((await db.outbox.toArray()).map((item) => item.operation.record))
    for (const [key, news] of Object.entries(answer.news)) {
      const id = Number(key)
      const layer = layers.get(id)
      await db.records.bulkPut(news.records.filter((r) => !unsent.has(r.id)).map((r) => ({
        id: r.id, layer: id, lon: r.lon, lat: r.lat, shape: r.geometry ?? null, altitude: r.altitude, ...(r.visited ? { visited: r.visited } : {}), values: r.values, collected_at: r.collected_at, author: r.author,
        name: layer ? nameOf(layer, r.values) : r.name, photos: r.photos.length,
      })))
      await db.records.bulkDelete(news.gone)
      await db.cursors.put({ layer: id, since: news.cursor })
      if (layer && news.design !== layer.design_version) designChanged = true
    }
    for (const id of answer.lost) {
      // The right to this layer was taken away: its copy goes, but never what has not arrived.
      await db.records.where('layer').equals(id).filter((r) => !r.local).delete()
      await db.cursors.delete(id)
      designChanged = true
    }
  })
  return designChanged
}

/** Keeps syncing while the app is open: when signal comes back, when it is looked at again, and every so often. */
export function keepSyncing(): () => void {
  const go = () => void syncNow()
  const lost = () => put({ signal: false })
  const seen = () => document.visibilityState === 'visible' && go()
  window.addEventListener('online', go)
  window.addEventListener('offline', lost)
  document.addEventListener('visibilitychange', seen)
  const timer = setInterval(seen, 20_000)
  void meta('me').then((me) => me && go())
  return () => {
    window.removeEventListener('online', go)
    window.removeEventListener('offline', lost)
    document.removeEventListener('visibilitychange', seen)
    clearInterval(timer)
  }
}

export const signedIn = () => put({ signIn: false })
