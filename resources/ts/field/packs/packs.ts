import { v7 as uuid } from 'uuid'
import { api, ApiError } from '../../shared/api'
import { t } from '../../shared/texts'
import type { Backdrop, Box, Me } from '../../shared/types'
import { rebuild } from '../mergedRecord'
import { db, meta, type Pack, type PackLayer, type Take } from '../db'
import { keepForms } from '../drafts'

/** Rough size of one record on the phone, for telling the size of a pack before it is fetched. */
const RECORD_BYTES = 420
const PLACE_BYTES = 60

export const fetchPacks = () => api<Pack[]>('GET', '/packs')

/** How many records of each layer lie in an area. */
export const fetchCounts = (programme: number, area: Box) =>
  api<Record<number, number>>(
    'GET',
    `/programmes/${programme}/packs/counts?area=${area.map((n) => n.toFixed(6)).join(',')}`,
  )

/** The layers of a pack that are taken; visits go with what is visited. */
export const takenOf = (layers: PackLayer[], without: number[]) =>
  layers.filter((l) => !without.includes(l.visits_of ?? l.id))

export const packBytes = (pack: Pack, without: number[] = [], counts?: Record<number, number>) =>
  pack.backdrops.reduce((sum, b) => sum + b.bytes, 0) +
  (pack.places ?? 0) * PLACE_BYTES +
  takenOf(pack.layers, without).reduce((sum, l) => sum + (counts?.[l.id] ?? l.records) * RECORD_BYTES, 0)

const ALL = { without: [], area: null, paused: false }
export const takeOf = async (programme: number): Promise<Take> =>
  (await db.takes.get(programme)) ?? { programme, ...ALL }

/** Backdrops that are not on this phone as they are on the server. */
async function missing(pack: Pack): Promise<Backdrop[]> {
  const here = new Map((await db.backdrops.toArray()).map((b) => [b.key, b]))
  return pack.backdrops.filter((b) => here.get(b.key)?.version !== b.version)
}

/** Those that are here but for their bytes: a browser may lose the file behind a row. Not within a transaction. */
async function lost(pack: Pack): Promise<Backdrop[]> {
  const gone: string[] = []
  for (const { key, data } of await db.backdrops.toArray())
    if (data instanceof Blob)
      await data
        .slice(0, 1)
        .arrayBuffer()
        .catch(() => gone.push(key))
  return pack.backdrops.filter((b) => gone.includes(b.key))
}

/**
 * Fetches a pack: backdrops, places, then the layers; their records come with the next sync round.
 * What is here already is not fetched again, so that a pack goes on where it was paused or cut off.
 *
 * @returns false when it was paused on the way
 */
export async function getPack(
  pack: Pack,
  choice: Pick<Take, 'without' | 'area'>,
  onProgress: (share: number) => void,
): Promise<boolean> {
  void navigator.storage?.persist?.()
  await db.takes.put({ ...(await takeOf(pack.programme)), ...choice, paused: false })
  const wanted = [...new Set([...(await missing(pack)), ...(await lost(pack))])]
  const whole = wanted.reduce((sum, b) => sum + b.bytes, 0)
  let done = 0
  for (const backdrop of wanted) {
    if ((await takeOf(pack.programme)).paused) return false
    const response = await fetch(backdrop.address, { cache: 'no-cache' })
    if (!response.ok)
      throw new ApiError(response.status, 'backdrop', t('packs.backdrop.missing', { name: backdrop.key }))
    const data = await response.blob()
    // What is not whole is not kept.
    JSON.parse(await data.text())
    const { key, bytes, version, style } = backdrop
    await db.backdrops.put({ key, data, bytes, version, style })
    onProgress((done += backdrop.bytes) / whole)
  }
  await db.places.put({
    programme: pack.programme,
    rows: await api('GET', `/programmes/${pack.programme}/packs/places`),
  })
  // Only now: had the network gone before, what is here would still be what was chosen earlier.
  await db.transaction(
    'rw',
    [
      db.packs,
      db.cursors,
      db.takes,
      db.backdrops,
      db.places,
      db.records,
      db.drafts,
      db.forms,
      db.outbox,
      db.meta,
    ],
    async () => {
      await letGo(pack)
      await keep(pack)
      await showWaiting(pack)
    },
  )
  return !(await takeOf(pack.programme)).paused
}

/**
 * What is wanted no longer leaves the phone, but for what has not been sent; for another part of the area all
 * is asked for anew.
 */
async function letGo(pack: Pack): Promise<void> {
  const take = await takeOf(pack.programme)
  const taken = new Set(takenOf(pack.layers, take.without).map((l) => l.id))
  const elsewhere = JSON.stringify(take.held ?? null) !== JSON.stringify(take.area)
  for (const { id } of pack.layers) {
    if (taken.has(id) && !elsewhere) continue
    await db.records
      .where('layer')
      .equals(id)
      .filter((r) => r.local !== 'waiting' && r.local !== 'refused')
      .delete()
    await db.cursors.delete(id)
  }
  await db.takes.put({ ...take, held: take.area })
}

/** What waits in the outbox for layers that were not here until now is on the map with them. */
async function showWaiting(pack: Pack): Promise<void> {
  const me = (await meta<Me>('me'))?.name ?? null
  for (const layer of pack.layers) {
    const records = new Set(
      (await db.outbox.where('operation.layer').equals(layer.id).toArray()).map(
        (item) => item.operation.record,
      ),
    )
    for (const id of records) {
      const record = await db.records.get(id)
      if (!record || record.name === null) await rebuild(id, record?.told ?? null, layer, me)
    }
  }
}

/** Puts a pack on the phone, or brings it up to date; layers that are new to it are filled from nothing. */
async function keep(pack: Pack): Promise<void> {
  await db.transaction(
    'rw',
    [db.packs, db.cursors, db.takes, db.backdrops, db.places, db.drafts, db.forms],
    async () => {
      const { without } = await takeOf(pack.programme)
      const layers = takenOf(pack.layers, without)
      // How it is drawn came with the application once, not with its data.
      for (const { key, style } of pack.backdrops)
        await db.backdrops
          .where('key')
          .equals(key)
          .and((b) => !b.style)
          .modify({ style })
      const newer = (await missing(pack)).reduce((sum, b) => sum + b.bytes, 0)
      const places = (await db.places.get(pack.programme))?.rows.length ?? 0
      const before = await db.packs.get(pack.programme)
      await keepForms(before, layers)
      await db.packs.put({
        ...pack,
        layers,
        fetched_at: new Date().toISOString(),
        newer: newer + (places === (pack.places ?? 0) ? 0 : (pack.places ?? 0) * PLACE_BYTES),
      })
      // What this pack named and no pack does any more was taken away. Others may just be on their way here.
      const named = new Set((await db.packs.toArray()).flatMap((p) => p.backdrops.map((b) => b.key)))
      await db.backdrops.bulkDelete(
        (before?.backdrops ?? []).map((b) => b.key).filter((key) => !named.has(key)),
      )
      for (const layer of layers)
        if (!(await db.cursors.get(layer.id)))
          await db.cursors.put({ layer: layer.id, since: 0, filling: true, begun: uuid() })
    },
  )
}

export const pause = (programme: number) =>
  takeOf(programme).then((take) => db.takes.put({ ...take, paused: true }))
export const resume = (programme: number) =>
  takeOf(programme).then((take) => db.takes.put({ ...take, paused: false }))

/** Brings the designs and rights of the packs on this phone up to date. */
export async function refreshPack(): Promise<void> {
  const fresh = await fetchPacks()
  for (const known of await db.packs.toArray()) {
    const now = fresh.find((p) => p.programme === known.programme)
    if (now) await keep(now)
    else await giveBack(known)
  }
}

/**
 * A pack that is no longer this person's leaves the phone, once everything that was done with it has arrived.
 */
async function giveBack(pack: Pack): Promise<void> {
  await db.transaction(
    'rw',
    [db.packs, db.cursors, db.records, db.outbox, db.photos, db.takes, db.places, db.drafts],
    async () => {
      const layers = new Set(pack.layers.map((l) => l.id))
      const unsent =
        (await db.outbox
          .where('operation.layer')
          .anyOf([...layers])
          .count()) +
        (await db.photos.filter((p) => layers.has(p.layer)).count()) +
        (await db.drafts
          .where('layer')
          .anyOf([...layers])
          .count())
      if (unsent > 0) return
      await db.records
        .where('layer')
        .anyOf([...layers])
        .delete()
      await db.cursors
        .where('layer')
        .anyOf([...layers])
        .delete()
      await db.packs.delete(pack.programme)
      await db.takes.delete(pack.programme)
      await db.places.delete(pack.programme)
    },
  )
}
