import { liveQuery, type Subscription } from 'dexie'
import { useSyncExternalStore } from 'react'
import { db, type PhoneRecord } from './db'

/**
 * All records on this phone, read once for all screens: twenty thousand take a slow phone a second.
 * They follow the store while a screen looks at them; a screen that opens has the last ones at once, and the newest soon after.
 */
let known: PhoneRecord[] | undefined
let reading: Subscription | null = null
const watchers = new Set<() => void>()

function watch(watcher: () => void) {
  watchers.add(watcher)
  reading ??= liveQuery(() => db.records.toArray()).subscribe((records) => {
    known = records
    for (const told of watchers) told()
  })
  return () => {
    watchers.delete(watcher)
    if (watchers.size > 0) return
    reading?.unsubscribe()
    reading = null
  }
}

export const useRecords = (): PhoneRecord[] | undefined => useSyncExternalStore(watch, () => known)

/** Nobody sees for a moment what the person before them carried. */
export const forgetRecords = () => { known = undefined }
