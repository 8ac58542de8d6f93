import Dexie from 'dexie'
import { ApiError, apiPacked, nameBearer } from '../../shared/api'
import { t } from '../../shared/texts'
import type { Box, Me, NewsRecord, Problem } from '../../shared/types'
import { after, rebuild } from '../mergedRecord'
import {
  db,
  deviceId,
  meta,
  setMeta,
  type RecordQuestion,
  type Cursor,
  type OutboxItem,
  type PackLayer,
  type PhoneNotice,
  type Told,
} from '../db'
import { nameOf } from '../name'
import { refreshPack } from '../packs/packs'
import { answerCame, workArrived } from './signal'

/** One exchange that empties the outbox and fetches news. It can be broken off anywhere and begun again. */

type Outcome = {
  op: string | null
  outcome: 'applied' | 'merged' | 'clash' | 'held' | 'refused'
  record?: string
  version?: number
  problems?: Problem[]
  clashes?: string[]
}
type News = {
  cursor: number
  more: boolean
  design: number
  scope: string
  again?: boolean
  records: NewsRecord[]
  gone: string[]
  outside?: string[]
}
type Question = Omit<RecordQuestion, 'answer' | 'answered_here'>
type Answer = {
  server_time: string
  outcomes: Outcome[]
  news: Record<string, News>
  lost: number[]
  asked?: Question[]
  answered?: number[]
  notices?: PhoneNotice[]
  read_notices?: number[]
}

const BATCH = 100
/** So long a round may take before it counts as lost; what was written by then is not written again. */
const PATIENCE_MS = 45_000
let most = BATCH
/** The first operation of a round that the server failed over, and how often in a row. */
let failing = { op: '', times: 0 }
/** A server that fails over the same operations so often has trouble with one of them. */
const FAILS_MOST = 3

/**
 * Rounds until there is nothing more to send or to fetch; in the app, or in its worker while the app is
 * closed.
 */
export async function allRounds(): Promise<void> {
  nameBearer((await meta<Me>('me'))?.id ?? null)
  while (await round());
  most = BATCH
}

/** What waits, the oldest first, by its index: an outbox may hold thousands. */
const nextBatch = (): Promise<OutboxItem[]> =>
  db.outbox
    .where('[state+seq]')
    .between(['waiting', Dexie.minKey], ['waiting', Dexie.maxKey])
    .limit(most)
    .toArray()

/** @returns whether there is more to send or to fetch */
async function round(): Promise<boolean> {
  const batch = await nextBatch()
  const wanted = await cursorsWanted()
  const cursors = Object.fromEntries(wanted.map((c) => [c.layer, c.since]))
  const answers = (await db.asked.toArray()).filter((a) => a.answered_here !== undefined)
  const read = (await db.notices.filter((n) => n.read_here !== undefined).toArray()).map((n) => n.id)
  if (batch.length + answers.length + read.length === 0 && Object.keys(cursors).length === 0) return false
  const sentAt = Date.now()
  const waiting = (await db.outbox.count()) + (await db.photos.where('state').equals('waiting').count())
  let answer: Answer
  try {
    answer = await apiPacked<Answer>(
      '/sync',
      {
        device: await deviceId(),
        person: (await meta<Me>('me'))?.id ?? null,
        sent_at: new Date(sentAt).toISOString(),
        waiting: waiting - batch.length,
        operations: batch.map((item) => item.operation),
        cursors,
        ...(await narrowed(wanted)),
        ...(answers.length
          ? { answers: answers.map((a) => ({ ask: a.id, text: a.answer, at: a.answered_here })) }
          : {}),
        ...(read.length ? { read_notices: read } : {}),
      },
      PATIENCE_MS,
    )
  } catch (e) {
    return apart(batch, e)
  }
  if (!Array.isArray(answer?.outcomes)) throw new Error(t('failure.failed'))
  answerCame()
  failing = { op: '', times: 0 }
  // Half of the way there and back; at once, for what is done while the news are taken in.
  await setMeta('clock_offset_ms', new Date(answer.server_time).getTime() - (sentAt + Date.now()) / 2)
  await settle(batch, answer.outcomes)
  await takeQuestions(answer)
  await takeNotices(answer)
  const { packs, again } = await takeNews(answer, wanted)
  if (packs) await refreshPack()
  await setMeta('heard_at', answer.server_time)
  const answered = new Set(answer.outcomes.map((o) => o.op))
  const progress = batch.some((item) => answered.has(item.op))
  if (progress) workArrived()
  return again || (progress && batch.length === most) || Object.values(answer.news).some((n) => n.more)
}

/** Layers whose news are asked for: not those of a pack that was paused. */
async function cursorsWanted(): Promise<Cursor[]> {
  const paused = new Set(
    (await db.takes.filter((take) => take.paused).toArray()).map((take) => take.programme),
  )
  const layers = new Set(
    (await db.packs.toArray())
      .filter((p) => paused.has(p.programme))
      .flatMap((p) => p.layers)
      .map((l) => l.id),
  )
  return (await db.cursors.toArray()).filter((c) => !layers.has(c.layer))
}

/** Where only a part of a programme was taken, its layers are asked for in that part. */
async function narrowed(wanted: Cursor[]) {
  const areas: Record<number, Box> = {}
  const packs = await db.packs.toArray()
  for (const { programme, held } of await db.takes.toArray())
    if (held)
      for (const layer of packs.find((p) => p.programme === programme)?.layers ?? []) areas[layer.id] = held
  return { areas, filling: wanted.filter((c) => c.filling).map((c) => c.layer) }
}

/**
 * A round that was not taken as a whole goes in smaller parts, until the one that cannot be taken is alone:
 * it stays here, and is told, and does not hold up the others. Not for what has nothing to do with its
 * operations (no signal, signed out, somebody else's).
 */
async function apart(batch: OutboxItem[], e: unknown): Promise<boolean> {
  const status = e instanceof ApiError ? e.status : 0
  const large = status === 413
  const bad = status === 400 || status === 404 || status === 422
  const fails = status >= 500 && status !== 503 && status !== 507
  const first = batch[0]
  if (!first || !(large || bad || fails)) throw e
  if (fails) {
    failing = { op: first.op, times: failing.op === first.op ? failing.times + 1 : 1 }
    if (failing.times < FAILS_MOST) throw e
  }
  if (batch.length > 1) {
    most = Math.max(1, Math.floor(batch.length / 2))
    return true
  }
  const said = e instanceof ApiError ? (e.problems[0]?.message ?? e.message) : ''
  await db.transaction('rw', [db.outbox, db.records], async () => {
    await db.outbox.update(first.seq, {
      state: 'refused',
      problems: [large ? t('failure.toolarge') : fails ? t('outbox.serverfault') : said],
      large: true,
    })
    await db.records.update(first.operation.record, { local: 'refused' })
  })
  return true
}

/**
 * Not every refusal of a whole round is the server's own: a network on the way may have said it. So it is
 * tried again when somebody asks.
 */
export async function tryLargeAgain() {
  await db.outbox
    .where('state')
    .equals('refused')
    .filter((item) => item.large === true)
    .modify({ state: 'waiting', problems: [], large: false })
}

/** An operation leaves the outbox only when the server has named its outcome. */
async function settle(batch: OutboxItem[], outcomes: Outcome[]) {
  const layers = await layersHere()
  await db.transaction('rw', [db.outbox, db.records, db.notes], async () => {
    for (const outcome of outcomes) {
      const item = batch.find((b) => b.op === outcome.op)
      if (!item) continue
      const { operation: op } = item
      const layer = layers.get(op.layer)
      const record = await db.records.get(op.record)
      if (outcome.outcome === 'refused') {
        await db.outbox.update(item.seq, {
          state: 'refused',
          problems: outcome.problems?.map((p) => p.message) ?? [],
        })
        await db.records.update(op.record, { local: 'refused' })
        continue
      }
      await db.outbox.delete(item.seq)
      const held = outcome.outcome === 'held'
      // What others made of it comes as news; until then it is what was done here, which the server has now.
      const now =
        held && op.kind !== 'add' && op.kind !== 'visit'
          ? (record?.told ?? null)
          : record
            ? { ...strip(record), version: outcome.version ?? record.version ?? 1 }
            : null
      const others = (await db.outbox.where('operation.record').equals(op.record).count()) > 0
      if (others && record)
        await rebuild(
          op.record,
          held ? (record.told ?? null) : afterOne(record, item, layer, outcome.version),
          layer,
          record.author,
        )
      else await rebuild(op.record, now, layer, record?.author ?? null, held && !record?.told)
      if (held || outcome.outcome === 'clash') {
        const fields =
          outcome.clashes?.map(
            (key) =>
              layer?.design.fields.find((f) => f.key === key)?.label ??
              t(key === '@place' ? 'record.place' : key === '@altitude' ? 'altitude.label' : 'note.deleted'),
          ) ?? []
        await db.notes.add({
          record: op.record,
          name: item.name,
          outcome: held ? 'held' : 'clash',
          text: held ? (outcome.problems?.map((p) => p.message).join(' ') ?? '') : fields.join(', '),
          at: new Date().toISOString(),
        })
      }
    }
  })
}

/** What the desk asks now. An answer stays here until the server says that it has it. */
async function takeQuestions({ asked, answered }: Answer) {
  if (!asked) return
  await db.transaction('rw', db.asked, async () => {
    await db.asked.bulkDelete(answered ?? [])
    const waiting = new Set(
      (await db.asked.filter((a) => a.answered_here !== undefined).toArray()).map((a) => a.id),
    )
    await db.asked.filter((a) => !waiting.has(a.id)).delete()
    await db.asked.bulkPut(
      asked
        .filter((a) => !waiting.has(a.id))
        .map(({ id, layer, record, name, text, by, at }) => ({ id, layer, record, name, text, by, at })),
    )
  })
}

/** What was read here while the round was on its way stays read. */
async function takeNotices({ notices, read_notices: known }: Answer) {
  if (!notices) return
  await db.transaction('rw', db.notices, async () => {
    await db.notices.bulkDelete(known ?? [])
    const read = new Set(
      (await db.notices.filter((n) => n.read_here !== undefined).toArray()).map((n) => n.id),
    )
    await db.notices.filter((n) => !read.has(n.id)).delete()
    await db.notices.bulkPut(notices.filter((n) => !read.has(n.id)))
  })
}

/** What was told of a record, with one operation that has arrived; others are still on their way. */
function afterOne(
  record: Told & { told?: Told | null },
  item: OutboxItem,
  layer: PackLayer | undefined,
  version: number | undefined,
): Told | null {
  const now = after(record.told ?? null, item.operation, layer)
  return now && { ...now, version: version ?? now.version ?? 1 }
}

function strip({ ...record }: Told & { told?: unknown; local?: unknown }): Told {
  delete record.told
  delete record.local
  return record
}

/** As the server chooses: the first picture that has arrived; until one has, the first there is. */
function pictureOf(photos: NewsRecord['photos']): { photo?: string } {
  const pictures = photos.filter((p) => p.type.startsWith('image/'))
  const first = pictures.find((p) => p.state === 'stored') ?? pictures[0]
  return first ? { photo: first.id } : {}
}

const layersHere = async () =>
  new Map<number, PackLayer>((await db.packs.toArray()).flatMap((p) => p.layers).map((l) => [l.id, l]))

/**
 * @returns whether a design has changed, so that the pack must be fetched again; whether there is more to
 * fetch at once
 */
async function takeNews(answer: Answer, wanted: Cursor[]): Promise<{ packs: boolean; again: boolean }> {
  const layers = await layersHere()
  const me = (await meta<Me>('me'))?.name ?? null
  let designChanged = false
  let again = false
  await db.transaction('rw', [db.records, db.cursors, db.outbox], async () => {
    const unsent = new Set((await db.outbox.orderBy('operation.record').uniqueKeys()) as string[])
    for (const [key, news] of Object.entries(answer.news)) {
      const id = Number(key)
      const layer = layers.get(id)
      const cursor = await db.cursors.get(id)
      // Meanwhile another part was chosen, or the layer left behind: what was asked for before says nothing
      // of it now.
      if (!cursor || cursor.begun !== wanted.find((c) => c.layer === id)?.begun) {
        again = true
        continue
      }
      if (news.again || (cursor.scope && cursor.scope !== news.scope)) {
        // What this person may see of the layer has changed: others' records go, or all are fetched.
        if (news.scope !== 'all')
          await db.records
            .where('layer')
            .equals(id)
            .filter((r) => !r.mine && !r.local)
            .delete()
        await db.cursors.put({ ...cursor, since: 0, scope: news.scope, filling: true })
        again = true
        continue
      }
      const fresh = news.records.map((r): Told => ({
        id: r.id,
        layer: id,
        lon: r.lon,
        lat: r.lat,
        shape: r.geometry ?? null,
        altitude: r.altitude,
        ...(r.visited ? { visited: r.visited } : {}),
        values: r.values,
        collected_at: r.collected_at,
        author: r.author,
        name: layer ? nameOf(layer, r.values) : r.name,
        photos: r.photos.length,
        ...pictureOf(r.photos),
        version: r.version,
        mine: r.mine,
        ...(r.place ? { blurred: true } : {}),
      }))
      await db.records.bulkPut(fresh.filter((r) => !unsent.has(r.id)))
      for (const r of fresh) if (unsent.has(r.id)) await rebuild(r.id, r, layer, me)
      await db.records.bulkDelete(news.gone.filter((g) => !unsent.has(g)))
      for (const g of news.gone) {
        const here = unsent.has(g) ? await db.records.get(g) : undefined
        if (here) await rebuild(g, { ...strip(here.told ?? here), gone: true }, layer, me)
      }
      // What left the part that was taken leaves the phone, unless something of it is on its way.
      await db.records.bulkDelete((news.outside ?? []).filter((id) => !unsent.has(id)))
      await db.cursors.put({
        ...cursor,
        since: news.cursor,
        scope: news.scope,
        filling: cursor.filling === true && news.more,
      })
      if (layer && news.design !== layer.design_version) designChanged = true
    }
    for (const id of answer.lost) {
      // The right to this layer was taken away: its copy goes, but never what has not arrived.
      await db.records
        .where('layer')
        .equals(id)
        .filter((r) => r.local !== 'waiting' && r.local !== 'refused')
        .delete()
      await db.cursors.delete(id)
      designChanged = true
    }
  })
  return { packs: designChanged, again }
}
