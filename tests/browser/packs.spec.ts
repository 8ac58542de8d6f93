import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from './test'
import {
  apiAs,
  COORDINATOR,
  CREW,
  desk,
  nestOperation,
  nestPatrol,
  ownProgramme,
  PHONE,
  phoneWithPack,
  sha256,
  signIn,
} from './yard'

/** The folder of the copy that is tested. */
const VAR = process.env.PINYARD_VAR ?? 'var/demo'
const PICTURE = readFileSync('public/icons/peg-192.png')

test.use(PHONE)

/** What a phone takes along, and how it is fetched. */

/** How many rows of a kind the phone holds. */
const count = (page: Page, table: string) =>
  page.evaluate(
    (name) =>
      new Promise<number>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const all = open.result.transaction(name).objectStore(name).count()
          all.onsuccess = () => done(all.result)
        }
      }),
    table,
  )

test('layers and a part of the area are chosen with the size before; what lies outside stays away', async ({
  context,
}) => {
  test.setTimeout(240_000)
  const page = await context.newPage()
  await signIn(page, CREW, '/field')
  await page.getByRole('button', { name: 'Choose what to take' }).click()
  const take = page.getByRole('button', { name: /^Take it/ })
  const whole = await take.textContent()
  for (const box of await page.getByRole('checkbox').all())
    if (!(await box.evaluate((b) => b.closest('label')!.textContent!.startsWith('Nests'))))
      await box.uncheck()
  await expect(take).not.toHaveText(whole!)
  await page.getByRole('button', { name: 'What the frame holds' }).click()
  const counts = page.waitForResponse((r) => r.url().includes('/packs/counts') && r.ok())
  await page.locator('[data-testid=map][data-ready=true]').waitFor()
  const box = (await page.getByTestId('map').boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  for (let i = 0; i < 3; i++) {
    await page.mouse.wheel(0, -400)
    await page.waitForTimeout(400)
  }
  await counts
  await expect
    .poll(async () =>
      Number(
        /· (\d+) record/.exec(
          (await page
            .getByRole('checkbox', { name: /^Nests/ })
            .evaluate((b) => b.closest('label')!.textContent)) ?? '',
        )?.[1] ?? 0,
      ),
    )
    .toBeLessThan(200)
  const chosen = Number(
    /· (\d+) record/.exec(
      (await page
        .getByRole('checkbox', { name: /^Nests/ })
        .evaluate((b) => b.closest('label')!.textContent))!,
    )?.[1],
  )
  await take.click()
  await expect(page.getByText(/part of the area/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Get it again' })).toBeVisible({ timeout: 60_000 })
  const here = () => count(page, 'records')
  // Her own come along wherever they lie.
  await expect.poll(here).toBeGreaterThanOrEqual(chosen)
  const part = await here()
  await context.setOffline(true)
  await page.goto('/field')
  await expect(page.getByLabel('Layer', { exact: true })).toHaveCount(0)
  await expect(page.getByRole('button', { name: /Add to Nests/ })).toBeEnabled()
  await context.setOffline(false)
  await page.goto('/field/packs')
  await page.getByRole('button', { name: 'Choose what to take' }).click()
  await page.getByRole('button', { name: 'All of it' }).click()
  await page.getByRole('button', { name: /^Take it/ }).click()
  await expect.poll(here, { timeout: 60_000 }).toBeGreaterThan(part)
})

test('fetching is paused and gone on with, without fetching again what is here', async ({ context }) => {
  test.setTimeout(240_000)
  const page = await context.newPage()
  await signIn(page, CREW, '/field')
  // A slow network: the first map waits until it is told to come.
  let go = () => {}
  const held = new Promise<void>((done) => {
    go = done
  })
  let maps = 0
  await page.route('**/backdrop/*.json*', async (route) => {
    maps++
    if (maps === 1) await held
    await route.continue()
  })
  await page.getByRole('button', { name: 'Get this pack' }).click()
  await page.getByRole('button', { name: 'Pause' }).click()
  go()
  await expect(page.getByText(/^Paused at/)).toBeVisible()
  await expect.poll(() => count(page, 'backdrops')).toBe(1)
  const sofar = maps
  await page.reload()
  await expect(page.getByText(/^Paused at/)).toBeVisible()
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByRole('button', { name: /Add to/ })).toBeVisible({ timeout: 60_000 })
  expect(sofar).toBe(1)
  expect(maps).toBe(2)
  // What is here as it is there is not fetched again.
  await page.goto('/field/packs')
  await page.getByRole('button', { name: 'Get it again' }).click()
  await expect(page.getByRole('button', { name: /Add to/ })).toBeVisible({ timeout: 60_000 })
  expect(maps).toBe(2)
})

test('a newer map, an old pack and too little room are told', async ({ context }) => {
  const page = await context.newPage()
  await page.addInitScript(() => {
    navigator.storage.estimate = async () => ({ quota: 2_000_000, usage: 1_900_000 })
  })
  await signIn(page, CREW, '/field')
  await expect(page.getByText(/This pack needs .* and 98 kB are free/)).toBeVisible()
  await page.getByRole('button', { name: 'Get this pack' }).click()
  await expect(page.getByRole('button', { name: /Add to/ })).toBeVisible({ timeout: 60_000 })
  const change = (table: string, how: string) =>
    page.evaluate(
      ([name, code]) =>
        new Promise<void>((done) => {
          const open = indexedDB.open('pin-yard')
          open.onsuccess = () => {
            const store = open.result.transaction(name!, 'readwrite').objectStore(name!)
            store.getAll().onsuccess = (e) => {
              for (const row of (e.target as IDBRequest<Record<string, unknown>[]>).result) {
                Object.assign(row, JSON.parse(code!))
                store.put(row)
              }
            }
            store.transaction.oncomplete = () => done()
          }
        }),
      [table, how],
    )
  await change('backdrops', '{"version":"older","style":null}')
  await change('packs', `{"fetched_at":"${new Date(Date.now() - 5 * 86_400_000).toISOString()}"}`)
  await context.setOffline(true)
  await page.goto('/field/packs')
  await expect(
    page.getByText('This pack was not brought up to date for 5 days.', { exact: false }),
  ).toBeVisible()
  await context.setOffline(false)
  await page.goto('/field')
  await page.goto('/field/packs')
  await expect(page.getByText(/A newer map is ready: .* MB/)).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Get the newer map' }).click()
  await expect(page.getByRole('button', { name: /Add to/ })).toBeVisible({ timeout: 60_000 })
  await page.goto('/field/packs')
  await expect(page.getByText(/A newer map is ready/)).toHaveCount(0)
})

test('a layer with work that was not sent cannot be left behind', async ({
  context,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), CREW)
  const { layer } = await nestPatrol(api)
  const page = await context.newPage()
  await signIn(page, CREW, '/field')
  await page.getByRole('button', { name: 'Get this pack' }).click()
  await expect(page.getByRole('button', { name: /Add to/ })).toBeVisible({ timeout: 60_000 })
  await page.route('**/api/v1/sync', (route) => route.fulfill({ status: 503 }))
  const operation = nestOperation(layer, 'BOUND')
  await page.evaluate(
    ([op]) =>
      new Promise<void>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const tx = open.result.transaction('outbox', 'readwrite')
          tx.objectStore('outbox').put({
            seq: 1,
            op: (op as { op: string }).op,
            operation: op,
            name: 'BOUND',
            state: 'waiting',
            problems: [],
            saved_at: new Date().toISOString(),
          })
          tx.oncomplete = () => done()
        }
      }),
    [operation],
  )
  await page.goto('/field/packs')
  await page.getByRole('button', { name: 'Choose what to take' }).click()
  await expect(page.getByText(/Nests · .* holds work that has not been sent/)).toBeVisible()
  await expect(page.getByRole('checkbox', { name: /^Nests/ })).toBeDisabled()
})

test('what was saved without signal arrives though the app was closed before there was any', async ({
  context,
  playwright,
  baseURL,
}) => {
  const code = `BG-${Math.random().toString(36).slice(2, 7).toUpperCase()}`
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill(code)
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
  await page
    .getByLabel('Photos: Photo')
    .setInputFiles({ name: 'nest.png', mimeType: 'image/png', buffer: PICTURE })
  await expect(page.getByRole('button', { name: /(Take nest.png away|Remove nest.png)/ })).toBeVisible()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  await expect(page.getByTestId('strip')).toContainText('1 to send')
  // Another page of the same browser, for the app is closed.
  const blank = await context.newPage()
  const browser = await context.newCDPSession(blank)
  const known = new Map<string, string>()
  browser.on('ServiceWorker.workerRegistrationUpdated', ({ registrations }) => {
    for (const r of registrations) known.set(r.scopeURL, r.registrationId)
  })
  await browser.send('ServiceWorker.enable')
  await page.close()
  await context.setOffline(false)
  await expect.poll(() => known.get(`${baseURL}/field`)).toBeTruthy()
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { layer } = await nestPatrol(api)
  const filter = encodeURIComponent(
    JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: code }] }),
  )
  const arrived = async () =>
    (await api.get<{ total: number }>(`/layers/${layer}/records?filter=${filter}`)).total
  expect(await arrived()).toBe(0)
  // What the browser does by itself when there is signal again, and later once more where a try failed.
  const woken = async () => {
    await browser.send('ServiceWorker.dispatchSyncEvent', {
      origin: baseURL!,
      registrationId: known.get(`${baseURL}/field`)!,
      tag: 'outbox',
      lastChance: false,
    })
    return arrived()
  }
  await expect.poll(woken, { timeout: 60_000, intervals: [1_000, 5_000] }).toBe(1)
  // With its photo, byte for byte.
  const { records } = await api.get<{ records: { id: string }[] }>(
    `/layers/${layer}/records?filter=${filter}`,
  )
  const photo = async () =>
    (await api.get<{ photos: { id: string; state: string }[] }>(`/layers/${layer}/records/${records[0]!.id}`))
      .photos[0]
  await expect.poll(async () => (await photo())?.state, { timeout: 60_000 }).toBe('stored')
  const stored = await (
    await context.request.get(`/api/v1/attachments/${(await photo())!.id}/original`)
  ).body()
  expect(sha256(stored)).toBe(sha256(PICTURE))
  // Opened again, the phone knows of it, and sends nothing twice.
  const again = await context.newPage()
  await again.goto('/field')
  await expect(again.getByTestId('strip')).toContainText(/all sent/i)
  expect(await arrived()).toBe(1)
})

test('a backdrop that was added to the server comes with the pack, lies under maps without signal, and goes again', async ({
  browser,
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const { made, mark } = await ownProgramme(playwright, baseURL, 'Added')
  // Where no other test's maps are: they would have it under them, too.
  const corner = 100 + (Number.parseInt(mark.slice(-3), 16) % 70)
  const area = [corner, 61, corner + 1, 62]
  const name = `Ægir ${mark}`
  const programme = await made('/programmes', { name, time_zone: 'UTC', area })
  const layer = await made(`/programmes/${programme.id}/layers`, {
    title: 'Buoys',
    geometry: 'point',
    fields: [{ key: 'code', label: 'Code', kind: 'short_text' }],
  })
  const [key, folder] = [`reef-${mark}`, mkdtempSync(join(tmpdir(), 'backdrop-'))]
  const run = (...words: string[]) =>
    execFileSync('node', ['ops/backdrop/run.mjs', join(VAR, 'storage/backdrops'), ...words]).toString()
  const [data, style] = [join(folder, 'reef.geojson'), join(folder, 'reef.json')]
  writeFileSync(
    data,
    JSON.stringify({
      type: 'LineString',
      coordinates: [
        [corner + 0.1, 61.1],
        [corner + 0.9, 61.9],
      ],
    }),
  )
  const layers = [{ id: 'a', type: 'line', paint: { 'line-color': '#A0302A' } }]
  writeFileSync(style, JSON.stringify({ attribution: 'Ægirsson & Söhne', layers }))
  expect(run('add', key, data, style)).toContain(`Added “${key}”`)
  try {
    const office = await desk(browser)
    await office.goto(`/desk/p/${programme.id}/check?layer=${layer.id}`)
    await expect(office.getByText('Ægirsson & Söhne')).toBeVisible()
    await office.context().close()

    const page = await context.newPage()
    await signIn(page, COORDINATOR, '/field')
    const pack = page.getByRole('region', { name })
    await pack.getByRole('button', { name: 'Get this pack' }).click()
    await expect(page.getByRole('button', { name: 'Add to Buoys' })).toBeVisible({ timeout: 60_000 })
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
    await expect.poll(() => page.evaluate(async () => (await caches.keys()).length)).toBeGreaterThan(0)
    await context.setOffline(true)
    await page.goto('/field')
    await expect(page.locator('[data-testid=map][data-ready=true]')).toBeVisible()
    await expect(page.getByText('Ægirsson & Söhne')).toBeVisible()
    expect(await count(page, 'backdrops')).toBe(2)

    expect(run('remove', key)).toContain(`Removed “${key}”`)
    await context.setOffline(false)
    await page.goto('/field/packs')
    await pack.getByRole('button', { name: 'Get it again' }).click()
    await expect.poll(() => count(page, 'backdrops')).toBe(1)
  } finally {
    rmSync(join(VAR, `storage/backdrops/${key}.style.json`), { force: true })
    rmSync(join(VAR, `storage/backdrops/${key}.json`), { force: true })
    rmSync(folder, { recursive: true })
  }
})

test('a backdrop that cannot be read any more takes no record from the map', async ({ context }) => {
  const page = await phoneWithPack(context)
  const map = page.locator('[data-testid=map][data-ready=true]')
  await expect(map).toBeVisible()
  await page.evaluate(async () => {
    const opened = indexedDB.open('pin-yard')
    await new Promise((done) => (opened.onsuccess = done))
    const store = opened.result.transaction('backdrops', 'readwrite').objectStore('backdrops')
    const rows = store.getAll()
    await new Promise((done) => (rows.onsuccess = done))
    for (const row of rows.result) store.put({ ...row, data: new Blob(['{"type":"Feat']) })
    await new Promise((done) => (store.transaction.oncomplete = done))
    opened.result.close()
  })
  await context.setOffline(true)
  await page.reload()
  // It says so when it draws records; a source that hangs would keep it from that.
  await expect(map).toBeVisible()
})
