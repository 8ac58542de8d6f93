import { beforeEach, afterEach, expect, test, vi } from 'vitest'
import { ApiError } from '../../resources/ts/shared/api'
import { drop, keep, listKept, ownKept, readKept } from '../../resources/ts/desk/unsaved/kept'
import { Saver } from '../../resources/ts/desk/unsaved/Saver'

/* What is typed at the desk is not let go of before it is on the server: failing saves, two people, reloads, another person. */

type Doc = { title: string; tiles: { id: string; title: string }[] }
type Sent = { change: Partial<Doc>; was: Partial<Doc> }

const store = new Map<string, string>()
const saved: Doc = { title: 'Board', tiles: [{ id: 'a', title: 'A' }] }

beforeEach(() => {
  vi.useFakeTimers()
  store.clear()
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => store.get(k) ?? null,
    setItem: (k: string, v: string) => void store.set(k, v),
    removeItem: (k: string) => void store.delete(k),
    key: (i: number) => [...store.keys()][i] ?? null,
    get length() {
      return store.size
    },
  })
  ownKept(7)
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

/** A server that answers as the list says, one after the other, and then takes everything. */
function desk(answers: (Error | Partial<Doc>)[] = [], thing = '/boards/1') {
  const sent: Sent[] = []
  const server = { ...saved }
  const saver = new Saver<Doc>(thing, saved, {
    send: async (change, was) => {
      sent.push({ change, was })
      const answer = answers.shift()
      if (answer instanceof Error) throw answer
      Object.assign(server, change, answer)
      return { ...server }
    },
    incomplete: (d) => (d.title.trim() === '' ? 'a title is needed' : null),
  })
  return { saver, sent, server }
}
const later = (ms: number) => vi.advanceTimersByTimeAsync(ms)

test('what is typed is sent a moment later, once, with what it was before', async () => {
  const { saver, sent } = desk()
  for (const title of ['B', 'Be', 'Bea']) saver.change({ title })
  expect(saver.snapshot()).toMatchObject({ doc: { title: 'Bea' }, state: 'waiting' })
  await later(600)
  expect(sent).toEqual([{ change: { title: 'Bea' }, was: { title: 'Board' } }])
  expect(saver.snapshot().state).toBe('saved')
  expect(store.size).toBe(0)
})

test('a save that fails is kept, said, and tried again by itself until it is through', async () => {
  const away = () => new ApiError(0, 'offline', 'No network')
  const { saver, sent, server } = desk([away(), new ApiError(503, 'database_away', 'Away'), away()])
  saver.change({ title: 'Bea' })
  await later(600)
  expect(saver.snapshot()).toMatchObject({ state: 'failed', doc: { title: 'Bea' } })
  expect(readKept('/boards/1')?.value).toEqual({ pending: { title: 'Bea' }, was: { title: 'Board' } })
  await later(60_000)
  expect(sent).toHaveLength(4)
  expect(sent.at(-1)).toEqual({ change: { title: 'Bea' }, was: { title: 'Board' } })
  expect(server.title).toBe('Bea')
  expect(saver.snapshot().state).toBe('saved')
  expect(store.size).toBe(0)
})

test('it waits as long as the server asks for', async () => {
  const { saver, sent } = desk([new ApiError(429, 'too_many', 'Slower', [], 30)])
  saver.change({ title: 'Bea' })
  await later(25_000)
  expect(sent).toHaveLength(1)
  await later(10_000)
  expect(sent).toHaveLength(2)
})

test('what is typed while a save is on its way, or fails, is not overwritten by its answer', async () => {
  const { saver, sent } = desk([new ApiError(500, 'failed', 'Broken')])
  saver.change({ title: 'B' })
  await later(500)
  saver.change({ title: 'Bea' })
  saver.change({ tiles: [] })
  await later(5_000)
  expect(sent.at(-1)!.change).toEqual({ title: 'Bea', tiles: [] })
  expect(sent.at(-1)!.was).toEqual({ title: 'Board', tiles: saved.tiles })
  expect(saver.snapshot().doc).toEqual({ title: 'Bea', tiles: [] })
})

test('one request at a time: the next says what was sent before it, so that what a colleague added is merged', async () => {
  let release = () => {}
  const sent: Sent[] = []
  const saver = new Saver<Doc>('/boards/2', saved, {
    send: async (change, was) => {
      sent.push({ change, was })
      if (sent.length === 1) await new Promise<void>((done) => (release = done))
      return { ...saved, ...change, tiles: [...(change.tiles ?? saved.tiles), { id: 'theirs', title: 'T' }] }
    },
  })
  const mine = [...saved.tiles, { id: 'b', title: 'B' }]
  saver.change({ tiles: mine })
  await later(600)
  saver.change({ tiles: [...mine, { id: 'c', title: 'C' }] })
  await later(600)
  expect(sent).toHaveLength(1)
  release()
  await later(600)
  expect(sent).toHaveLength(2)
  // Not the server's answer but what I had sent: the third of them is what I added since.
  expect(sent[1]!.was.tiles).toEqual(mine)
})

test('an empty title is held, said, and sent when something is written', async () => {
  const { saver, sent } = desk()
  saver.change({ title: '' })
  await later(600)
  expect(saver.snapshot()).toMatchObject({ state: 'held', why: 'a title is needed', doc: { title: '' } })
  saver.change({ title: 'N' })
  await later(600)
  expect(sent).toEqual([{ change: { title: 'N' }, was: { title: 'Board' } }])
})

test('what the server refuses stays as it was typed and is not sent again before it is changed', async () => {
  const { saver, sent } = desk([new ApiError(422, 'refused', 'Too long')])
  saver.change({ title: 'x'.repeat(200) })
  await later(120_000)
  expect(sent).toHaveLength(1)
  expect(saver.snapshot()).toMatchObject({ state: 'refused', doc: { title: 'x'.repeat(200) } })
  saver.change({ title: 'x' })
  await later(600)
  expect(saver.snapshot().state).toBe('saved')
})

const clash = () =>
  new ApiError(422, 'refused', 'Changed', [
    {
      field: 'title',
      code: 'changed_meanwhile',
      value: null,
      message: 'Changed',
      params: { part: 'title', theirs: 'Theirs', now: '"Theirs"' },
    },
  ])

test.each([
  ['mine', 'Mine'],
  ['theirs', 'Theirs'],
] as const)('of two who changed the same, %s stands when it is chosen', async (whose, title) => {
  const { saver, sent, server } = desk([clash()])
  server.title = 'Theirs'
  saver.change({ title: 'Mine' })
  await later(120_000)
  expect(saver.snapshot()).toMatchObject({ state: 'clash', clashes: [{ part: 'title', theirs: 'Theirs' }] })
  expect(sent).toHaveLength(1)
  if (whose === 'mine') saver.keepMine()
  else saver.takeTheirs()
  await later(600)
  expect(saver.snapshot()).toMatchObject({ state: 'saved', doc: { title } })
  expect(server.title).toBe(title)
  if (whose === 'mine') expect(sent[1]).toEqual({ change: { title: 'Mine' }, was: { title: 'Theirs' } })
  expect(store.size).toBe(0)
})

test('after a reload it goes on from what had not got through, and says since when', async () => {
  const first = desk([new ApiError(0, 'offline', 'No network')])
  first.saver.change({ title: 'Bea' })
  await later(510)
  const { saver, sent } = desk()
  expect(saver.snapshot()).toMatchObject({ doc: { title: 'Bea' }, state: 'waiting' })
  expect(saver.snapshot().since).not.toBeNull()
  await later(100)
  expect(sent).toEqual([{ change: { title: 'Bea' }, was: { title: 'Board' } }])
})

test('what was kept for one person is nothing to the next', async () => {
  keep('/boards/1', { pending: { title: 'Mara’s' }, was: {} })
  ownKept(8)
  expect(desk().saver.snapshot()).toMatchObject({ doc: saved, state: 'saved' })
  expect(listKept('')).toEqual([])
  ownKept(7)
  expect(desk().saver.snapshot().doc.title).toBe('Mara’s')
})

test('what is kept is listed newest first, ends when it is dropped, and is forgotten after a month', () => {
  keep('record-1-new', 'old', new Date(Date.now() - 40 * 86_400_000).toISOString())
  keep('record-1-x', 'one', new Date(Date.now() - 1_000).toISOString())
  keep('record-1-y', 'two')
  keep('record-2-z', 'other')
  expect(listKept('record-1-').map((k) => k.value)).toEqual(['two', 'one'])
  drop('record-1-y')
  expect(listKept('record-1-').map((k) => k.value)).toEqual(['one'])
})

test('a browser that keeps nothing is told of, and a torn entry is as none', () => {
  vi.stubGlobal('localStorage', {
    getItem: () => '{"at": torn',
    setItem: () => {
      throw new DOMException('full', 'QuotaExceededError')
    },
    removeItem: () => undefined,
    length: 0,
    key: () => null,
  })
  expect(keep('x', 1)).toBe(false)
  expect(readKept('x')).toBeNull()
  expect(desk().saver.snapshot().state).toBe('saved')
})
