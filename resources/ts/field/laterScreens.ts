import { lazy, type ComponentType } from 'react'

/**
 * The map is what one opens the app for; the other screens come behind it, and are there before they are
 * asked for.
 */
const loads: (() => Promise<unknown>)[] = []

/** So long the first pictures and the records have to themselves. */
const AHEAD_MS = 2_000
const AGAIN_MS = 1_500

/**
 * A screen that comes when it is wanted. On its very first opening a phone may lose its signal before the
 * screen is here: then it is asked for again until it comes, and `Coming` says so.
 */
export function screen<P>(load: () => Promise<ComponentType<P>>) {
  loads.push(load)
  const kept = async (): Promise<{ default: ComponentType<P> }> => {
    for (;;) {
      try {
        return { default: await load() }
      } catch {
        await new Promise((again) => setTimeout(again, AGAIN_MS))
      }
    }
  }
  return lazy(kept)
}

/**
 * Fetches all screens, one after the other while the phone has nothing else to do; answers with how to stop.
 */
export function bringScreens(): () => void {
  let stopped = false
  const idle = () =>
    new Promise<void>((done) => {
      if ('requestIdleCallback' in window) requestIdleCallback(() => done(), { timeout: 2_000 })
      else setTimeout(done, 200)
    })
  const bring = async () => {
    for (const load of loads) {
      await idle()
      if (stopped) return
      await load().catch(() => undefined)
    }
  }
  const later = setTimeout(() => void bring(), AHEAD_MS)
  return () => {
    stopped = true
    clearTimeout(later)
  }
}
