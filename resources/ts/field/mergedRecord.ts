import { cornersOf, measure } from '../shared/form/geodesic'
import { db, type Operation, type PackLayer, type PhoneRecord, type Told } from './db'
import { nameOf } from './name'

/**
 * What the phone shows of a record runs ahead of the server: what was told, and over it what was done here.
 * When the server tells something new of it, or an operation has its outcome, the same is put together again.
 */

/** A record after one operation; null before the one that adds it. */
export function after(record: Told | null, op: Operation, layer: PackLayer | undefined): Told | null {
  if (op.kind === 'add' || op.kind === 'visit') return record ?? added(op, layer)
  if (!record) return null
  if (op.kind === 'delete' || op.kind === 'restore') return { ...record, gone: op.kind === 'delete' }
  const values = { ...record.values, ...op.values }
  return {
    ...record,
    values,
    ...(op.geometry ? placeOf(op.geometry) : {}),
    ...(op.altitude === undefined ? {} : { altitude: op.altitude }),
    name: layer ? nameOf(layer, values) : record.name,
    photos: record.photos + op.photos.length,
    gone: false,
  }
}

function added(op: Operation, layer: PackLayer | undefined): Told {
  return {
    id: op.record,
    layer: op.layer,
    ...placeOf(op.geometry),
    altitude: op.altitude ?? null,
    ...(op.visited ? { visited: op.visited } : {}),
    values: op.values,
    collected_at: op.clock_off
      ? new Date(new Date(op.captured_at).getTime() + op.clock_off * 1000).toISOString()
      : op.captured_at,
    author: null,
    mine: true,
    version: 0,
    name: layer ? nameOf(layer, op.values) : null,
    photos: op.photos.length,
  }
}

export function placeOf(geometry: GeoJSON.Geometry | null): {
  lon: number
  lat: number
  shape: GeoJSON.Geometry | null
} {
  if (geometry?.type === 'Point')
    return { lon: geometry.coordinates[0]!, lat: geometry.coordinates[1]!, shape: null }
  const { lon, lat } = measure(geometry)
  return { lon: lon ?? 0, lat: lat ?? 0, shape: geometry }
}

export const cornersIn = (record: Told) => cornersOf(record.shape)

/**
 * Puts a record together again from what was told of it and what of it is still in the outbox; runs in the
 * caller's transaction.
 */
export async function rebuild(
  id: string,
  told: Told | null,
  layer: PackLayer | undefined,
  me: string | null,
  held = false,
): Promise<void> {
  const items = await db.outbox.where('operation.record').equals(id).sortBy('seq')
  const now = items.reduce<Told | null>((record, item) => after(record, item.operation, layer), told)
  if (!now || (now.gone && items.length === 0)) {
    await db.records.delete(id)
    return
  }
  const local = items.some((i) => i.state === 'refused')
    ? 'refused'
    : items.length > 0
      ? 'waiting'
      : held
        ? 'held'
        : undefined
  const record: PhoneRecord = {
    ...now,
    author: now.author ?? me,
    ...(items.length > 0 || held ? { told } : {}),
    local,
  }
  await db.records.put(record)
}
