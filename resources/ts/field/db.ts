import Dexie, { type EntityTable } from 'dexie'
import { v7 as uuid } from 'uuid'
import type { Outing } from '../shared/outing'
import type { Place, Shape } from '../shared/form/geodesic'
import type { Backdrop, Box, Design, Look, Me, RecordRow, RuleTrees, Values } from '../shared/types'

/** What the phone holds. IndexedDB is the truth here; the server is told of it when there is signal. */

export type PackLayer = {
  id: number
  title: string
  /** The layer whose records these are visits to. */
  visits_of: number | null
  design_version: number
  design: Design
  name_field: string | null
  value_schema: object
  rules: RuleTrees
  look: Look
  style: unknown[]
  records: number
  rights: { add: boolean }
}
export type Pack = { programme: number; name: string; crew: string | null; time_zone: string; area: Box; backdrops: Backdrop[]; outings?: Outing[]; layers: PackLayer[]; fetched_at?: string }
export type StoredBackdrop = { key: string; data: GeoJSON.FeatureCollection; bytes: number }
/** A record as the phone knows it; `local` says that it has not arrived yet. */
export type PhoneRecord = Pick<RecordRow, 'id' | 'lon' | 'lat' | 'values' | 'collected_at' | 'author' | 'name'> & { shape?: GeoJSON.Geometry | null; altitude?: number | null; visited?: string; layer: number; photos: number; local?: 'waiting' | 'refused' | undefined }
export type Fix = { accuracy: number | null; at: string | null; altitude?: number | null } | null
export type Operation = {
  op: string
  kind: 'add'
  seq: number
  layer: number
  design: number
  record: string
  captured_at: string
  values: Values
  geometry: GeoJSON.Point | Shape
  fix: Fix
  altitude?: number | null
  /** In a layer of visits: the record that was visited. */
  visited?: string
  photos: { id: string; name: string; type: string; bytes: number; sha256: string; slot?: string | null }[]
}
export type OutboxItem = { seq: number; op: string; operation: Operation; name: string; state: 'waiting' | 'refused'; problems: string[]; saved_at: string }
export type PhonePhoto = {
  id: string
  record: string
  layer: number
  blob: Blob
  name: string
  type: string
  bytes: number
  sha256: string
  slot?: string | null
  state: 'waiting' | 'refused'
  sent: number
  upload: string | null
  reason: string | null
}
/** A record that is being written. `key` is the layer's for a new one, the record's for one that is mended. */
export type Draft = { key: string; begun_at: string; layer: number; values: Values; lon: number; lat: number; fix: Fix; /** Of a line or an area. */ corners?: Place[]; altitude?: number | null; visited?: string; photos: { id: string; blob: Blob; name: string; slot?: string | null }[]; record: string; fixes_op?: string | undefined; confirmed?: Values }

class PhoneStore extends Dexie {
  meta!: EntityTable<{ key: string; value: unknown }, 'key'>
  packs!: EntityTable<Pack, 'programme'>
  backdrops!: EntityTable<StoredBackdrop, 'key'>
  records!: EntityTable<PhoneRecord, 'id'>
  cursors!: EntityTable<{ layer: number; since: number }, 'layer'>
  outbox!: EntityTable<OutboxItem, 'seq'>
  photos!: EntityTable<PhonePhoto, 'id'>
  drafts!: EntityTable<Draft, 'key'>

  constructor() {
    super('pin-yard')
    this.version(1).stores({
      meta: 'key', packs: 'programme', backdrops: 'key', records: 'id, layer', cursors: 'layer',
      outbox: 'seq, op, state', photos: 'id, record, state', drafts: 'key',
    })
    this.version(2).stores({ records: 'id, layer, visited' })
  }
}

export const db = new PhoneStore()

export async function meta<T>(key: string): Promise<T | undefined> {
  return (await db.meta.get(key))?.value as T | undefined
}
export const setMeta = (key: string, value: unknown) => db.meta.put({ key, value })

/** This phone's id, made once. */
export async function deviceId(): Promise<string> {
  return db.transaction('rw', db.meta, async () => {
    const known = await meta<string>('device')
    if (known) return known
    const made = uuid()
    await setMeta('device', made)
    return made
  })
}

/**
 * Takes in who has signed in. A phone that still holds someone else's unsent work refuses another person,
 * because that work can only be sent by the one who did it.
 */
export async function welcome(me: Me): Promise<{ ok: true } | { ok: false; owner: string; waiting: number }> {
  const before = await meta<Me>('me')
  if (before && before.id !== me.id) {
    const waiting = (await db.outbox.count()) + (await db.photos.count())
    if (waiting > 0) return { ok: false, owner: before.name, waiting }
    await db.transaction('rw', db.tables, () => Promise.all(db.tables.filter((t) => t.name !== 'meta').map((t) => t.clear())))
  }
  await setMeta('me', me)
  return { ok: true }
}
