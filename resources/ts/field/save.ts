import { v7 as uuid } from 'uuid'
import { cornersIn, placeOf, rebuild } from './mergedRecord'
import {
  db,
  meta,
  setMeta,
  type Draft,
  type Operation,
  type OutboxItem,
  type PackLayer,
  type PhonePhoto,
  type Told,
} from './db'
import { nameOf } from './name'
import { sendWhenThereIsSignal } from './sync/background'
import { sha256 } from '../shared/form/files'
import { cornersOf, shapeOf } from '../shared/form/geodesic'
import { filled } from '../shared/form/rules'
import { t } from '../shared/texts'
import type { Me, Value, Values } from '../shared/types'

/** Seconds from which on a clock is called wrong. */
const CLOCK_OFF = 30

/**
 * Puts one thing that was done into the outbox, and what it makes of the record beside it, in one
 * transaction, or neither. From the moment this resolves, nothing that happens to the page can lose it.
 */
async function keep(
  layer: PackLayer,
  op: Omit<Operation, 'op' | 'seq' | 'layer' | 'design' | 'captured_at' | 'photos' | 'clock_off'>,
  files: PhonePhoto[] = [],
  draft?: Draft,
): Promise<void> {
  const now = new Date().toISOString()
  await db.transaction(
    'rw',
    [db.records, db.outbox, db.photos, db.drafts, db.forms, db.notes, db.meta, db.packs, db.cursors],
    async () => {
      const seq = ((await meta<number>('seq')) ?? 0) + 1
      await setMeta('seq', seq)
      const off = Math.round(((await meta<number>('clock_offset_ms')) ?? 0) / 1000)
      const heard = await meta<string>('heard_at')
      const operation: Operation = {
        ...wellFormed(op),
        op: uuid(),
        seq,
        layer: layer.id,
        design: layer.design_version,
        captured_at: now,
        ...(Math.abs(off) >= CLOCK_OFF ? { clock_off: off } : {}),
        ...(heard ? { heard_at: heard } : {}),
        ...(op.kind === 'delete' ? { visits_known: await visitsKnown(layer) } : {}),
        photos: files.map(({ id, name, type, bytes, sha256: hash, slot }) => ({
          id,
          name: wellFormed(name),
          type,
          bytes,
          sha256: hash,
          slot: slot ?? null,
        })),
      }
      if (draft?.fixes_op) await giveWay(draft.fixes_op, op.record)
      const before = await db.records.get(op.record)
      // An id names one record for good: another form that began with the same one must not be taken for it.
      if (before && (op.kind === 'add' || op.kind === 'visit')) throw new Error(t('form.saved.already'))
      // `told` is there while something of the record is on its way; before that, the record is what was
      // told.
      const told = before ? (before.local ? (before.told ?? null) : before) : null
      const name = nameOf(
        layer,
        op.kind === 'add' || op.kind === 'visit' ? op.values : { ...before?.values, ...op.values },
      )
      await db.outbox.add({
        seq,
        op: operation.op,
        operation,
        name: name ?? t('record.unnamed'),
        state: 'waiting',
        problems: [],
        saved_at: now,
      })
      await db.photos.bulkAdd(files)
      await rebuild(op.record, told && clean(told), layer, (await meta<Me>('me'))?.name ?? null)
      if (draft?.outgrown)
        await db.notes.add({
          record: op.record,
          name: name ?? t('record.unnamed'),
          outcome: 'outgrown',
          text: draft.outgrown,
          at: now,
        })
      if (draft) await dropDraft(draft.key)
      if (draft && (op.kind === 'add' || op.kind === 'visit')) await setMeta(`last-${layer.id}`, op.values)
    },
  )
  void sendWhenThereIsSignal()
}

/** Who does not see the visits of others, or has not all of them yet, deletes without knowing of them. */
async function visitsKnown(layer: PackLayer): Promise<number> {
  const visits = (await db.packs.toArray()).flatMap((p) => p.layers).find((l) => l.visits_of === layer.id)
  const cursor = visits && (await db.cursors.get(visits.id))
  return cursor && cursor.scope === 'all' && !cursor.filling ? cursor.since : 0
}

/** What was refused and is mended gives way to what takes its place; visits to it that wait go to that. */
async function giveWay(op: string, record: string): Promise<void> {
  const refused = await db.outbox.where('op').equals(op).first()
  if (!refused) return
  const before = refused.operation.record
  // Of a new record everything that was done to it is in what takes its place.
  const items =
    before === record ? [refused] : await db.outbox.where('operation.record').equals(before).toArray()
  await forgetItems(items)
  if (before === record) return
  await db.records.delete(before)
  await db.outbox
    .filter((item) => item.operation.visited === before)
    .modify((item) => {
      item.operation.visited = record
      // It was refused for what it was a visit to.
      Object.assign(item, { state: 'waiting', problems: [] })
    })
  await db.records.where('visited').equals(before).modify({ visited: record })
}

async function forgetItems(items: OutboxItem[]): Promise<void> {
  await db.outbox.bulkDelete(items.map((item) => item.seq))
  await db.photos.bulkDelete(items.flatMap((item) => item.operation.photos.map((p) => p.id)))
}

/** A draft goes, and the form that was kept for it if no other needs it. */
export async function dropDraft(key: string): Promise<void> {
  const draft = await db.drafts.get(key)
  await db.drafts.delete(key)
  if (
    draft &&
    (await db.drafts
      .where('layer')
      .equals(draft.layer)
      .filter((d) => d.design === draft.design)
      .count()) === 0
  )
    await db.forms.delete(formKey(draft.layer, draft.design))
}

export const formKey = (layer: number, design: number) => `${layer}-${design}`

/**
 * Texts that can be written as UTF-8: half of a character outside the basic plane (cut off by a limit, left
 * by a keyboard) is none.
 */
function wellFormed<T>(of: T): T {
  if (typeof of === 'string')
    return of.replace(
      /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g,
      '\uFFFD',
    ) as T
  if (Array.isArray(of)) return of.map(wellFormed) as T
  return of && typeof of === 'object'
    ? (Object.fromEntries(Object.entries(of).map(([key, value]) => [key, wellFormed(value as unknown)])) as T)
    : of
}

const clean = ({ ...told }: Told & { local?: unknown; told?: unknown }): Told => {
  delete told.local
  delete told.told
  return told
}

// Hashing is slow and not the database's business, so it comes before the transaction.
const hashed = (layer: PackLayer, draft: Draft): Promise<PhonePhoto[]> =>
  Promise.all(
    draft.photos.map(async (p): Promise<PhonePhoto> => ({
      id: p.id,
      record: draft.record,
      layer: layer.id,
      blob: p.blob,
      name: p.name,
      type: p.blob.type,
      bytes: p.blob.size,
      sha256: await sha256(p.blob),
      slot: p.slot ?? null,
      state: 'waiting',
      sent: 0,
      upload: null,
      reason: null,
    })),
  )

/** Where a draft is. */
export function geometryOf(layer: PackLayer, draft: Draft): GeoJSON.Geometry | null {
  const { geometry: kind } = layer.design
  return kind === 'point'
    ? { type: 'Point', coordinates: [draft.lon, draft.lat] }
    : shapeOf(kind, draft.corners ?? [])
}

/** Saves a new record, or a change to one, on this phone. */
export async function saveRecord(layer: PackLayer, draft: Draft): Promise<void> {
  const values = filled(draft.values)
  const files = await hashed(layer, draft)
  const altitude = layer.design.altitude ? { altitude: draft.altitude ?? null } : {}
  const geometry = geometryOf(layer, draft)
  if (!draft.from) {
    await keep(
      layer,
      {
        kind: draft.visited ? 'visit' : 'add',
        record: draft.record,
        values,
        geometry,
        fix: draft.fix,
        ...altitude,
        ...(draft.visited ? { visited: draft.visited } : {}),
      },
      files,
      draft,
    )
    return
  }
  const { from } = draft
  const changed: Values = {}
  const was: Values = {}
  for (const field of layer.design.fields) {
    const [now, then] = [values[field.key] ?? null, from.values[field.key] ?? null]
    if (field.kind === 'heading' || field.kind === 'calculated' || same(now, then)) continue
    changed[field.key] = now
    was[field.key] = then
  }
  const before = geometryThere(from)
  const moved = !same(JSON.stringify(before), JSON.stringify(geometry))
  const higher =
    layer.design.altitude !== undefined &&
    layer.design.altitude !== null &&
    (draft.altitude ?? null) !== (from.altitude ?? null)
  if (Object.keys(changed).length === 0 && !moved && !higher && files.length === 0) {
    await db.transaction('rw', [db.drafts, db.forms], () => dropDraft(draft.key))
    return
  }
  await keep(
    layer,
    {
      kind: moved && Object.keys(changed).length === 0 && files.length === 0 ? 'move' : 'change',
      record: from.id,
      base: Math.max(1, from.version ?? 1),
      values: changed,
      was,
      geometry: moved ? geometry : null,
      ...(moved && before ? { was_geometry: before } : {}),
      fix: moved ? draft.fix : null,
      ...(higher ? { altitude: draft.altitude ?? null, was_altitude: from.altitude ?? null } : {}),
    },
    files,
    draft,
  )
}

const same = (a: Value | undefined, b: Value | undefined) => JSON.stringify(a) === JSON.stringify(b)

const geometryThere = (record: Told): GeoJSON.Geometry =>
  record.shape ?? { type: 'Point', coordinates: [record.lon, record.lat] }

/** Deletes a record on this phone, or brings it back; like everything it travels when there is signal. */
export async function deleteRecord(layer: PackLayer, record: Told): Promise<void> {
  await keep(layer, {
    kind: 'delete',
    record: record.id,
    base: Math.max(1, record.version ?? 1),
    values: {},
    geometry: null,
    fix: null,
  })
}

export async function restoreRecord(layer: PackLayer, record: Told): Promise<void> {
  await keep(layer, {
    kind: 'restore',
    record: record.id,
    base: Math.max(1, record.version ?? 1),
    values: {},
    geometry: null,
    fix: null,
  })
}

/** Begins a change to a record, or goes on with one that was begun; answers with the address of its form. */
export async function beginChange(record: Told): Promise<string> {
  const key = `change-${record.id}`
  if (!(await db.drafts.get(key))) {
    await db.drafts.put({
      key,
      begun_at: new Date().toISOString(),
      layer: record.layer,
      design: await designOf(record.layer),
      values: record.values,
      lon: record.lon,
      lat: record.lat,
      corners: cornersIn(record),
      fix: null,
      record: record.id,
      altitude: record.altitude ?? null,
      ...(record.visited ? { visited: record.visited } : {}),
      photos: [],
      from: clean(record),
    })
  }
  return `/field/add/${record.layer}?mend=${key}`
}

/**
 * Begins a draft from something that was refused, so that it can be mended; answers with the address of its
 * form.
 */
export async function mend(seq: number): Promise<string | null> {
  return db.transaction('rw', [db.outbox, db.photos, db.drafts, db.records, db.packs], async () => {
    const item = await db.outbox.get(seq)
    if (!item) return null
    const { operation: op } = item
    const adds = op.kind === 'add' || op.kind === 'visit'
    const record = await db.records.get(op.record)
    if (!adds && !record) return null
    const from = adds ? undefined : (record!.told ?? clean(record!))
    const key = adds ? op.record : `change-${op.record}`
    // Mending was begun before: what was typed then counts.
    if ((await db.drafts.get(key))?.fixes_op === op.op) return `/field/add/${op.layer}?mend=${key}`
    const files = adds
      ? (await db.outbox.where('operation.record').equals(op.record).toArray()).flatMap(
          (i) => i.operation.photos,
        )
      : op.photos
    const photos = await db.photos.bulkGet(files.map((p) => p.id))
    await db.drafts.put({
      key,
      begun_at: new Date().toISOString(),
      layer: op.layer,
      design: await designOf(op.layer),
      values: record?.values ?? op.values,
      ...draftPlace(
        (adds && record && !record.gone ? geometryThere(record) : op.geometry) ?? geometryThere(record!),
      ),
      fix: op.fix,
      fixes_op: op.op,
      // A new record gets a new id: the one that was refused may be why. Its photos as well.
      record: adds ? uuid() : op.record,
      altitude: op.altitude ?? record?.altitude ?? null,
      ...(op.visited ? { visited: op.visited } : {}),
      photos: photos.flatMap((p) =>
        p ? [{ id: uuid(), blob: p.blob, name: p.name, slot: p.slot ?? null }] : [],
      ),
      ...(from ? { from } : {}),
    })
    return `/field/add/${op.layer}?mend=${key}`
  })
}

/** The design that a form of a layer shows now. */
export const designOf = async (layer: number): Promise<number> =>
  (await db.packs.toArray()).flatMap((p) => p.layers).find((l) => l.id === layer)?.design_version ?? 0

function draftPlace(geometry: GeoJSON.Geometry) {
  const { lon, lat } = placeOf(geometry)
  return { lon, lat, ...(geometry.type === 'Point' ? {} : { corners: cornersOf(geometry) }) }
}

/**
 * Gives up something that was refused: the record is again what the server says, or gone if it never got
 * there.
 */
export async function giveUp(seq: number, layer: PackLayer | undefined): Promise<void> {
  await db.transaction('rw', [db.outbox, db.photos, db.records], async () => {
    const item = await db.outbox.get(seq)
    if (!item) return
    const { operation: op } = item
    const record = await db.records.get(op.record)
    const adds = op.kind === 'add' || op.kind === 'visit'
    await forgetItems(adds ? await db.outbox.where('operation.record').equals(op.record).toArray() : [item])
    await rebuild(item.operation.record, record?.told ?? null, layer, record?.author ?? null)
  })
}
