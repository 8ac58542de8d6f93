/*
 * What was typed at the desk and is not on the server yet, kept in this browser. It belongs to one person and one thing:
 * whoever signs in after them neither sees it nor sends it.
 */

let owner: number | null = null
/** Whose desk this is from now on. */
export const ownKept = (person: number | null) => {
  owner = person
}
export const keptOwner = () => owner

let changes = 0
const listeners = new Set<() => void>()
const changed = () => {
  changes++
  for (const listener of listeners) listener()
}
/** For who lists what is kept: told whenever that changes in this window. */
export const keptChanges = {
  subscribe: (listener: () => void) => {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
  count: () => changes,
}

const PREFIX = 'pinyard-kept'
/** Older than this nobody comes back for it. */
const DAYS = 30

export type Kept<T> = { at: string; value: T }

const nameOf = (thing: string) => `${PREFIX}|${owner}|${thing}`

export function readKept<T>(thing: string): Kept<T> | null {
  try {
    const text = owner === null ? null : localStorage.getItem(nameOf(thing))
    if (text === null) return null
    const kept = JSON.parse(text) as Kept<T>
    return Date.now() - Date.parse(kept.at) < DAYS * 86_400_000 ? kept : null
  } catch {
    return null
  }
}

/** @returns whether it could be kept; a browser may forbid it, or have no room */
export function keep<T>(thing: string, value: T, at = new Date().toISOString()): boolean {
  try {
    if (owner === null) return false
    localStorage.setItem(nameOf(thing), JSON.stringify({ at, value } satisfies Kept<T>))
    changed()
    return true
  } catch {
    return false
  }
}

export function drop(thing: string) {
  try {
    if (localStorage.getItem(nameOf(thing)) === null) return
    localStorage.removeItem(nameOf(thing))
    changed()
  } catch {
    // What cannot be reached cannot be taken up either.
  }
}

/** Everything kept for this person whose name begins so, the newest first. */
export function listKept<T>(begins: string): (Kept<T> & { thing: string })[] {
  const found: (Kept<T> & { thing: string })[] = []
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const name = localStorage.key(i)
      if (!name?.startsWith(nameOf(begins))) continue
      const thing = name.slice(nameOf('').length)
      const kept = readKept<T>(thing)
      if (kept) found.push({ ...kept, thing })
    }
  } catch {
    return []
  }
  return found.sort((a, b) => b.at.localeCompare(a.at))
}
