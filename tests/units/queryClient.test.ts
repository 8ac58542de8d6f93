import { QueryObserver } from '@tanstack/react-query'
import { expect, test, vi } from 'vitest'
import { api } from '../../resources/ts/shared/api'
import { newStore } from '../../resources/ts/shared/queryClient'

/* What the server said before a change is never taken for what it says after it. */

const KEY = ['shelves', 7]

test('what is asked for the first time while something changes is asked anew', async () => {
  const client = newStore()
  let shelves = ['Old']
  const answers: (() => void)[] = []
  const observer = new QueryObserver(client, {
    queryKey: KEY,
    // As the server is when it is asked, and told when the test lets it.
    queryFn: () => {
      const then = [...shelves]
      return new Promise<string[]>((done) => answers.push(() => done(then)))
    },
  })
  const stop = observer.subscribe(() => undefined)
  expect(answers).toHaveLength(1)
  shelves = ['Old', 'New']
  const done = client.invalidateQueries({ queryKey: ['shelves'] })
  // The first answer comes late, as it was before.
  answers[0]!()
  await expect.poll(() => answers.length).toBe(2)
  answers[1]!()
  await done
  expect(observer.getCurrentResult().data).toEqual(['Old', 'New'])
  expect(observer.getCurrentResult().error).toBeNull()
  stop()
})

test('what nobody looks at, and what is asked beside it, goes on', async () => {
  const client = newStore()
  const given = client.fetchQuery({ queryKey: KEY, queryFn: () => Promise.resolve(1) })
  await client.invalidateQueries({ queryKey: KEY })
  expect(await given).toBe(1)
})

test('what was told before this page changed something is not told again', async () => {
  const client = newStore()
  let asked = 0
  const look = () => client.fetchQuery({ queryKey: KEY, queryFn: () => Promise.resolve(++asked) })
  expect([await look(), await look()]).toEqual([1, 1])
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(null, { status: 204 })))
  await api('GET', '/health')
  expect(await look()).toBe(1)
  await api('DELETE', '/layers/1')
  await new Promise((on) => setTimeout(on, 2))
  expect(await look()).toBe(2)
  // Nobody heard whether it was done.
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
  await new Promise((on) => setTimeout(on, 2))
  expect(await look()).toBe(2)
  await expect(api('POST', '/layers', {})).rejects.toThrow()
  expect(await look()).toBe(3)
  vi.unstubAllGlobals()
})
