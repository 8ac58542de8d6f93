import { v7 as uuid } from 'uuid'
import { db, meta, setMeta, type Draft, type Operation, type PackLayer, type PhonePhoto } from './db'
import { sha256 } from '../shared/form/files'
import { cornersOf, measure, shapeOf } from '../shared/form/geodesic'
import { filled } from '../shared/form/rules'
import { shownValue } from '../shared/form/show'
import { t } from '../shared/texts'
import type { Value } from '../shared/types'

/** What names a record on screens: the value of the layer's name field, a choice by its label. */
export function nameOf(layer: PackLayer, values: Record<string, unknown>): string | null {
  const field = layer.design.fields.find((f) => f.key === layer.name_field)
  const value = field && values[field.key]
  if (value === null || value === undefined || !field) return null
  return shownValue(field, value as Value)
}

/**
 * Saves a record on this phone: the record, its operation and its photos in one transaction, or none of them.
 * From the moment this resolves, nothing that happens to the page can lose it.
 */
export async function saveRecord(layer: PackLayer, draft: Draft): Promise<void> {
  const values = filled(draft.values)
  const name = nameOf(layer, values)
  // Hashing is slow and not the database's business, so it comes before the transaction.
  const photos: PhonePhoto[] = await Promise.all(draft.photos.map(async (p): Promise<PhonePhoto> => ({
    id: p.id, record: draft.record, layer: layer.id, blob: p.blob, name: p.name, type: p.blob.type, bytes: p.blob.size,
    sha256: await sha256(p.blob), slot: p.slot ?? null, state: 'waiting', sent: 0, upload: null, reason: null,
  })))
  const now = new Date().toISOString()
  const { geometry: kind } = layer.design
  const shape = kind === 'point' ? null : shapeOf(kind, draft.corners ?? [])
  const place = shape ? measure(shape) : draft
  const [lon, lat] = [place.lon ?? draft.lon, place.lat ?? draft.lat]
  await db.transaction('rw', [db.records, db.outbox, db.photos, db.drafts, db.meta], async () => {
    const seq = ((await meta<number>('seq')) ?? 0) + 1
    await setMeta('seq', seq)
    const author = (await meta<{ name: string }>('me'))?.name ?? null
    const operation: Operation = {
      op: uuid(), kind: 'add', seq, layer: layer.id, design: layer.design_version, record: draft.record, captured_at: now, values,
      geometry: shape ?? { type: 'Point', coordinates: [draft.lon, draft.lat] }, fix: draft.fix, ...(layer.design.altitude ? { altitude: draft.altitude ?? null } : {}), ...(draft.visited ? { visited: draft.visited } : {}),
      photos: photos.map(({ id, name: photoName, type, bytes, sha256: hash, slot }) => ({ id, name: photoName, type, bytes, sha256: hash, slot: slot ?? null })),
    }
    await db.records.put({ id: draft.record, layer: layer.id, lon, lat, shape, altitude: draft.altitude ?? null, ...(draft.visited ? { visited: draft.visited } : {}), values, collected_at: now, author, name, photos: photos.length, local: 'waiting' })
    if (draft.fixes_op) {
      // A refused record that was mended takes the place of the refused one.
      await db.outbox.where('op').equals(draft.fixes_op).delete()
      await db.photos.where('record').equals(draft.record).delete()
    }
    await db.outbox.add({ seq, op: operation.op, operation, name: name ?? t('record.unnamed'), state: 'waiting', problems: [], saved_at: now })
    await db.photos.bulkAdd(photos)
    await db.drafts.delete(draft.key)
  })
}

/** Begins a draft from a refused record, so that it can be mended; answers with the address of its form. */
export async function mend(seq: number): Promise<string | null> {
  return db.transaction('rw', [db.outbox, db.photos, db.drafts], async () => {
    const item = await db.outbox.get(seq)
    if (!item) return null
    const { operation: op } = item
    const photos = await db.photos.where('record').equals(op.record).toArray()
    await db.drafts.put({
      key: op.record, begun_at: new Date().toISOString(), layer: op.layer, values: op.values, ...placeOf(op), fix: op.fix, record: op.record, fixes_op: op.op, altitude: op.altitude ?? null, ...(op.visited ? { visited: op.visited } : {}),
      photos: photos.map((p) => ({ id: p.id, blob: p.blob, name: p.name, slot: p.slot ?? null })),
    })
    return `/field/add/${op.layer}?mend=${op.record}`
  })
}

function placeOf({ geometry }: Operation): { lon: number; lat: number; corners?: ReturnType<typeof cornersOf> } {
  if (geometry.type === 'Point') return { lon: geometry.coordinates[0]!, lat: geometry.coordinates[1]! }
  const { lon, lat } = measure(geometry)
  return { lon: lon ?? 0, lat: lat ?? 0, corners: cornersOf(geometry) }
}

/** Everything that has not arrived, as one file: a way out whatever happens to this app. */
export async function rescueFile(): Promise<Blob> {
  const asText = (blob: Blob) => new Promise<string>((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(blob)
  })
  const photos = await Promise.all((await db.photos.toArray()).map(async ({ blob, ...rest }) => ({ ...rest, data: await asText(blob) })))
  const content = { made_at: new Date().toISOString(), device: await meta('device'), me: await meta('me'), outbox: await db.outbox.toArray(), photos }
  return new Blob([JSON.stringify(content)], { type: 'application/json' })
}
