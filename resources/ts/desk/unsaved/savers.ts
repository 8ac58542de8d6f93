import { useSyncExternalStore } from 'react'
import { keptOwner } from './kept'
import { Saver, type Rules } from './Saver'

/** Those that are still about something, by person and thing: a page that is left may have something on its way. */
const savers = new Map<string, Saver<object>>()
const listeners = new Set<() => void>()
let open: Saver<object>[] = []

const tell = () => {
  // Whose pages are gone and whose work is done need not be known any more.
  open = [...savers.values()].filter(
    (s) => s.unsaved && ['failed', 'refused', 'clash', 'held'].includes(s.snapshot().state),
  )
  for (const listener of listeners) listener()
}

export function saverFor<T extends object>(thing: string, saved: T, rules: Rules<T>): Saver<T> {
  const name = `${keptOwner()}|${thing}`
  const found = savers.get(name) as Saver<T> | undefined
  if (found) {
    found.rules = rules
    found.refresh(saved)
    return found
  }
  const made = new Saver(thing, saved, rules)
  made.subscribe(tell)
  savers.set(name, made as unknown as Saver<object>)
  return made
}

/** Work that has not got through, wherever it was done. */
export const useUnsaved = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => open,
  )

if (typeof window !== 'undefined') {
  const mine = () => [...savers].filter(([name]) => name.startsWith(`${keptOwner()}|`)).map(([, s]) => s)
  window.addEventListener('online', () => mine().forEach((s) => s.unsaved && s.retry()))
  window.addEventListener('pagehide', () => mine().forEach((s) => s.put()))
  window.addEventListener('beforeunload', (e) => {
    if (mine().some((s) => s.unsaved)) e.preventDefault()
  })
}
