import { apiFile } from '../../shared/api'
import type { Me } from '../../shared/types'
import { db, meta, type PhonePhoto, type PhoneRecord, type Thumb } from '../db'
import { drawsPhotos } from '../map/mapParts'
import { scaled } from './picture'

/*
 * Small pictures of photos that stand as marks on the maps of this phone. They are fetched beside everything else that
 * is kept, for whoever bears the phone, and go with it when somebody else does.
 */

/** The latest so many of each phone: some five megabytes. */
const MOST = 300
/** As many in one round of sync: what was collected goes first. */
const AT_ONCE = 40
/** Pixels, as the server's small pictures. */
const EDGE = 320
/** What was not there is asked for again after so long: it may be on its way from another phone for days. */
const AGAIN_MS = 600_000
const missedAt = new Map<string, number>()
const wasMissed = (id: string) => Date.now() - (missedAt.get(id) ?? -AGAIN_MS) < AGAIN_MS

/** Fetches what is missing and drops what no map draws any more; one at a time, also of several tabs. */
export async function bringMarkPhotos(): Promise<void> {
  await navigator.locks.request('pin-yard-mark-photos', { ifAvailable: true }, async (lock) => {
    const me = await meta<Me>('me')
    if (lock && me) await bring(me.id)
  })
}

/** @param bearer whose pictures they are: somebody else may sign in meanwhile */
async function bring(bearer: number): Promise<void> {
  const layers = await layersWithPhotos()
  const drawn = (layers.length ? await db.records.where('layer').anyOf(layers).toArray() : [])
    .filter((r) => !r.gone && r.photos > 0)
    .sort((a, b) => (a.collected_at < b.collected_at ? 1 : -1))
    .slice(0, MOST)
  const byId = new Map(drawn.map((r) => [r.id, r]))
  const here = await db.thumbs.toArray()
  // Of one that was sent from here it is not told yet which is its first.
  const stays = ({ id, record }: Thumb) => byId.has(record) && (byId.get(record)?.photo ?? id) === id
  const gone = here.filter((thumb) => !stays(thumb)).map((thumb) => thumb.id)
  const known = new Set(here.map((thumb) => thumb.id))
  const missing = drawn.filter(hasPhoto).filter((r) => !known.has(r.photo) && !wasMissed(r.photo))
  const fetched: Thumb[] = []
  try {
    for (const { photo, id } of missing.slice(0, AT_ONCE)) {
      const blob = await apiFile(`/attachments/${photo}/thumb`)
      // Not arrived from its phone yet, or closed meanwhile.
      if (blob) fetched.push({ id: photo, record: id, blob })
      else missedAt.set(photo, Date.now())
    }
  } finally {
    // All at once: with each change of what is kept a map that is open brings all its marks anew.
    if (gone.length > 0 || fetched.length > 0) await keep(fetched, bearer, gone)
  }
}

/** A photo that has been sent goes on standing as a mark where it did. */
export async function keepAsMark(photo: PhonePhoto): Promise<void> {
  const me = await meta<Me>('me')
  if (!me || !photo.type.startsWith('image/') || !(await layersWithPhotos()).includes(photo.layer)) return
  await keep([{ id: photo.id, record: photo.record, blob: await scaled(photo.blob, EDGE) }], me.id)
}

/** Only as long as the phone is still theirs. */
const keep = (thumbs: Thumb[], bearer: number, gone: string[] = []) =>
  db.transaction('rw', db.meta, db.thumbs, async () => {
    if ((await meta<Me>('me'))?.id !== bearer) return
    await db.thumbs.bulkDelete(gone)
    await db.thumbs.bulkPut(thumbs)
  })

const hasPhoto = (r: PhoneRecord): r is PhoneRecord & { photo: string } => r.photo !== undefined

/** Layers of which a map on this phone shows photos as marks. */
async function layersWithPhotos(): Promise<number[]> {
  const packs = await db.packs.toArray()
  return packs
    .flatMap((p) => p.maps ?? [])
    .flatMap((m) => m.layers ?? [])
    .filter(drawsPhotos)
    .map((part) => part.layer)
}
