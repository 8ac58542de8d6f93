import Dexie, { RangeSet, type ObservabilitySet } from 'dexie'
import { useSyncExternalStore } from 'react'
import { db, type PhoneRecord } from './db'

/**
 * All records on this phone, read once for all screens: twenty thousand take a slow phone a second. They are
 * read behind the first picture, in parts between which the phone answers to the finger; after that only
 * those that changed. A screen that opens has the last ones at once.
 */
const PART = 5_000
/** More changes than this at once (a pack, a page of news) are read as a whole. */
const FEW = 200
const ALL = `idb://${db.name}/records/`

let held = new Map<string, PhoneRecord>()
let known: PhoneRecord[] | undefined
let following = false
const watchers = new Set<() => void>()
/** Ids that changed since they were read; null when it may be any. */
let changed: Set<string> | null = new Set()
let reading: Promise<void> | null = null
/** Counts up when everything that was read is to be forgotten. */
let bearer = 0

/** After the next picture has been drawn; soon in any case, for a page in the background draws none. */
const drawn = () =>
  new Promise<void>((done) => {
    setTimeout(done, 300)
    requestAnimationFrame(() => setTimeout(done))
  })

async function everything(): Promise<Map<string, PhoneRecord>> {
  const all = new Map<string, PhoneRecord>()
  for (let last = ''; ;) {
    const part = await db.records.where(':id').above(last).limit(PART).toArray()
    for (const record of part) all.set(record.id, record)
    if (part.length < PART) return all
    last = part.at(-1)!.id
  }
}

async function some(ids: string[]): Promise<Map<string, PhoneRecord>> {
  const all = new Map(held)
  const found = await db.records.bulkGet(ids)
  ids.forEach((id, i) => {
    const record = found[i]
    if (record) all.set(id, record)
    else all.delete(id)
  })
  return all
}

async function read() {
  if (!known) await drawn()
  // What changes while it is read is read once more.
  while (changed === null || changed.size > 0 || !known) {
    const ids = changed === null || !known ? null : [...changed]
    const began = bearer
    changed = new Set()
    const now = ids ? await some(ids) : await everything()
    if (began !== bearer) continue
    held = now
    known = [...held.values()]
    for (const told of watchers) told()
  }
}

const readOn = () => {
  reading ??= read()
    .catch(() => {
      changed = null
    })
    .finally(() => {
      reading = null
    })
}

/** The store tells, from any tab and from the service worker, which ranges of keys were written. */
function follow(parts: ObservabilitySet) {
  const ranges = parts[ALL] ?? parts.all
  if (!ranges) return
  for (const { from, to } of new RangeSet().add(ranges)) {
    if (from !== to || typeof from !== 'string' || (changed && changed.size >= FEW)) changed = null
    else changed?.add(from)
  }
  if (watchers.size > 0) readOn()
}

function watch(watcher: () => void) {
  watchers.add(watcher)
  if (!following) Dexie.on('storagemutated', follow)
  following = true
  readOn()
  return () => void watchers.delete(watcher)
}

export const useRecords = (): PhoneRecord[] | undefined => useSyncExternalStore(watch, () => known)

/** Nobody sees for a moment what the person before them carried. */
export const forgetRecords = () => {
  bearer++
  known = undefined
  held = new Map()
  changed = null
}
