import { rebuild } from './mergedRecord'
import { db, meta, setMeta, type Parked } from './db'
import type { Me } from '../shared/types'

/**
 * Whose phone it is. What the store holds belongs to one person (`me`). When somebody else signs in, what the
 * person before had not sent is put aside whole, under their name, and comes back when they sign in again;
 * nothing of it is ever sent as another.
 */

/** What `meta` holds of the phone itself, whoever bears it. */
const PHONES_OWN = [
  'device',
  'seq',
  'clock_offset_ms',
  'heard_at',
  'light',
  'text',
  'format',
  'units',
  'receiver',
  'gates',
]

/** Things of a person that only this phone has. */
async function unsentOf(me: Me): Promise<Parked> {
  return {
    person: me.id,
    name: me.name,
    parked_at: new Date().toISOString(),
    outbox: await db.outbox.toArray(),
    photos: await db.photos.toArray(),
    drafts: await db.drafts.toArray(),
    forms: await db.forms.toArray(),
    asked: await db.asked.filter((a) => a.answered_here !== undefined).toArray(),
    notes: await db.notes.toArray(),
    sketches: await db.sketches.toArray(),
    trail: await db.trail.where('sent').equals(0).toArray(),
  }
}

const holds = (p: Parked) =>
  [p.outbox, p.photos, p.drafts, p.asked, p.notes, p.sketches, p.trail].some((part) => part.length > 0)

/** Takes in who has signed in. @returns whose work is waiting aside now, if somebody else's was here */
export async function welcome(me: Me): Promise<Parked | null> {
  const before = await meta<Me>('me')
  if (before?.id === me.id) {
    await setMeta('me', me)
    return null
  }
  // Read before the transaction: a blob that is read within one may outlast it.
  const theirs = before ? await unsentOf(before) : null
  const aside = theirs && holds(theirs) ? theirs : null
  await db.transaction('rw', db.tables, async () => {
    if (before && aside) await db.parked.put(merged(aside, await db.parked.get(before.id)))
    if (before) {
      await Promise.all(
        db.tables.filter((t) => t.name !== 'meta' && t.name !== 'parked').map((t) => t.clear()),
      )
      // What belongs to the phone stays; above all, nobody's way is recorded because the one before wanted
      // it.
      await db.meta.filter(({ key }) => !PHONES_OWN.includes(key)).delete()
    }
    await takeBack(me)
    await setMeta('me', me)
  })
  return aside
}

/**
 * Should something have been put aside for the same person before, and not taken back, none of both is lost.
 */
function merged(now: Parked, before: Parked | undefined): Parked {
  if (!before) return now
  const join = <T>(a: T[], b: T[], key: (of: T) => unknown) => [
    ...new Map([...a, ...b].map((of) => [key(of), of])).values(),
  ]
  return {
    ...now,
    outbox: join(before.outbox, now.outbox, (o) => o.op),
    photos: join(before.photos, now.photos, (p) => p.id),
    drafts: join(before.drafts, now.drafts, (d) => d.key),
    forms: join(before.forms, now.forms, (f) => f.key),
    asked: join(before.asked, now.asked, (a) => a.id),
    notes: [...before.notes, ...now.notes],
    sketches: [...before.sketches, ...now.sketches],
    trail: join(before.trail, now.trail, (p) => p.at),
  }
}

/** The numbers of notes and sketches are given anew: other ones may have them meanwhile. */
function withoutId<T extends { id?: number }>(of: T): T {
  const copy = { ...of }
  delete copy.id
  return copy
}

/** What waited for this person is theirs to send again. */
async function takeBack(me: Me): Promise<void> {
  const waiting = await db.parked.get(me.id)
  if (!waiting) return
  await db.outbox.bulkPut(waiting.outbox)
  await db.photos.bulkPut(waiting.photos)
  await db.drafts.bulkPut(waiting.drafts)
  await db.forms.bulkPut(waiting.forms)
  await db.asked.bulkPut(waiting.asked)
  await db.notes.bulkAdd(waiting.notes.map((note) => withoutId(note)))
  await db.sketches.bulkAdd(waiting.sketches.map((sketch) => withoutId(sketch)))
  await db.trail.bulkPut(waiting.trail)
  await db.parked.delete(me.id)
  // Their records come with the pack; until then what was added here is shown of what waits.
  const layers = new Map((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l]))
  for (const record of new Set(waiting.outbox.map((item) => item.operation.record))) {
    const item = waiting.outbox.find((o) => o.operation.record === record)
    await rebuild(record, null, layers.get(item?.operation.layer ?? 0), me.name)
  }
}
