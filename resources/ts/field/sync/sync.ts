import { useSyncExternalStore } from 'react'
import { ApiError } from '../../shared/api'
import { db, meta } from '../db'
import { tellLanguage } from '../language'
import { refreshPack } from '../packs/packs'
import { bringMarkPhotos } from '../photos/markPhotos'
import { sendPhotos } from '../photos/sendFiles'
import { storeTrouble } from '../storeTrouble'
import { sendTrail } from '../trail'
import { allRounds, tryLargeAgain } from './rounds'
import { listen } from './signal'

/** When rounds are run while the app is open, and what is told of them. */

export type SyncState = {
  phase: 'idle' | 'sending'
  signal: boolean
  signIn: boolean
  /** Somebody else is signed in in this browser; nothing is sent as them. */ other: boolean
  trouble: string | null
  last: number | null
}

/**
 * After a failure the next try waits, twice as long each time, up to five minutes; asked for by hand it does
 * not.
 */
const WAIT_MS = 5_000
const WAIT_MOST_MS = 300_000
/** So long a pack's outings, rights and lists are taken for what they are. */
const FRESH_MS = 300_000
let state: SyncState = {
  phase: 'idle',
  signal: navigator.onLine,
  signIn: false,
  other: false,
  trouble: null,
  last: null,
}
let failures = 0
let notBefore = 0
let oneMore = false
const watchers = new Set<() => void>()

function put(part: Partial<SyncState>) {
  state = { ...state, ...part }
  for (const watcher of watchers) watcher()
}

// A server that answers is a signal, though there may be much to send yet; bytes that arrive are no failure,
// though the line was cut.
listen({
  answered: () => {
    if (!state.signal || state.trouble) put({ signal: true, trouble: null })
  },
  arrived: () => {
    failures = 0
  },
})

export const useSync = () =>
  useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    () => state,
  )

/**
 * Runs one sync round, unless one is running already, here or in another tab. By itself it keeps the wait
 * after a failure.
 */
export async function syncNow(byItself = false): Promise<void> {
  if (!navigator.onLine) return put({ signal: false })
  if (byItself && Date.now() < notBefore) return
  await navigator.locks.request('pin-yard-sync', { ifAvailable: true }, async (lock) => {
    if (!lock) {
      // A round is on its way, which may have taken its part of the outbox before this was in it: one more
      // follows.
      oneMore = true
      return
    }
    put({ phase: 'sending', trouble: null })
    let asked = !byItself
    do {
      oneMore = false
      try {
        // Once: what has just been refused stays so, for whoever is about to mend it.
        if (asked) await tryLargeAgain()
        asked = false
        await allRounds()
        await sendPhotos()
        await sendTrail()
        await freshen(byItself ? FRESH_MS : 0)
        await tellLanguage().catch(() => undefined)
        failures = notBefore = 0
        put({ signal: true, signIn: false, other: false, last: Date.now() })
      } catch (e) {
        told(e)
        oneMore = false
      }
    } while (oneMore)
    put({ phase: 'idle' })
  })
  // Beside what is collected, which must not wait for it; what is missing then comes after the next round.
  if (state.signal && !state.signIn) void bringMarkPhotos().catch(() => undefined)
}

/** Outings and rights may change without any record or design doing so. */
async function freshen(age: number) {
  const packs = await db.packs.toArray()
  // A clock that was set back makes no pack new for days.
  if (packs.some((p) => Math.abs(Date.now() - new Date(p.fetched_at ?? 0).getTime()) >= age))
    await refreshPack()
}

function told(e: unknown) {
  const asked = e instanceof ApiError ? e.retryAfter : null
  // Phones that lost the server in the same moment must not all come back in the same moment.
  notBefore =
    Date.now() +
    (asked === null
      ? Math.min(WAIT_MOST_MS, WAIT_MS * 2 ** failures++) * (0.5 + Math.random() / 2)
      : asked * 1000)
  if (!(e instanceof ApiError)) return put({ trouble: storeTrouble(e) })
  if (e.status === 0)
    return put({ signal: e.code !== 'offline', trouble: e.code === 'offline' ? null : e.message })
  if (e.code === 'other_person') return put({ signal: true, signIn: true, other: true, trouble: e.message })
  if (e.status === 401) return put({ signal: true, signIn: true })
  put({ signal: true, trouble: e.problems[0]?.message ?? e.message })
}

/**
 * Keeps syncing while the app is open: when signal comes back, when it is looked at again, and every so
 * often.
 */
export function keepSyncing(): () => void {
  const go = () => void syncNow()
  const byItself = () => void syncNow(true)
  const lost = () => put({ signal: false })
  const seen = () => document.visibilityState === 'visible' && byItself()
  window.addEventListener('online', go)
  window.addEventListener('offline', lost)
  document.addEventListener('visibilitychange', seen)
  const timer = setInterval(seen, 20_000)
  // The worker was woken by the browser, and leaves it to the app that is open.
  const woken = (event: MessageEvent) => event.data === 'sync' && byItself()
  navigator.serviceWorker?.addEventListener('message', woken)
  void meta('me').then((me) => me && go())
  return () => {
    window.removeEventListener('online', go)
    window.removeEventListener('offline', lost)
    document.removeEventListener('visibilitychange', seen)
    clearInterval(timer)
    navigator.serviceWorker?.removeEventListener('message', woken)
  }
}

export const signedIn = () => put({ signIn: false, other: false, trouble: null })
