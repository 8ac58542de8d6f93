import { liveQuery, type Subscription } from 'dexie'
import { useMemo, useSyncExternalStore } from 'react'
import { nameBearer } from '../shared/api'
import { setClockBehind } from '../shared/clock'
import { carryMarks } from '../shared/map/marks'
import type { Me } from '../shared/types'
import { db, type Pack, type PackLayer } from './db'

/**
 * The little that every screen asks the store for, asked once for all of them and already while the app
 * opens: a screen has it when it is first drawn, and is not drawn again for what stayed as it was.
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
      reading ??= liveQuery(ask).subscribe({ next: take, error: storeClosed })
      return () => void watchers.delete(watcher)
    },
  }
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
const keepSame = <T>(before: T, now: T) => (same(before, now) ? before : now)

type Values = Record<string, unknown>
const settings = asked<Values>(
  async () => {
    const all: Values = Object.fromEntries((await db.meta.toArray()).map(({ key, value }) => [key, value]))
    nameBearer((all.me as Me | undefined)?.id ?? null)
    setClockBehind(Number(all.clock_offset_ms ?? 0))
    return all
  },
  (before, now) => {
    // A phone keeps its id for good: a store without it is not the one that was opened.
    if ((before.me && !now.me) || (before.device && !now.device)) storeClosed()
    return Object.fromEntries(Object.entries(now).map(([key, value]) => [key, keepSame(before[key], value)]))
  },
)

let gone = false
const goneWatchers = new Set<() => void>()
function storeClosed() {
  gone = true
  for (const told of goneWatchers) told()
}
// The browser (or its bearer) has removed what the site kept, under an app that is open.
db.on('close', storeClosed)
db.on('versionchange', storeClosed)
/**
 * Whether what the phone kept was taken away while the app was open: nothing that is on the screen can be
 * relied on then.
 */
export const useStoreGone = (): boolean =>
  useSyncExternalStore(
    (told) => {
      goneWatchers.add(told)
      return () => void goneWatchers.delete(told)
    },
    () => gone,
  )

const packs = asked<Pack[]>(async () => {
  const all = await db.packs.toArray()
  for (const pack of all) carryMarks(pack.marks ?? {})
  return all
}, keepSame)

/** What waits, and for whom; `oldest` is when the oldest of the outbox was saved. */
export type Waiting = {
  waiting: number
  photos: number
  refused: number
  /** Begun and neither saved nor thrown away. */ drafts: number
  asked: number
  notes: number
  /** What alerts told and was not read. */ notices: number
  /** Of people who bore this phone before. */ others: number
  oldest: string | undefined
}
const waiting = asked<Waiting>(async () => {
  // Counted by their indexes: thousands may wait.
  const state = (of: 'waiting' | 'refused') => db.outbox.where('state').equals(of).count()
  return {
    waiting: await state('waiting'),
    photos: await db.photos.where('state').equals('waiting').count(),
    refused: (await state('refused')) + (await db.photos.where('state').equals('refused').count()),
    drafts: await db.drafts.count(),
    notices: await db.notices.filter((n) => n.read_here === undefined).count(),
    asked: await db.asked.filter((a) => a.answered_here === undefined).count(),
    notes: await db.notes.count(),
    others: await db.parked.count(),
    oldest: (await db.outbox.orderBy('seq').first())?.saved_at,
  }
}, keepSame)

/** Reads what the first screen shows, all at once; fails where the browser gives no store. */
export const openStore = () => Promise.all([settings.ahead(), packs.ahead(), waiting.ahead()])

/** One setting as it is now, where nothing is drawn yet. */
export const metaNow = <T>(key: string): T | undefined => settings.now()?.[key] as T | undefined
/** One setting of this phone (`meta`), followed. */
export const useMeta = <T>(key: string): T | undefined =>
  useSyncExternalStore(settings.watch, () => settings.now()?.[key] as T | undefined)
export const usePacks = (): Pack[] | undefined => useSyncExternalStore(packs.watch, packs.now)
export const useWaiting = (): Waiting | undefined => useSyncExternalStore(waiting.watch, waiting.now)
/** The layers of all packs by their numbers. */
export function useLayers(): Map<number, PackLayer> | undefined {
  const all = usePacks()
  return useMemo(() => all && new Map(all.flatMap((p) => p.layers).map((l) => [l.id, l])), [all])
}
