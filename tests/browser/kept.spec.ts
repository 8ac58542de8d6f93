import type { BrowserContext, Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { v7 as uuid } from 'uuid'
import { expect, test } from './test'
import { addNest, apiAs, BEACH, CREW, nestPatrol, PASSWORD, PHONE, phoneWithPack, signIn } from './yard'

/*
 * What a person does on a phone is kept from the tap on: photos in numbers, a second person, a second window, a form
 * that changed meanwhile.
 */
test.use(PHONE)

const strip = (page: Page) => page.getByTestId('strip')
const code = (what: string) => `${what}${Date.now() % 10_000_000}`

/** A picture of one colour, as a phone's camera writes it. */
async function picture(
  page: Page,
  name: string,
  edge = 320,
): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const data = await page.evaluate(
    async ([hue, size]) => {
      const canvas = Object.assign(document.createElement('canvas'), { width: size, height: size })
      const pen = canvas.getContext('2d')!
      for (let i = 0; i < 40; i++) {
        pen.fillStyle = `hsl(${hue! + i * 7} 60% 50%)`
        pen.fillRect((i * 37) % size!, (i * 53) % size!, 60, 60)
      }
      return canvas.toDataURL('image/jpeg', 0.9)
    },
    [name.length * 40 + name.charCodeAt(0), edge] as const,
  )
  return { name, mimeType: 'image/jpeg', buffer: Buffer.from(data.split(',')[1]!, 'base64') }
}

/** Reads a store of the phone. */
const stored = <T>(page: Page, store: string) =>
  page.evaluate(
    (name) =>
      new Promise<T[]>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const all = open.result.transaction(name).objectStore(name).getAll()
          all.onsuccess = () => {
            open.result.close()
            done(all.result as T[])
          }
        }
      }),
    store,
  )

async function fillNest(page: Page, name: string) {
  await page.getByLabel('Nest code').fill(name)
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
}

/** Pictures take so long to be read as on an old phone. */
const slowPictures = (page: Page, ms: number) =>
  page.evaluate((wait) => {
    const real = window.createImageBitmap.bind(window) as (...args: unknown[]) => Promise<ImageBitmap>
    window.createImageBitmap = (async (...args: unknown[]) => {
      await new Promise((on) => setTimeout(on, wait))
      return real(...args)
    }) as typeof createImageBitmap
  }, ms)

test('several photos picked at once all go with their record', async ({ context, request }) => {
  const page = await phoneWithPack(context)
  const name = code('PH')
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await fillNest(page, name)
  await page
    .getByLabel('Photos: Photo')
    .setInputFiles([
      await picture(page, 'a.jpg'),
      await picture(page, 'bb.jpg'),
      await picture(page, 'ccc.jpg'),
    ])
  await expect(page.getByRole('button', { name: /^Remove/ })).toHaveCount(3)
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  const api = await apiAs(request)
  const { layer } = await nestPatrol(api)
  const photos = async () =>
    (
      await api.get<{ records: { photos: { name: string; state: string }[] }[] }>(
        `/layers/${layer}/records?filter=${encodeURIComponent(JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: name }] }))}`,
      )
    ).records[0]?.photos.map((p) => `${p.name} ${p.state}`)
  await expect.poll(photos, { timeout: 60_000 }).toEqual(['a.jpg stored', 'bb.jpg stored', 'ccc.jpg stored'])
})

test('a photo that is still being read goes with the record, and the next record is another one', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  const first = code('SL')
  await fillNest(page, first)
  const photo = await picture(page, 'slow.jpg', 3200)
  await slowPictures(page, 1_500)
  await page.getByLabel('Photos: Photo').setInputFiles(photo)
  // Tapped at once, as people do: it waits, and is not taken for done.
  await page
    .getByRole('button', { name: /Photo is being made ready|Save on this phone|ready/ })
    .last()
    .click({ force: true })
  await expect(page.getByRole('button', { name: 'Save on this phone' })).toBeEnabled({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  expect(await stored(page, 'drafts')).toHaveLength(0)
  const second = code('SM')
  await addNest(page, second)
  type Item = { operation: { record: string; values: { nest_code: string }; photos: unknown[] } }
  const items = await stored<Item>(page, 'outbox')
  expect(items.map((i) => [i.operation.values.nest_code, i.operation.photos.length])).toEqual([
    [first, 1],
    [second, 0],
  ])
  expect(items[0]!.operation.record).not.toBe(items[1]!.operation.record)
})

test('a page killed between picking and arrival loses no photo', async ({ context }) => {
  let page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  const name = code('KP')
  await fillNest(page, name)
  const photos = [await picture(page, 'a.jpg', 3200), await picture(page, 'bb.jpg', 3200)]
  const where = page.url()
  const again = async (to: string) => {
    await page.close({ runBeforeUnload: false })
    page = await context.newPage()
    await page.goto(to)
  }
  // In the middle of being made smaller: what was read is kept as it came.
  await slowPictures(page, 700)
  await page.getByLabel('Photos: Photo').setInputFiles(photos)
  await expect
    .poll(async () => (await stored<{ photos: unknown[] }>(page, 'drafts'))[0]?.photos.length, {
      timeout: 20_000,
    })
    .toBe(2)
  await again(where)
  await expect(page.getByRole('button', { name: /^Remove/ })).toHaveCount(2)
  await expect(page.getByLabel('Nest code')).toHaveValue(name)
  // Right after the tap on save.
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  await again('/field/outbox')
  await expect(page.getByText(/Saved .*, 2 photos/)).toBeVisible()
  // In the middle of sending.
  await page.route('**/api/v1/uploads/**', async (route) => {
    await new Promise((on) => setTimeout(on, 1_000))
    await route.continue().catch(() => undefined)
  })
  await context.setOffline(false)
  await expect(strip(page)).toContainText('photo', { timeout: 60_000 })
  await again('/field/outbox')
  await expect(strip(page)).toContainText(/all sent/i, { timeout: 60_000 })
})

test('a form that was begun before its design lost a field is finished and sent as it was begun', async ({
  context,
  request,
}) => {
  const api = await apiAs(request)
  const { programme } = await nestPatrol(api)
  const title = code('Kept ')
  const design = {
    title,
    geometry: 'point',
    fields: [
      { key: 'name', label: 'Name', kind: 'short_text' },
      { key: 'lost', label: 'Lost later', kind: 'short_text' },
      { key: 'stays', label: 'Stays', kind: 'short_text' },
    ],
    photos: { allowed: false },
  }
  const made = (await (await api.post(`/programmes/${programme}/layers`, design)).json()) as {
    id: number
    design: { fields: { key: string }[] }
  }
  const page = await phoneWithPack(context)
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: title })
  await page.getByRole('button', { name: `Add to ${title}` }).click()
  await page.getByLabel('Name', { exact: true }).fill('Half')
  await page.getByLabel('Lost later').fill('typed before')
  await expect
    .poll(async () =>
      (await stored<{ values: Record<string, string> }>(page, 'drafts')).map((d) => d.values.lost),
    )
    .toEqual(['typed before'])
  const put = await request.put(`/api/v1/layers/${made.id}/design`, {
    headers: await api.headers(),
    data: { base: 1, design: { ...made.design, fields: made.design.fields.filter((f) => f.key !== 'lost') } },
  })
  expect(put.status()).toBe(200)
  await page.goto('/field/outbox')
  await page.getByRole('button', { name: 'Send now' }).click()
  await expect
    .poll(
      async () =>
        (await stored<{ layers: { id: number; design_version: number }[] }>(page, 'packs'))[0]!.layers.find(
          (l) => l.id === made.id,
        )!.design_version,
    )
    .toBe(2)
  await expect(strip(page)).toContainText('1 record begun')
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByText('The form of this layer has changed since you began.')).toBeVisible()
  await expect(page.getByLabel('Lost later')).toHaveValue('typed before')
  await page.getByLabel('Stays').fill('typed after')
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  type Rows = { records: { id: string; values: Record<string, string> }[] }
  await expect
    .poll(async () => (await api.get<Rows>(`/layers/${made.id}/records`)).records.map((r) => r.values), {
      timeout: 60_000,
    })
    .toEqual([{ name: 'Half', stays: 'typed after' }])
  const { records } = await api.get<Rows>(`/layers/${made.id}/records`)
  // What the field held is in the history, and comes back with the field.
  const history = await api.get<{ values: { key: string; value: unknown }[] | Record<string, unknown> }[]>(
    `/layers/${made.id}/records/${records[0]!.id}/history`,
  )
  expect(JSON.stringify(history)).toContain('typed before')
  // A new one has today's form.
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: title })
  await page.getByRole('button', { name: `Add to ${title}` }).click()
  await expect(page.getByLabel('Stays')).toBeVisible()
  await expect(page.getByLabel('Lost later')).toHaveCount(0)
})

async function signInHere(page: Page, email: string) {
  await page.getByLabel('E-mail').fill(email)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
}

test('work of one person waits while another bears the phone, can be rescued, and is sent when its own signs in', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  const name = code('OWN')
  await addNest(page, name)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill('BEGUN-1')
  await page.getByRole('button', { name: 'Back' }).click()
  await context.clearCookies()
  await context.setOffline(false)
  await expect(strip(page)).toContainText('Sign in to send', { timeout: 30_000 })
  await strip(page).click()
  await expect(page.getByText(/2 things of whoever bore this phone before wait here/)).toBeVisible()
  await signInHere(page, 'ruth@example.test')
  await expect(strip(page)).toContainText('somebody else’s work waits', { timeout: 30_000 })
  expect(await stored(page, 'outbox')).toHaveLength(0)
  await strip(page).click()
  await expect(page.getByText('Work of Ines Calder waits here: 1 to send, 1 begun.')).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('alert').getByRole('button', { name: 'Save a rescue file' }).click(),
  ])
  const file = JSON.parse(readFileSync(await download.path(), 'utf8')) as {
    me: { name: string }
    outbox: unknown[]
    drafts: unknown[]
  }
  expect([file.me.name, file.outbox.length, file.drafts.length]).toEqual(['Ines Calder', 1, 1])
  await page.getByRole('button', { name: 'Sign in as Ines Calder' }).click()
  await signInHere(page, CREW)
  await expect(strip(page)).toContainText(/all sent, 1 record begun/i, { timeout: 30_000 })
  await strip(page).click()
  await expect(page.getByText('BEGUN-1')).toBeVisible()
  expect(await stored(page, 'parked')).toHaveLength(0)
})

test('nothing is sent as somebody else who signs in at the desk in the same browser', async ({
  context,
  request,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  const name = code('NOT')
  await addNest(page, name)
  await context.clearCookies()
  await context.setOffline(false)
  const office = await context.newPage()
  await signIn(office, 'ruth@example.test')
  await expect(office.getByRole('heading', { name: 'Programmes' })).toBeVisible()
  await office.close()
  await page.bringToFront()
  await page.goto('/field/outbox')
  await expect(strip(page)).toContainText('Signed in as somebody else', { timeout: 30_000 })
  await expect(strip(page)).toContainText('1 to send')
  await expect(
    page.getByText('This phone’s work belongs to somebody else than who is signed in here.'),
  ).toBeVisible()
  await strip(page).click()
  await expect(page.getByRole('heading', { name: 'This is Ines Calder’s phone' })).toBeVisible()
  await page.getByRole('button', { name: 'Sign in as Ines Calder' }).click()
  await signInHere(page, CREW)
  await expect(strip(page)).toContainText(/all sent/i, { timeout: 30_000 })
  const api = await apiAs(request)
  const { layer } = await nestPatrol(api)
  const found = await api.get<{ records: { author: string }[] }>(
    `/layers/${layer}/records?filter=${encodeURIComponent(JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: name }] }))}`,
  )
  expect(found.records.map((r) => r.author)).toEqual(['Ines Calder'])
})

/** The store of a phone with an app of before, whose outbox does not say whose it is. */
async function oldStore(context: BrowserContext, me: object, item: object, draft: object) {
  const page = await context.newPage()
  await page.goto('/icons/')
  await page.evaluate(
    ([who, waiting, begun]) =>
      new Promise<void>((done, failed) => {
        const open = indexedDB.open('pin-yard', 70)
        open.onerror = () => failed(new Error('no store'))
        open.onupgradeneeded = () => {
          const make = (name: string, keyPath: string, indexes: string[] = [], autoIncrement = false) => {
            const s = open.result.createObjectStore(name, { keyPath, autoIncrement })
            for (const i of indexes) s.createIndex(i, i)
          }
          make('meta', 'key')
          make('packs', 'programme')
          make('backdrops', 'key')
          make('records', 'id', ['layer', 'visited'])
          make('cursors', 'layer')
          make('outbox', 'seq', ['op', 'state'])
          make('photos', 'id', ['record', 'state'])
          make('drafts', 'key')
          make('notes', 'id', [], true)
          make('trail', 'at', ['sent'])
          make('takes', 'programme')
          make('places', 'programme')
          make('sketches', 'id', [], true)
          make('asked', 'id', ['record'])
        }
        open.onsuccess = () => {
          const tx = open.result.transaction(['meta', 'outbox', 'drafts'], 'readwrite')
          tx.objectStore('meta').put({ key: 'me', value: who })
          tx.objectStore('meta').put({ key: 'device', value: (waiting as { device: string }).device })
          tx.objectStore('outbox').put((waiting as { item: object }).item)
          tx.objectStore('drafts').put(begun)
          tx.oncomplete = () => {
            open.result.close()
            done()
          }
        }
      }),
    [me, item, draft] as const,
  )
  return page
}

test('a phone with an outbox of the app before loses nothing in the update', async ({ context, request }) => {
  const crew = await apiAs(request, CREW)
  const { layer } = await nestPatrol(crew)
  const me = await crew.get<{ id: number }>('/me')
  const name = code('OLD')
  const operation = {
    op: uuid(),
    seq: 1,
    kind: 'add',
    layer,
    design: 1,
    record: uuid(),
    captured_at: new Date().toISOString(),
    values: { nest_code: name, status: 'incubating', species: 'CC' },
    geometry: { type: 'Point', coordinates: [BEACH.longitude, BEACH.latitude] },
    fix: null,
    photos: [],
  }
  const page = await oldStore(
    context,
    me,
    {
      device: uuid(),
      item: {
        seq: 1,
        op: operation.op,
        operation,
        name,
        state: 'waiting',
        problems: [],
        saved_at: new Date().toISOString(),
      },
    },
    {
      key: `new-${layer}`,
      begun_at: new Date().toISOString(),
      layer,
      values: { nest_code: 'OLD-DRAFT' },
      lon: BEACH.longitude,
      lat: BEACH.latitude,
      fix: null,
      photos: [],
      record: uuid(),
    },
  )
  await context.addCookies((await request.storageState()).cookies)
  await page.goto('/field/outbox')
  await expect(strip(page)).toContainText(/all sent, 1 record begun/i, { timeout: 30_000 })
  const found = await crew.get<{ records: { author: string }[] }>(
    `/layers/${layer}/records?filter=${encodeURIComponent(JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: name }] }))}`,
  )
  expect(found.records).toHaveLength(1)
  await page.goto('/field/packs')
  await page.getByRole('button', { name: 'Get this pack' }).click()
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await expect(page.getByLabel('Nest code')).toHaveValue('OLD-DRAFT')
})

test('one does not come back to a form that was saved, and no record begins at 0, 0', async ({ context }) => {
  const page = await phoneWithPack(context)
  const name = code('BK')
  await addNest(page, name)
  await page.goto('/field/list')
  await page.getByLabel('Find a record').fill(name)
  await page.getByRole('button', { name: new RegExp(name) }).click()
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByLabel('Clutch size').fill('88')
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await expect(page.getByRole('heading', { name })).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('button', { name: 'Save on this phone' })).toHaveCount(0)
  const [pack] = await stored<{ layers: { id: number; title: string }[] }>(page, 'packs')
  await page.goto(`/field/add/${pack!.layers.find((l) => l.title === 'Nests')!.id}`)
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  await expect(page).toHaveURL(/\/field$/)
})

test('two windows write two records, and a record is changed in one window at a time', async ({
  context,
}) => {
  const one = await phoneWithPack(context)
  const two = await context.newPage()
  await two.goto('/field')
  await two.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await context.setOffline(true)
  const names = [code('W1'), code('W2')]
  for (const [i, page] of [one, two].entries()) {
    await page.getByRole('button', { name: /Add to Nests/ }).click()
    await fillNest(page, names[i]!)
  }
  for (const page of [one, two]) {
    await page.getByRole('button', { name: 'Save on this phone' }).click()
    await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  }
  const items = await stored<{ operation: { record: string; values: { nest_code: string } } }>(one, 'outbox')
  expect(items.map((i) => i.operation.values.nest_code).sort()).toEqual([...names].sort())
  const { record } = items[0]!.operation
  for (const page of [one, two]) {
    await page.goto(`/field/record/${record}`)
    await page.getByRole('button', { name: 'Change', exact: true }).click()
  }
  await expect(one.getByLabel('Clutch size')).toBeVisible()
  await expect(two.getByRole('heading', { name: 'Open in another window' })).toBeVisible()
})

test('says that a form is not being kept where there is no room, and that the clock is wrong', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.evaluate(() => {
    const real = IDBObjectStore.prototype.put
    IDBObjectStore.prototype.put = function (...args: Parameters<typeof real>) {
      if (this.name === 'drafts') throw new DOMException('full', 'QuotaExceededError')
      return real.apply(this, args)
    }
  })
  await page.getByLabel('Nest code').fill('ROOM')
  await expect(page.getByText('What you type is not being kept')).toBeVisible()
  await page.reload()
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const tx = open.result.transaction('meta', 'readwrite')
          tx.objectStore('meta').put({ key: 'clock_offset_ms', value: 2 * 86_400_000 })
          tx.oncomplete = () => {
            open.result.close()
            done()
          }
        }
      }),
  )
  await context.setOffline(true)
  await page.goto('/field/outbox')
  await expect(page.getByText('This phone’s clock is 2 days behind.')).toBeVisible()
})

test('a new record that was refused is given up, or mended under another id', async ({ context }) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  const names = [code('R1'), code('R2'), code('R3')]
  for (const name of names) await addNest(page, name)
  // Whatever is wrong with one of them: the whole round is refused as long as it is in it.
  await page.route('**/api/v1/sync', async (route) => {
    const body = route.request().postDataBuffer()!
    const { gunzipSync } = await import('node:zlib')
    const text = (
      route.request().headers()['content-encoding'] === 'gzip' ? gunzipSync(body) : body
    ).toString()
    return text.includes(names[1]!)
      ? route.fulfill({
          status: 422,
          json: {
            code: 'refused',
            title: 'Refused',
            problems: [
              { code: 'x', field: null, value: null, params: {}, message: 'This one cannot be read.' },
            ],
          },
        })
      : route.continue().catch(() => undefined)
  })
  await context.setOffline(false)
  await expect(strip(page)).toContainText('1 not taken', { timeout: 60_000 })
  await strip(page).click()
  await expect(page.getByText('This one cannot be read.').last()).toBeVisible()
  for (const name of [names[0]!, names[2]!]) await expect(page.getByText(name)).toHaveCount(0)
  const before = (await stored<{ operation: { record: string } }>(page, 'outbox'))[0]!.operation.record
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.getByRole('button', { name: 'Mend it' }).click()
  await expect(page.getByLabel('Nest code')).toHaveValue(names[1]!)
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
  const after = await stored<{ seq: number; operation: { record: string } }>(page, 'outbox')
  expect(after).toHaveLength(1)
  expect(after[0]!.operation.record).not.toBe(before)
  expect((await stored<{ id: string }>(page, 'records')).some((r) => r.id === before)).toBe(false)
  // Given up, it is asked twice, and gone.
  await page.evaluate(
    (seq) =>
      new Promise<void>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const tx = open.result.transaction('outbox', 'readwrite')
          const got = tx.objectStore('outbox').get(seq)
          got.onsuccess = () =>
            tx.objectStore('outbox').put({ ...got.result, state: 'refused', problems: ['No.'] })
          tx.oncomplete = () => {
            open.result.close()
            done()
          }
        }
      }),
    after[0]!.seq,
  )
  await page.goto('/field/outbox')
  await page.getByRole('button', { name: 'Give it up' }).click()
  await page.getByRole('button', { name: 'Really throw it away' }).click()
  await expect(page.getByText('Everything has arrived.')).toBeVisible()
})
