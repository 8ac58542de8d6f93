import type { Me } from '../shared/types'
import { rebuild } from './mergedRecord'
import {
  db,
  meta,
  setMeta,
  type RecordQuestion,
  type Draft,
  type KeptForm,
  type OutboxItem,
  type Parked,
  type PhonePhoto,
} from './db'

const asText = (blob: Blob) =>
  new Promise<string>((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result))
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'))
    reader.readAsDataURL(blob)
  })

const written = async <T extends { blob: Blob }>(files: T[]) =>
  Promise.all(files.map(async ({ blob, ...rest }) => ({ ...rest, data: await asText(blob) })))

type Unsent = Pick<Parked, 'outbox' | 'photos' | 'drafts' | 'forms'> & { answers: RecordQuestion[] }

async function fileOf(
  me: { id: number; name: string } | undefined,
  { photos, drafts, ...unsent }: Unsent,
): Promise<Blob> {
  const begun = await Promise.all(
    drafts.map(async (draft) => ({ ...draft, photos: await written(draft.photos) })),
  )
  return new Blob(
    [
      JSON.stringify({
        made_at: new Date().toISOString(),
        device: await meta('device'),
        me,
        ...unsent,
        photos: await written(photos),
        drafts: begun,
      }),
    ],
    { type: 'application/json' },
  )
}

/**
 * Everything that has not arrived, and what was begun, as one file: a way out whatever happens to this app.
 */
export const rescueFile = async (): Promise<Blob> =>
  fileOf(await meta<Me>('me'), {
    outbox: await db.outbox.toArray(),
    photos: await db.photos.toArray(),
    drafts: await db.drafts.toArray(),
    forms: await db.forms.toArray(),
    answers: await db.asked.filter((a) => a.answered_here !== undefined).toArray(),
  })

/** The same of somebody who bore this phone before. */
export const rescueOf = (parked: Parked): Promise<Blob> =>
  fileOf({ id: parked.person, name: parked.name }, { ...parked, answers: parked.asked })

export function saveFile(file: Blob): void {
  const url = URL.createObjectURL(file)
  Object.assign(document.createElement('a'), {
    href: url,
    download: `pin-yard-rescue-${new Date().toISOString().slice(0, 16).replace(':', '')}.json`,
  }).click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

type Written<T> = Omit<T, 'blob'> & { data: string }
type Rescue = {
  me?: Me
  /** Files of older apps have none. */ drafts?: (Omit<Draft, 'photos'> & {
    photos: Written<Draft['photos'][number]>[]
  })[]
  forms?: KeptForm[]
  outbox: OutboxItem[]
  photos: (Omit<PhonePhoto, 'blob'> & { data: string })[]
  /** To what the desk asked; files of older apps have none. */ answers?: RecordQuestion[]
}
export type Taken =
  | { ok: true; taken: number; known: number }
  | { ok: false; why: 'unreadable' | 'foreign' | 'nopack'; owner?: string }

/**
 * Takes a rescue file in, on this phone or another one of the same person: what it holds is sent from here.
 * What had arrived already, or is here, is not doubled, for operations keep their names.
 */
export async function takeRescue(file: Blob): Promise<Taken> {
  const rescue = await file
    .text()
    .then((text) => JSON.parse(text) as Rescue)
    .catch(() => null)
  if (
    !rescue ||
    !Array.isArray(rescue.outbox) ||
    !Array.isArray(rescue.photos) ||
    !rescue.outbox.every(
      (i) => typeof i?.operation?.op === 'string' && typeof i.operation.record === 'string',
    )
  )
    return { ok: false, why: 'unreadable' }
  const answers = (Array.isArray(rescue.answers) ? rescue.answers : []).filter(
    (a) => typeof a?.id === 'number' && typeof a.answer === 'string' && typeof a.answered_here === 'string',
  )
  const me = await meta<Me>('me')
  if (rescue.me && me && rescue.me.id !== me.id) return { ok: false, why: 'foreign', owner: rescue.me.name }
  const layers = new Map((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l]))
  if (rescue.outbox.some((i) => !layers.has(i.operation.layer))) return { ok: false, why: 'nopack' }
  const blobOf = async (data: string) => (await fetch(data)).blob()
  const drafts = await Promise.all(
    (Array.isArray(rescue.drafts) ? rescue.drafts : []).map(async (d): Promise<Draft> => ({
      ...d,
      photos: await Promise.all(
        d.photos.map(async ({ data, ...rest }) => ({ ...rest, blob: await blobOf(data) })),
      ),
    })),
  )
  const photos = await Promise.all(
    rescue.photos.map(async ({ data, ...rest }): Promise<PhonePhoto> => ({
      ...rest,
      blob: await blobOf(data),
      state: 'waiting',
      upload: null,
      sent: 0,
      reason: null,
    })),
  )
  return db.transaction(
    'rw',
    [db.outbox, db.photos, db.records, db.meta, db.asked, db.drafts, db.forms],
    async () => {
      let taken = 0
      for (const item of [...rescue.outbox].sort((a, b) => a.seq - b.seq)) {
        if (await db.outbox.where('op').equals(item.operation.op).first()) continue
        const seq = ((await meta<number>('seq')) ?? 0) + 1
        await setMeta('seq', seq)
        await db.outbox.add({
          ...item,
          seq,
          operation: { ...item.operation, seq },
          state: 'waiting',
          problems: [],
        })
        const record = await db.records.get(item.operation.record)
        await rebuild(
          item.operation.record,
          record ? (record.local ? (record.told ?? null) : record) : null,
          layers.get(item.operation.layer),
          me?.name ?? null,
        )
        taken++
      }
      for (const photo of photos) if (!(await db.photos.get(photo.id))) await db.photos.add(photo)
      for (const answer of answers) {
        if ((await db.asked.get(answer.id))?.answered_here !== undefined) continue
        await db.asked.put(answer)
        taken++
      }
      for (const form of rescue.forms ?? []) await db.forms.put(form)
      for (const draft of drafts) {
        // One that was begun here meanwhile stays; both are in the list.
        const begun = await db.drafts.get(draft.key)
        if (begun?.record === draft.record) continue
        await db.drafts.put(begun ? { ...draft, key: `${draft.key}-${draft.record}` } : draft)
        taken++
      }
      return { ok: true, taken, known: rescue.outbox.length + answers.length + drafts.length - taken }
    },
  )
}
