import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, desk, PHONE, phoneWithPack } from './yard'

/*
 * Areas coloured by the records in them, with a table and a chart beside the map: made at the desk, read by a stranger,
 * told by a phone without signal from its own records. From a file in a national grid in bring.spec.ts.
 */

const square = (lon: number) => ({
  type: 'Polygon',
  coordinates: [
    [
      [lon, -14.24],
      [lon + 0.04, -14.24],
      [lon + 0.04, -14.2],
      [lon, -14.2],
      [lon, -14.24],
    ],
  ],
})

const rowsOf = (page: Page) => page.getByRole('region', { name: /as a table/ }).locator('tbody tr')

test('areas are coloured by the records in them, with a table beside the map that is tied to it', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const name = `Areas ${Math.random().toString(36).slice(2, 8)}`
  const programme = await made('/programmes', { name, time_zone: 'UTC', area: [-11.7, -14.3, -11.5, -14.1] })
  const at = `/programmes/${programme.id}`
  const plots = await made(`${at}/layers`, {
    title: 'Plots',
    geometry: 'area',
    name_field: 'plot',
    fields: [
      { key: 'plot', label: 'Plot', kind: 'short_text' },
      { key: 'people', label: 'People', kind: 'whole_number' },
    ],
  })
  const trees = await made(`${at}/layers`, {
    title: 'Bäume',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text' },
      { key: 'girth', label: 'Girth', kind: 'whole_number', unit: 'cm' },
    ],
  })
  for (const [i, plot] of ['West', 'Mitte', 'East'].entries())
    await made(`/layers/${plots.id}/records`, {
      values: { plot, ...(i < 2 ? { people: 1_000 * (i + 1) } : {}) },
      geometry: square(-11.68 + i * 0.05),
    })
  for (const [lon, girth] of [
    [-11.66, 100],
    [-11.65, 140],
    [-11.61, 60],
    [-11.52, 900],
  ] as const)
    await made(`/layers/${trees.id}/records`, {
      values: { code: `T${girth}`, girth },
      geometry: { type: 'Point', coordinates: [lon, -14.22] },
    })

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  await page.getByRole('menuitem', { name: /Plots/ }).click()
  const layers = page.getByRole('region', { name: 'Layers' })
  await expect(layers.getByRole('listitem')).toHaveCount(1)

  // How many there are comes first; then a mean, then a rate by the areas' own number.
  await page.getByLabel('Marks by').selectOption({ label: 'Records of another layer' })
  await expect(page.getByLabel('Records of')).toContainText('Bäume')
  await expect(layers.getByRole('listitem')).toContainText('Bäume')
  await page.getByLabel('What is told of them').selectOption({ label: 'the mean of a number' })
  await expect(layers.getByRole('listitem')).toContainText('Bäume: mean of Girth')
  await page.getByLabel('Hatch areas with fewer records than').selectOption('2')
  await expect(page.getByText('Bäume: fewer than 2').first()).toBeVisible()
  await page.getByLabel('What is told of them').selectOption({ label: 'the share that is in a slice' })
  // A share is one once it is said of what.
  await expect(page.getByText('Choose a slice: a share needs to know of what.')).toBeVisible()
  await expect(layers.getByRole('listitem')).toContainText('Bäume: mean of Girth')
  await page.getByLabel('What is told of them').selectOption({ label: 'a rate: how many for each …' })
  await page.getByLabel('For each').selectOption({ label: 'People' })
  await page.getByLabel('Hatch areas with fewer records than').selectOption('0')
  await page.getByLabel('For each').selectOption('1000')
  await expect(layers.getByRole('listitem')).toContainText('Bäume per 1,000 of People')

  // Its number stands beside each area, and in a table by name.
  await page.getByRole('tab', { name: 'Labels' }).click()
  await page.getByLabel('Label the records').check()
  await page.getByLabel('Add a value').selectOption({ label: 'What colours the area' })
  await page.getByLabel('Show a table of what is on the map').check()
  const panel = page.getByRole('region', { name: 'Plots as a table' })
  await expect(panel.getByRole('status')).toHaveText('3 records in view')
  await expect(rowsOf(page).locator('td:first-child')).toHaveText(['East', 'Mitte', 'West'])
  await page.getByLabel('Order').selectOption({ label: 'by Plot, downwards' })
  await expect(rowsOf(page).locator('td:first-child')).toHaveText(['West', 'Mitte', 'East'])
  await expect(rowsOf(page).locator('td:nth-child(2)')).toHaveText(['2', '0.5', '–'])
  await page.getByLabel('Title').fill('Trees for people')
  await page.getByLabel('Anyone with the link').check()
  const address = (await page.getByTestId('address').textContent())!
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()

  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(new URL(address, baseURL!).pathname)
  await visitor.locator('[data-ready=true]').waitFor()
  const seen = visitor.getByRole('region', { name: 'Plots as a table' })
  await expect(seen.getByRole('status')).toHaveText('3 records in view')
  // Pick in the table, see on the map; by keys, too.
  await seen.getByRole('button', { name: 'Show Mitte on the map' }).focus()
  await visitor.keyboard.press('Enter')
  await expect(visitor.getByRole('heading', { name: 'Mitte' })).toBeVisible()
  await expect(visitor.getByText('0.5 (of 1 record)')).toBeVisible()
  await expect(visitor.getByRole('img', { name: 'What was picked' })).toBeVisible()
  // Pick on the map, see in the table.
  await visitor.getByRole('button', { name: 'Close', exact: true }).click()
  const box = (await visitor.getByTestId('map').boundingBox())!
  await expect(async () => {
    // Mitte lies in the middle between the legend and the edge.
    await visitor.mouse.click(box.x + 292 + (box.width - 292 - 60) / 2 - 60, box.y + box.height / 2 + 20)
    await expect(rowsOf(visitor).and(visitor.locator('[aria-selected=true]'))).toHaveCount(1, {
      timeout: 2_000,
    })
  }).toPass({ timeout: 60_000 })
  // A chart says the same; sorted by a tap on a head.
  await seen.getByRole('button', { name: /per 1,000 of People/ }).click()
  await expect(rowsOf(visitor).locator('td:first-child')).toHaveText(['West', 'Mitte', 'East'])
  await seen.getByRole('button', { name: /per 1,000 of People/ }).click()
  await expect(rowsOf(visitor).locator('td:first-child')).toHaveText(['Mitte', 'West', 'East'])
  await seen.getByRole('button', { name: 'Chart' }).click()
  await expect(seen.getByRole('listitem')).toHaveText(['Mitte0.5', 'West2', 'EastNo number'])
  // What the map does not show is not told, unless all is asked for.
  await visitor.getByTestId('map').hover()
  for (let i = 0; i < 4; i++) {
    await visitor.getByRole('button', { name: 'Zoom in' }).click()
    await visitor.waitForTimeout(400)
  }
  await expect(seen.getByRole('status')).not.toHaveText('3 records in view')
  await seen.getByRole('button', { name: 'All', exact: true }).click()
  await expect(seen.getByRole('status')).toHaveText('3 records')

  // A new tree at the desk, and the stranger's map says so by itself.
  await made(`/layers/${trees.id}/records`, {
    values: { code: 'New', girth: 10 },
    geometry: { type: 'Point', coordinates: [-11.61, -14.215] },
  })
  await expect(seen.getByRole('listitem').filter({ hasText: 'Mitte' })).toHaveText('Mitte1', {
    timeout: 40_000,
  })
})

test('a class of the chart cuts the map and the table to it', async ({ browser, playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const maps = await api.get<{ id: number; title: string; layers: { id: string }[] }[]>('/programmes/1/maps')
  const map = maps.find((m) => m.title === 'Which species nests where')!
  const page = await desk(browser)
  await page.goto(`/desk/p/1/publish/map/${map.id}`)
  await page.getByLabel('Show a table of what is on the map').check()
  const panel = page.getByRole('region', { name: 'Nests as a table' })
  await panel.getByRole('button', { name: 'Chart' }).click()
  const bar = panel.getByRole('button', { name: /^Green/ })
  const count = (await bar.textContent())!.replace(/\D/g, '')
  await bar.click()
  await expect(bar).toHaveAttribute('aria-pressed', 'true')
  await expect(panel.getByRole('status')).toHaveText(new RegExp(`^${count} records? in view$`))
  await panel.getByRole('button', { name: 'Table', exact: true }).click()
  await expect(rowsOf(page).first()).toContainText('Green')
  await expect(rowsOf(page).filter({ hasText: 'Loggerhead' })).toHaveCount(0)
  await panel.getByRole('button', { name: /Only Green/ }).click()
  await expect(panel.getByRole('status')).not.toHaveText(new RegExp(`^${count} records? in view$`))
  // Without a network it says so, and the rows that are there stay.
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.context().setOffline(true)
  await panel.getByRole('button', { name: 'All', exact: true }).click()
  await expect(panel.getByText('The server cannot be reached just now.')).toBeVisible()
  await expect(rowsOf(page).first()).toBeVisible()
  await page.context().setOffline(false)
  await expect(panel.getByText('The server cannot be reached just now.')).toHaveCount(0, { timeout: 20_000 })
  await page.getByLabel('Show a table of what is on the map').uncheck()
  await expect(panel).toHaveCount(0)
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
})

test('a phone without signal has the map with its areas coloured by what it carries', async ({ browser }) => {
  const context = await browser.newContext(PHONE)
  const phone = await phoneWithPack(context)
  await context.setOffline(true)
  const layers = phone.getByRole('button', { name: 'Layers and what the marks mean' })
  await layers.click()
  await phone.getByRole('button', { name: 'Gallery' }).click()
  await phone.getByRole('button', { name: /Which sectors hatch well/ }).click()
  await phone.locator('[data-ready=true]').waitFor({ timeout: 60_000 })
  await layers.click()
  await expect(phone.getByText('Marks by Nests: mean of Hatching success.')).toBeVisible()
  await expect(phone.getByText('Nests: fewer than 3')).toBeVisible()
  await context.close()
})

test('areas that are alone say that there is nothing to colour them by, and their table that it is empty', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async (path: string, body: object) =>
    (await (await api.post(path, body)).json()) as { id: number }
  const programme = await made('/programmes', {
    name: `Alone ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const layer = await made(`/programmes/${programme.id}/layers`, {
    title: 'Plots',
    geometry: 'area',
    fields: [{ key: 'plot', label: 'Plot', kind: 'short_text' }],
  })
  const map = await made(`/programmes/${programme.id}/maps`, { title: 'Alone', layer: layer.id })
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish/map/${map.id}`)
  await page.getByLabel('Marks by').selectOption({ label: 'Records of another layer' })
  await expect(
    page.getByText('There is no other layer whose records could lie in these areas.'),
  ).toBeVisible()
  await page.getByLabel('Show a table of what is on the map').check()
  await expect(page.getByText('No record lies in what the map shows. Move it, or choose All.')).toBeVisible()
})
