import type { Me } from '../shared/types'
import { rebuild } from './ahead'
import { db, meta, setMeta, type Asked, type OutboxItem, type PhonePhoto } from './db'

/** Everything that has not arrived, as one file: a way out whatever happens to this app. */
export async function rescueFile(): Promise<Blob> {
  const asText = (blob: Blob) => new Promise<string>((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(blob)
  })
  const photos = await Promise.all((await db.photos.toArray()).map(async ({ blob, ...rest }) => ({ ...rest, data: await asText(blob) })))
  const content = { made_at: new Date().toISOString(), device: await meta('device'), me: await meta('me'), outbox: await db.outbox.toArray(), photos, answers: await db.asked.filter((a) => a.answered_here !== undefined).toArray() }
  return new Blob([JSON.stringify(content)], { type: 'application/json' })
}

type Rescue = { me?: Me; outbox: OutboxItem[]; photos: (Omit<PhonePhoto, 'blob'> & { data: string })[]; /** To what the desk asked; files of older apps have none. */ answers?: Asked[] }
export type Taken = { ok: true; taken: number; known: number } | { ok: false; why: 'unreadable' | 'foreign' | 'nopack'; owner?: string }

/**
 * Takes a rescue file in, on this phone or another one of the same person: what it holds is sent from here. What had arrived
 * already, or is here, is not doubled, for operations keep their names.
 */
export async function takeRescue(file: Blob): Promise<Taken> {
  const rescue = await file.text().then((text) => JSON.parse(text) as Rescue).catch(() => null)
  if (!rescue || !Array.isArray(rescue.outbox) || !Array.isArray(rescue.photos) || !rescue.outbox.every((i) => typeof i?.operation?.op === 'string' && typeof i.operation.record === 'string')) return { ok: false, why: 'unreadable' }
  const answers = (Array.isArray(rescue.answers) ? rescue.answers : []).filter((a) => typeof a?.id === 'number' && typeof a.answer === 'string' && typeof a.answered_here === 'string')
  const me = await meta<Me>('me')
  if (rescue.me && me && rescue.me.id !== me.id) return { ok: false, why: 'foreign', owner: rescue.me.name }
  const layers = new Map((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l]))
  if (rescue.outbox.some((i) => !layers.has(i.operation.layer))) return { ok: false, why: 'nopack' }
  const photos = await Promise.all(rescue.photos.map(async ({ data, ...rest }): Promise<PhonePhoto> => ({ ...rest, blob: await (await fetch(data)).blob(), state: 'waiting', upload: null, sent: 0, reason: null })))
  return db.transaction('rw', [db.outbox, db.photos, db.records, db.meta, db.asked], async () => {
    let taken = 0
    for (const item of [...rescue.outbox].sort((a, b) => a.seq - b.seq)) {
      if (await db.outbox.where('op').equals(item.operation.op).first()) continue
      const seq = ((await meta<number>('seq')) ?? 0) + 1
      await setMeta('seq', seq)
      await db.outbox.add({ ...item, seq, operation: { ...item.operation, seq }, state: 'waiting', problems: [] })
      const record = await db.records.get(item.operation.record)
      await rebuild(item.operation.record, record ? (record.local ? (record.told ?? null) : record) : null, layers.get(item.operation.layer), me?.name ?? null)
      taken++
    }
    for (const photo of photos) if (!(await db.photos.get(photo.id))) await db.photos.add(photo)
    for (const answer of answers) {
      if ((await db.asked.get(answer.id))?.answered_here !== undefined) continue
      await db.asked.put(answer)
      taken++
    }
    return { ok: true, taken, known: rescue.outbox.length + answers.length - taken }
  })
}
