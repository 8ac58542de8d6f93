import type { Page } from '@playwright/test'
import { spawn } from 'node:child_process'
import { gunzipSync } from 'node:zlib'
import { expect, test } from './test'
import { addNest, PHONE, phoneWithPack } from './yard'

/* A server and a phone in trouble: whatever happens, what was saved is on the phone until the server has it. */
test.use(PHONE)

const strip = (page: Page) => page.getByTestId('strip')
type Sent = { operations: { op: string; values: Record<string, unknown> }[] }

/** What a round brings, packed or not. */
function sent(post: Buffer | null, packed: boolean): Sent {
  return JSON.parse((packed ? gunzipSync(post!) : post!).toString()) as Sent
}

test('waits as long as it is asked to, and longer each time when it is not', async ({ context }) => {
  const page = await phoneWithPack(context)
  const answers = [503, 429, 200]
  const at: number[] = []
  await page.route('**/api/v1/sync', async (route) => {
    if (
      sent(route.request().postDataBuffer(), route.request().headers()['content-encoding'] === 'gzip')
        .operations.length === 0
    )
      return route.continue()
    at.push(Date.now())
    const status = answers.shift() ?? 200
    return status === 200
      ? route.continue()
      : route.fulfill({
          status,
          headers: status === 429 ? { 'Retry-After': '2' } : {},
          json: { code: 'busy', title: 'Busy' },
        })
  })
  await addNest(page, 'TR-1')
  await expect(strip(page)).toContainText('Trouble')
  await expect(strip(page)).toContainText('1 to send')
  // By hand it is tried at once; the second answer asks for two seconds, which going on by itself keeps.
  await strip(page).click()
  await page.getByRole('button', { name: 'Send now' }).click()
  await expect.poll(() => at.length).toBe(2)
  await page.getByRole('button', { name: 'Send now' }).click()
  await expect(page.getByText('Everything has arrived.')).toBeVisible()
  expect(at).toHaveLength(3)
})

test('sends in smaller parts what is too much at once, and keeps what is too large alone', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  for (const n of [1, 2, 3, 4]) await addNest(page, `TL-${n}`)
  const counts: number[] = []
  await page.route('**/api/v1/sync', async (route) => {
    const { operations } = sent(
      route.request().postDataBuffer(),
      route.request().headers()['content-encoding'] === 'gzip',
    )
    if (operations.length > 0) counts.push(operations.length)
    return operations.some((o) => o.values.nest_code === 'TL-2')
      ? route.fulfill({ status: 413, body: '<html>too large</html>' })
      : route.continue()
  })
  await context.setOffline(false)
  await expect(strip(page)).toContainText('1 not taken', { timeout: 60_000 })
  await strip(page).click()
  await expect(page.getByText('This is too large for the server.')).toBeVisible()
  await expect.poll(() => counts).toEqual([4, 2, 1, 1, 1, 1])
  await expect(page.getByText('TL-2', { exact: true })).toBeVisible()
  await expect(page.getByText('TL-3', { exact: true })).toHaveCount(0)
})

test('gives a server up that hangs or breaks its answer off, and doubles nothing', async ({ context }) => {
  const page = await phoneWithPack(context)
  let turn = 0
  await page.route('**/api/v1/sync', async (route) => {
    if (
      sent(route.request().postDataBuffer(), route.request().headers()['content-encoding'] === 'gzip')
        .operations.length === 0
    )
      return route.continue()
    turn++
    // The round is written, but its answer is cut off in the middle.
    if (turn === 1) {
      const answer = await route.fetch()
      return route.fulfill({
        status: 200,
        contentType: 'application/json',
        body: (await answer.text()).slice(0, 60),
      })
    }
    return route.continue()
  })
  const name = `TH${Date.now() % 10_000_000}`
  await addNest(page, name)
  await expect(strip(page)).toContainText('Trouble')
  await strip(page).click()
  await expect(page.getByText('The server does not answer as it should.')).toBeVisible()
  await page.getByRole('button', { name: 'Send now' }).click()
  await expect(page.getByText('Everything has arrived.')).toBeVisible()
  const { total } = await page.evaluate(async (nest) => {
    const programmes = (await (await fetch('/api/v1/packs')).json()) as {
      layers: { id: number; title: string }[]
    }[]
    const nests = programmes.flatMap((p) => p.layers).find((l) => l.title === 'Nests')!
    const filter = encodeURIComponent(
      JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: nest }] }),
    )
    return (await (
      await fetch(`/api/v1/layers/${nests.id}/records?filter=${filter}`, {
        headers: { Accept: 'application/json' },
      })
    ).json()) as { total: number }
  }, name)
  expect(total).toBe(1)
})

test('says so when the phone is full, and keeps the form', async ({ context }) => {
  const page = await phoneWithPack(context)
  await page.evaluate(() => {
    const add = IDBObjectStore.prototype.add
    IDBObjectStore.prototype.add = function (this: IDBObjectStore, ...args: Parameters<typeof add>) {
      if (this.name === 'outbox') throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
      return add.apply(this, args)
    }
  })
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill('TF-1')
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await expect(page.getByRole('alert').filter({ hasText: /could not be saved|full/i })).toBeVisible()
  await expect(page.getByLabel('Nest code')).toHaveValue('TF-1')
  // Nothing half: no record without its operation.
  expect(
    await page.evaluate(
      () =>
        new Promise((done) => {
          const open = indexedDB.open('pin-yard')
          open.onsuccess = () => {
            const all = open.result.transaction('records').objectStore('records').getAll()
            all.onsuccess = () =>
              done((all.result as { name: string }[]).filter((r) => r.name === 'TF-1').length)
          }
        }),
    ),
  ).toBe(0)
})

test('two tabs of one phone bring everything once', async ({ context }) => {
  const page = await phoneWithPack(context)
  const second = await context.newPage()
  await second.goto('/field')
  await second.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await expect(second.getByRole('button', { name: /Add to Nests/ })).toBeEnabled()
  await context.setOffline(true)
  await addNest(page, 'TT-1')
  await addNest(second, 'TT-2')
  const ops: string[] = []
  await context.route('**/api/v1/sync', async (route) => {
    ops.push(
      ...sent(
        route.request().postDataBuffer(),
        route.request().headers()['content-encoding'] === 'gzip',
      ).operations.map((o) => o.op),
    )
    await route.continue()
  })
  await context.setOffline(false)
  for (const tab of [page, second]) await expect(strip(tab)).toContainText(/all sent/i, { timeout: 60_000 })
  expect(new Set(ops).size).toBe(2)
  expect(ops).toHaveLength(2)
})

test('a clock that is an hour slow is known, and corrected', async ({ context }) => {
  const page = await phoneWithPack(context)
  const real = Date.now()
  await page.clock.install({ time: real - 3_600_000 })
  await page.reload()
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await expect(page.getByRole('button', { name: /Add to Nests/ })).toBeEnabled()
  const stored = () =>
    page.evaluate(
      () =>
        new Promise<number>((done) => {
          const open = indexedDB.open('pin-yard')
          open.onsuccess = () => {
            const got = open.result.transaction('meta').objectStore('meta').get('clock_offset_ms')
            got.onsuccess = () => done((got.result as { value: number } | undefined)?.value ?? 0)
          }
        }),
    )
  await expect.poll(stored).toBeGreaterThan(3_500_000)
  const rounds: { operations: { clock_off?: number }[] }[] = []
  page.on('request', (request) => {
    if (request.url().endsWith('/api/v1/sync'))
      rounds.push(sent(request.postDataBuffer(), request.headers()['content-encoding'] === 'gzip') as never)
  })
  await addNest(page, 'TC-1')
  await expect
    .poll(() => rounds.flatMap((r) => r.operations).map((o) => o.clock_off ?? 0)[0] ?? 0)
    .toBeGreaterThan(3_500)
})

test('a receiver outside the phone tells where one stands, and is not believed when it is silent', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await page.goto('/field/packs')
  const said = page.getByLabel('Receiver outside the phone')
  await said.fill('http://127.0.0.1:10119')
  await said.blur()
  await expect(page.getByText('It tells no place.')).toBeVisible()
  const receiver = spawn(
    'php',
    ['artisan', 'receiver:run', '--socket=10118', '--events=10119', '--seconds=60', '--pace=0.5', '--seed=4'],
    { stdio: 'ignore' },
  )
  try {
    await said.fill('')
    await said.blur()
    await expect(page.getByText('Address of its bridge')).toBeVisible()
    await page.waitForTimeout(2_000)
    await said.fill('http://127.0.0.1:10119')
    await said.blur()
    await expect(page.getByText(/It tells a place, \d+ m, \d+ satellites/)).toBeVisible()
    await page.goto('/field')
    await expect(page.getByText(/fix \d+ m, \d+ satellites/)).toBeVisible()
    // A record carries what the receiver said of its place.
    await addNest(page, 'RC-1')
    await expect(strip(page)).toContainText(/all sent/i, { timeout: 60_000 })
    const fix = await page.evaluate(async () => {
      const programmes = (await (await fetch('/api/v1/packs')).json()) as {
        layers: { id: number; title: string }[]
      }[]
      const nests = programmes.flatMap((p) => p.layers).find((l) => l.title === 'Nests')!
      const { records } = (await (
        await fetch(`/api/v1/layers/${nests.id}/records`, { headers: { Accept: 'application/json' } })
      ).json()) as { records: { name: string; accuracy: number | null }[] }
      return records.find((r) => r.name === 'RC-1')?.accuracy ?? null
    })
    expect(fix).toBeGreaterThan(0.5)
  } finally {
    receiver.kill()
  }
  await expect(page.getByText('Move the map until the cross is on the spot.')).toBeVisible()
})
