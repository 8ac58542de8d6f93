import { useState, useSyncExternalStore } from 'react'
import { api } from '../../shared/api'
import { saverFor } from './savers'
import type { Rules, Saver, Snapshot } from './Saver'

export type Autosave<T extends object> = Snapshot<T> & { saver: Saver<T>; change: Saver<T>['change'] }

/**
 * A document that is saved a moment after each change ({@link Saver}).
 *
 * @param path where it is sent; it names the thing
 */
export function useAutosave<T extends object>(
  path: string,
  saved: T,
  onSaved: (doc: T) => void,
  more: Partial<Rules<T>> = {},
): Autosave<T> {
  const rules: Rules<T> = {
    send: (change, was) => api<T>('PATCH', path, { ...change, was }),
    onSaved,
    ...more,
  }
  const [saver] = useState(() => saverFor(path, saved, rules))
  saver.rules = rules
  const snapshot = useSyncExternalStore(saver.subscribe, saver.snapshot)
  return { ...snapshot, saver, change: (part, now) => saver.change(part, now) }
}
