import { liveQuery, type Subscription } from 'dexie'
import { useMemo, useSyncExternalStore } from 'react'
import { carryMarks } from '../shared/map/marks'
import { db, type Pack, type PackLayer } from './db'

/**
 * The little that every screen asks the store for, asked once for all of them and already while the app opens:
 * a screen has it when it is first drawn, and is not drawn again for what stayed as it was.
 */
function asked<T>(ask: () => Promise<T>, keep: (before: T, now: T) => T) {
  let answer: T | undefined
  let reading: Subscription | null = null
  const watchers = new Set<() => void>()
  const take = (now: T) => {
    const kept = answer === undefined ? now : keep(answer, now)
    if (kept === answer) return
    answer = kept
    for (const told of watchers) told()
  }
  return {
    ahead: async () => take(await ask()),
    now: () => answer,
    watch: (watcher: () => void) => {
      watchers.add(watcher)
      reading ??= liveQuery(ask).subscribe(take)
      return () => void watchers.delete(watcher)
    },
  }
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
const keepSame = <T>(before: T, now: T) => (same(before, now) ? before : now)

type Values = Record<string, unknown>
const settings = asked<Values>(
  async () => Object.fromEntries((await db.meta.toArray()).map(({ key, value }) => [key, value])),
  (before, now) => Object.fromEntries(Object.entries(now).map(([key, value]) => [key, keepSame(before[key], value)])),
)

const packs = asked<Pack[]>(async () => {
  const all = await db.packs.toArray()
  for (const pack of all) carryMarks(pack.marks ?? {})
  return all
}, keepSame)

/** What waits, and for whom; `oldest` is when the oldest of the outbox was saved. */
export type Waiting = { waiting: number; photos: number; refused: number; asked: number; notes: number; oldest: string | undefined }
const waiting = asked<Waiting>(async () => {
  const items = await db.outbox.toArray()
  const state = (of: 'waiting' | 'refused') => items.filter((i) => i.state === of).length
  return {
    waiting: state('waiting'), photos: await db.photos.where('state').equals('waiting').count(),
    refused: state('refused') + (await db.photos.where('state').equals('refused').count()),
    asked: await db.asked.filter((a) => a.answered_here === undefined).count(), notes: await db.notes.count(),
    oldest: items.map((i) => i.saved_at).sort()[0],
  }
}, keepSame)

/** Reads what the first screen shows, all at once; fails where the browser gives no store. */
export const openStore = () => Promise.all([settings.ahead(), packs.ahead(), waiting.ahead()])

/** One setting of this phone (`meta`), followed. */
export const useMeta = <T>(key: string): T | undefined => useSyncExternalStore(settings.watch, () => settings.now()?.[key] as T | undefined)
export const usePacks = (): Pack[] | undefined => useSyncExternalStore(packs.watch, packs.now)
export const useWaiting = (): Waiting | undefined => useSyncExternalStore(waiting.watch, waiting.now)
/** The layers of all packs by their numbers. */
export function useLayers(): Map<number, PackLayer> | undefined {
  const all = usePacks()
  return useMemo(() => all && new Map(all.flatMap((p) => p.layers).map((l) => [l.id, l])), [all])
}
