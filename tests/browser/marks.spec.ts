import { expect, test } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { apiAs, COORDINATOR, desk, nestPatrol } from './yard'

const TURTLE =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">' +
  '<ellipse cx="12" cy="12" rx="8" ry="6" fill="#0F5C53"/><circle cx="21" cy="12" r="2.4" fill="#0F5C53"/></svg>'

test("a mark of one's own is brought, refused when it is none, put on a map and seen by a stranger", async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme, layer } = await nestPatrol(api)
  const made = (await (
    await api.post(`/programmes/${programme}/maps`, { layer, title: 'Turtles', audience: 'link' })
  ).json()) as { id: number; address: string }
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme}/publish/map/${made.id}`)
  await page
    .getByRole('button', { name: /Opened/ })
    .first()
    .click()
  const add = page.getByLabel('Add a picture').last()
  await add.setInputFiles({ name: 'note.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('just words') })
  await expect(page.getByText('This is no picture that can be a mark.')).toBeVisible()
  await add.setInputFiles({ name: 'turtle.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(TURTLE) })
  const mark = page.getByRole('button', { name: 'turtle', exact: true })
  await expect(mark).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('Escape')
  await expect
    .poll(async () => JSON.stringify(await api.get(`/maps/${made.id}`)), { timeout: 30_000 })
    .toContain('own-')
  const stranger = await (await browser.newContext()).newPage()
  const fetched = stranger.waitForResponse((r) => r.url().includes('/api/v1/open/marks/') && r.ok())
  await stranger.goto(made.address)
  await fetched
  await expect(stranger.locator('svg image').first()).toBeVisible()
})

test('records that are ticked are taken out, and no others', async ({ browser, playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme } = await nestPatrol(api)
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme}/check`)
  // A layer that no other test adds to: new records would push the rows down in the middle of it.
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Beach sectors' })
  const boxes = page.getByRole('checkbox', { name: 'Select row' })
  for (const row of [1, 3]) {
    await boxes.nth(row).click()
    await expect(boxes.nth(row)).toBeChecked()
  }
  await page.getByRole('button', { name: 'Take 2 out' }).click()
  await page.getByLabel('Format').selectOption('csv')
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 60_000 }),
    page.getByRole('button', { name: 'Write the file' }).click(),
  ])
  const rows = readFileSync(await download.path(), 'utf8')
    .trim()
    .split(/\r?\n/)
  expect(rows).toHaveLength(3)
})
