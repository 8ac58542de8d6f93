import { api } from '../shared/api'
import { db, type Pack } from './db'

/** Rough size of one record on the phone, for telling the size of a pack before it is fetched. */
const RECORD_BYTES = 420

export const fetchPacks = () => api<Pack[]>('GET', '/packs')

export const packBytes = (pack: Pack) => pack.backdrops.reduce((sum, b) => sum + b.bytes, 0) + pack.layers.reduce((sum, l) => sum + l.records * RECORD_BYTES, 0)

/** Fetches a pack: backdrops first, then the layers. Their records come with the next sync round. */
export async function getPack(pack: Pack, onProgress: (share: number) => void): Promise<void> {
  void navigator.storage?.persist?.()
  const whole = packBytes(pack)
  let done = 0
  for (const backdrop of pack.backdrops) {
    const response = await fetch(backdrop.address, { cache: 'no-cache' })
    if (!response.ok) throw new Error(`${backdrop.address}: ${response.status}`)
    const data = (await response.json()) as GeoJSON.FeatureCollection
    await db.backdrops.put({ key: backdrop.key, data, bytes: backdrop.bytes })
    onProgress((done += backdrop.bytes) / whole)
  }
  await db.transaction('rw', [db.packs, db.cursors], async () => {
    await db.packs.put({ ...pack, fetched_at: new Date().toISOString() })
    for (const layer of pack.layers) if (!(await db.cursors.get(layer.id))) await db.cursors.put({ layer: layer.id, since: 0 })
  })
}

/** Brings the designs and rights of the packs on this phone up to date. */
export async function refreshPack(): Promise<void> {
  const fresh = await fetchPacks()
  await db.transaction('rw', [db.packs, db.cursors, db.records, db.outbox, db.photos], async () => {
    for (const known of await db.packs.toArray()) {
      const now = fresh.find((p) => p.programme === known.programme)
      if (!now) {
        await giveBack(known)
        continue
      }
      await db.packs.put({ ...now, fetched_at: new Date().toISOString() })
      for (const layer of now.layers) if (!(await db.cursors.get(layer.id))) await db.cursors.put({ layer: layer.id, since: 0 })
    }
  })
}

/** A pack that is no longer this person's leaves the phone, once everything that was done with it has arrived; runs in the caller's transaction. */
async function giveBack(pack: Pack): Promise<void> {
  const layers = new Set(pack.layers.map((l) => l.id))
  const unsent = (await db.outbox.filter((i) => layers.has(i.operation.layer)).count()) + (await db.photos.filter((p) => layers.has(p.layer)).count())
  if (unsent > 0) return
  await db.records.where('layer').anyOf([...layers]).delete()
  await db.cursors.where('layer').anyOf([...layers]).delete()
  await db.packs.delete(pack.programme)
}
