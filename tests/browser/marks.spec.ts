import type { MapView } from '../../resources/ts/shared/types'
import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * Looks of a dozen measured sites: shades, two numbers at once, cells, gathered points; a label worked out; a search that
 * a stranger asks. What is chosen in the editor is what the stranger gets.
 */
test('sites are drawn by shades, two numbers, cells and gathered; a stranger asks a search', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Marks ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const sites = await made(`/programmes/${programme.id}/layers`, {
    title: 'Meßstellen',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text' },
      { key: 'depth', label: 'Depth', kind: 'decimal', unit: 'm' },
      { key: 'salt', label: 'Salt', kind: 'decimal' },
    ],
  })
  for (let i = 0; i < 12; i++)
    await made(`/layers/${sites.id}/records`, {
      values: { code: `P-${i}`, ...(i < 11 ? { depth: i * 2 } : {}), salt: (i * 7) % 12 },
      geometry: {
        type: 'Point',
        // Four stand close together in the middle.
        coordinates: i < 4 ? [-11.6 + i * 1e-4, -14.2] : [-11.68 + (i % 4) * 0.05, -14.28 + (i % 3) * 0.07],
      },
    })
  await made(`/layers/${sites.id}/slices`, {
    name: 'Deep ones',
    filter: { all: [{ field: 'depth', test: 'at_least', value: 10 }] },
  })

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  const by = page.getByLabel('Marks by')
  const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const id = Number(/map\/(\d+)/.exec((await page.waitForURL(/map\/\d+/), page.url()))![1])
  const look = async () =>
    (await api.get<{ layers: { look: Record<string, unknown> }[] }>(`/maps/${id}`)).layers[0]!.look
  const drawnBy = (kind: string) => expect(async () => expect((await look()).kind).toBe(kind)).toPass()

  // One number: in classes first, then in shades from one end to the other.
  await by.selectOption({ label: 'Depth' })
  await page.getByRole('button', { name: 'In shades' }).click()
  await expect(page.getByLabel('First colour at')).toHaveValue('0')
  await expect(page.getByLabel('Last colour at')).toHaveValue('20')
  await page.getByLabel('Last colour at').fill('-3')
  await expect(page.getByText('Shades go from one number to a larger one.')).toBeVisible()
  await page.getByLabel('Last colour at').fill('16,5')
  await expect(async () => expect((await look()).to).toBe(16.5)).toPass()
  await expect(page.getByText('16.5 m')).toBeVisible()
  await expect(page.getByText('No number')).toBeVisible()

  // Two numbers, each in three classes; the same one twice makes them change places.
  await by.selectOption({ label: 'Two numbers at once' })
  const first = page.getByLabel('To the right', { exact: true })
  const second = page.getByLabel('Upwards', { exact: true })
  await expect(first.locator('option:checked')).toHaveText('Depth')
  await second.selectOption({ label: 'Depth' })
  await expect(first.locator('option:checked')).toHaveText('Salt')
  await expect(page.getByRole('table', { name: /Both numbers/ }).locator('td')).toHaveCount(10)
  await drawnBy('crossed')

  // Cells with counts; coarser ones hold all.
  await by.selectOption({ label: 'How many in each cell of a grid' })
  await drawnBy('density')
  const slider = page.getByRole('slider', { name: 'Side of the cell' })
  for (let i = 0; i < 12; i++) await slider.press('ArrowRight')
  await expect(async () =>
    expect(
      (await api.get<MapView>(`/maps/${id}/view`)).layers[0]!.legend.reduce((n, l) => n + l.count, 0),
    ).toBe(1),
  ).toPass()

  // Gathered, with the sum: the editor says what that tells.
  await by.selectOption({ label: 'One mark for all' })
  await page.getByLabel('Points close together').selectOption({ label: 'as one, with the sum of Depth' })
  await expect(page.getByText('Whoever sees the map can learn this number of each record.')).toBeVisible()
  await page.getByRole('tab', { name: 'Labels' }).click()
  await page.getByLabel('Label the records').check()
  await page.getByLabel('Add a value').selectOption({ label: 'A calculated value…' })
  const dialog = page.getByRole('dialog')
  const put = dialog.getByRole('button', { name: 'Put it in' })
  const stood = await put.boundingBox()
  await dialog.getByLabel('Formula').fill('round(depth * 3.28)')
  // What it gives on records comes later, and moves no button from under a click.
  await expect(dialog.getByText('On the newest records')).toBeVisible()
  expect(await put.boundingBox()).toEqual(stood)
  await put.click()
  await expect(page.getByText('= round(depth * 3.28)')).toBeVisible()

  // A search for whoever looks, tried at the desk.
  const searches = page.locator('section').filter({ has: page.getByRole('heading', { name: 'Searches' }) })
  await searches.getByLabel('Shows only').selectOption({ label: 'Deep ones' })
  await searches.getByLabel('Name', { exact: true }).fill('Only the deep')
  await searches.getByRole('button', { name: 'Add this search' }).click()
  await searches.getByRole('button', { name: 'Try Only the deep' }).click()
  await expect(page.getByRole('region', { name: 'Layers' }).getByText('6', { exact: true })).toBeVisible()
  await page.getByLabel('Anyone with the link').check()
  const address = new URL((await page.getByTestId('address').textContent())!, baseURL!).pathname
  await saved()

  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(address)
  await visitor.locator('[data-ready=true]').waitFor()
  const legend = visitor.getByRole('complementary', { name: 'Legend' })
  await expect(legend.getByText('12', { exact: true }).first()).toBeVisible()
  await legend.getByLabel('Show only').selectOption({ label: 'Only the deep' })
  await expect(legend.getByText('6', { exact: true }).first()).toBeVisible()
  // The address leads there, and back by itself.
  await visitor.reload()
  await visitor.locator('[data-ready=true]').waitFor()
  await expect(legend.getByText('6', { exact: true }).first()).toBeVisible()
  await legend.getByLabel('Show only').selectOption({ label: 'Everything' })
  await expect(legend.getByText('12', { exact: true }).first()).toBeVisible()
  // Without a network it says so, and goes on saying what it shows; what was asked arrives when there is one.
  await visitor.reload()
  await visitor.locator('[data-ready=true]').waitFor()
  await visitor.context().setOffline(true)
  await legend.getByLabel('Show only').selectOption({ label: 'Only the deep' })
  await expect(legend.getByText('The server cannot be reached just now.')).toBeVisible()
  await expect(legend.getByLabel('Show only').locator('option:checked')).toHaveText('Everything')
  await visitor.context().setOffline(false)
  await expect(legend.getByText('6', { exact: true }).first()).toBeVisible()
  await expect(legend.getByLabel('Show only').locator('option:checked')).toHaveText('Only the deep')
  await legend.getByLabel('Show only').selectOption({ label: 'Everything' })
  await expect(legend.getByText('12', { exact: true }).first()).toBeVisible()
  expect(new URL(visitor.url()).search).toBe('')

  // A tap on four that are gathered goes nearer, until each stands by itself.
  const box = (await visitor.getByTestId('map').boundingBox())!
  const middle = [(box.x + 292 + box.x + box.width - 60) / 2, box.y + box.height / 2] as const
  const scale = () => visitor.locator('.maplibregl-ctrl-scale').textContent()
  const before = await scale()
  await expect(async () => {
    await visitor.mouse.click(...middle)
    await visitor.waitForTimeout(700)
    expect(await scale()).not.toBe(before)
  }).toPass({ timeout: 60_000 })
  await expect(visitor.getByRole('button', { name: 'Close', exact: true })).toHaveCount(0)
})
