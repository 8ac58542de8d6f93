import type { Browser } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, COORDINATOR, desk, nestPatrol, ownProgramme, PASSWORD } from './yard'

/* Nothing typed at the desk goes without a word: failing saves, two people on one board, reloads, Back, another record. */

async function board(browser: Browser, title: string) {
  const page = await desk(browser)
  const api = await apiAs(page.request, COORDINATOR)
  const { programme, layer } = await nestPatrol(api)
  const tile = (id: string) => ({
    id,
    kind: 'number',
    title: id,
    layer,
    slice: null,
    field: null,
    width: 4,
    height: 2,
  })
  const made = (await (
    await api.post(`/programmes/${programme}/boards`, { title, tiles: [tile('one'), tile('two')] })
  ).json()) as { id: number }
  const read = () => api.get<{ title: string; tiles: { title: string }[] }>(`/boards/${made.id}`)
  return { page, api, programme, layer, read, at: `/desk/p/${programme}/publish/board/${made.id}` }
}

test('a save that fails is said, kept over a reload, and got through by itself', async ({ browser }) => {
  const { page, read, at, programme } = await board(browser, 'Weather')
  await page.goto(at)
  const title = page.getByLabel('Title', { exact: true })
  await expect(title).toHaveValue('Weather')
  // It can be emptied to be typed anew.
  await title.fill('')
  await expect(page.getByText('Not saved yet: a title is needed.')).toBeVisible()
  await page.route('**/api/v1/boards/*', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  )
  await title.fill('Storm')
  await expect(page.getByText('What you changed has not reached the server.')).toBeVisible()
  // Elsewhere at the desk it is still said, and tried on.
  await page.getByRole('link', { name: 'Boards' }).first().click()
  await expect(page.getByText('One change is not saved yet.')).toBeVisible()
  expect((await read()).title).toBe('Weather')
  page.on('dialog', (dialog) => void dialog.accept())
  await page.goto(`/desk/p/${programme}/build`)
  await page.unroute('**/api/v1/boards/*')
  await page.goto(at)
  await expect(title).toHaveValue('Storm')
  await expect.poll(async () => (await read()).title).toBe('Storm')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
})

test('two people on one board keep what each has done, and decide where both meant the same', async ({
  browser,
}) => {
  const { page, read, at } = await board(browser, 'Both')
  const other = await desk(browser)
  for (const p of [page, other]) {
    await p.goto(at)
    await expect(p.getByLabel('Title', { exact: true })).toHaveValue('Both')
  }
  const tile = async (p: typeof page, name: string) => {
    await p.getByRole('region', { name, exact: true }).click()
    return p.getByLabel('Title of the tile')
  }
  await (await tile(page, 'one')).fill('Mine')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await expect.poll(async () => (await read()).tiles[0]!.title).toBe('Mine')
  await (await tile(other, 'two')).fill('Theirs')
  await expect.poll(async () => (await read()).tiles.map((t) => t.title)).toEqual(['Mine', 'Theirs'])
  await expect(await tile(other, 'Mine')).toHaveValue('Mine')
  // The same title, by both: nobody's is overwritten.
  await page.getByLabel('Title', { exact: true }).fill('Of Mara')
  await expect.poll(async () => (await read()).title).toBe('Of Mara')
  await other.getByLabel('Title', { exact: true }).fill('Of somebody else')
  await expect(other.getByText('Someone else changed this meanwhile: it is now “Of Mara”.')).toBeVisible()
  expect((await read()).title).toBe('Of Mara')
  await other.getByRole('button', { name: 'Keep mine' }).click()
  await expect.poll(async () => (await read()).title).toBe('Of somebody else')
})

test('a design that was begun is there again, and can be thrown away', async ({ browser }) => {
  const { page, programme, layer } = await board(browser, 'Designs')
  await page.goto(`/desk/p/${programme}/build/new`)
  await page.getByLabel('Title', { exact: true }).fill('Shells of the north')
  await page.waitForTimeout(400)
  await page.reload()
  await expect(page.getByText(/Taken up from where you left it/)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Shells of the north', exact: true })).toBeVisible()
  // By another way out and back.
  await page.getByRole('link', { name: 'Collect' }).first().click()
  await expect(page.getByRole('heading', { level: 1, name: 'Shells of the north' })).toHaveCount(0)
  await page.goBack()
  await expect(page.getByRole('heading', { name: 'Shells of the north', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Discard it' }).click()
  await page.reload()
  await expect(page.getByText(/Taken up/)).toHaveCount(0)
  await page.goto(`/desk/p/${programme}/build/${layer}?part=about`)
  const purpose = page.getByLabel('What is it for?')
  await purpose.fill('Half a sentence about')
  await page.getByRole('link', { name: 'Check' }).first().click()
  await expect(page.getByRole('button', { name: 'Add a record' })).toBeVisible()
  await page.goBack()
  await expect(page.getByText(/Taken up from where you left it/)).toBeVisible()
  await page.getByRole('button', { name: 'Discard it' }).click()
})

test('a record half typed at the desk is kept when one looks at another, and listed until it is saved', async ({
  browser,
}) => {
  const { page, programme } = await board(browser, 'Records')
  await page.goto(`/desk/p/${programme}/check`)
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await page.getByRole('button', { name: 'Add a record' }).click()
  await page.getByLabel('Nest code').fill('HALF-1')
  // Another record is picked in the middle of it.
  await page.locator('.MuiDataGrid-row').nth(2).click()
  await expect(page.getByText('Begun and not saved')).toBeVisible()
  await page.reload()
  await expect(page.getByText('New record in Nests', { exact: false })).toBeVisible()
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByLabel('Nest code')).toHaveValue('HALF-1')
  await page.getByRole('button', { name: 'Discard it' }).click()
  await expect(page.getByText('Begun and not saved')).toHaveCount(0)
  await page.reload()
  await expect(page.getByText('Begun and not saved')).toHaveCount(0)
})

test('a server that is away takes nothing from the screen, and being signed out elsewhere leads to signing in', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const { programme } = await ownProgramme(playwright, baseURL, 'Away')
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/build/new`)
  const title = page.getByLabel('Title')
  await title.fill('Störche')
  // As when one comes back to the window: all that is old is asked anew.
  const comeBack = () => page.evaluate(() => window.dispatchEvent(new Event('visibilitychange')))
  const isAway = (url: URL) => /\/api\/v1\/(me|programmes\/\d+)$/.test(url.pathname)
  await page.route(isAway, (route) => route.fulfill({ status: 502, body: 'Bad Gateway' }))
  await page.waitForTimeout(5_200)
  const [asked] = await Promise.all([
    page.waitForResponse((r) => isAway(new URL(r.url())) && r.status() === 502),
    comeBack(),
  ])
  expect(asked.status()).toBe(502)
  await page.waitForTimeout(1_500)
  await expect(title).toHaveValue('Störche')
  await page.unroute(isAway)

  // In another window, or by an administrator.
  const api = { 'X-XSRF-TOKEN': '' }
  api['X-XSRF-TOKEN'] = decodeURIComponent(
    (await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')?.value ?? '',
  )
  expect((await page.request.delete('/api/v1/session', { headers: api })).status()).toBe(204)
  await page.waitForTimeout(5_200)
  await comeBack()
  await page.getByLabel('E-mail').fill(COORDINATOR)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Störche', exact: true })).toBeVisible()
  await expect(page.getByText(/Taken up from where you left it/)).toBeVisible()
})
