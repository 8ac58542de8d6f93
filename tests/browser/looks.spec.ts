import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * Marks by classes of a number: proposed at the desk, changed there, the same for strangers; on a phone
 * without signal in gallery.spec.ts.
 */

test('marks go by classes of a number, whose breaks are dragged, also for a stranger', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(120_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Looks ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const layer = await made(`/programmes/${programme.id}/layers`, {
    title: 'Trees',
    geometry: 'point',
    fields: [
      { key: 'name', label: 'Name', kind: 'short_text' },
      { key: 'girth', label: 'Girth', kind: 'whole_number', unit: 'cm' },
    ],
  })
  const girths = [10, 12, 14, 60, 64, 150, 152, null]
  for (const [i, girth] of girths.entries())
    await made(`/layers/${layer.id}/records`, {
      values: { name: `Tree ${i}`, girth },
      geometry: { type: 'Point', coordinates: [-11.68 + i / 50, -14.2] },
    })

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  await page.getByLabel('Marks by').selectOption({ label: 'Girth' })
  const legend = page.getByRole('listitem')
  // Four classes are asked for where a map begins; natural gaps part these numbers.
  await expect(page.getByText('1 without the number: ring.')).toBeVisible()
  await page.getByLabel('How many').selectOption('3')
  await expect(legend.filter({ hasText: 'under 50 cm' })).toContainText('3')
  await expect(legend.filter({ hasText: '50 to under 100 cm' })).toContainText('2')
  await expect(legend.filter({ hasText: '100 cm and more' })).toContainText('2')
  await expect(legend.filter({ hasText: 'No number' })).toContainText('1')

  // A break is moved by keys, then dragged; the legend says what became of it.
  const first = page.getByRole('slider', { name: 'Break 1' })
  await first.focus()
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight')
  await expect(legend.filter({ hasText: 'under 60 cm' })).toContainText('3')
  await expect(page.getByLabel('Classes', { exact: true })).toHaveValue('hand')
  const box = (await first.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + 20)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 6, box.y + 20, { steps: 4 })
  await page.mouse.up()
  await expect(legend.filter({ hasText: /under 6\d cm/ }).first()).toContainText('4')

  // A class gets a name, and a mark of another shape.
  await legend.filter({ hasText: '100 cm and more' }).getByRole('button').click()
  await page.getByLabel('Name of this class').fill('mächtig')
  await page.getByRole('button', { name: 'Triangle' }).click()
  await page.keyboard.press('Escape')
  await expect(legend.filter({ hasText: 'mächtig' })).toContainText('2')
  // Colours, and as large as they are thick: chosen at once, and what the first needs comes last. Both stay.
  await page.route('**/classes', async (route) => {
    if ((route.request().postDataJSON() as { scheme: string }).scheme === 'ember')
      await new Promise((later) => setTimeout(later, 1500))
    await route.continue()
  })
  await page.getByLabel('Colours').selectOption('ember')
  await page.getByLabel('Size by').selectOption({ label: 'Girth' })
  const sizes = page.getByRole('region', { name: 'Size: Girth' })
  await expect(sizes).toContainText('152 cm')
  await expect(page.getByLabel('Colours')).toHaveValue('ember')
  await expect(sizes).toContainText('152 cm')
  await expect(legend.filter({ hasText: 'mächtig' })).toBeVisible()
  await expect(sizes).toContainText('1 record without it: small rings')
  await page.getByLabel('The largest stands for').fill('0')
  await expect(page.getByText('The largest has to stand for a number above zero.')).toBeVisible()
  await page.getByLabel('The largest stands for').fill('200')
  await expect(sizes).toContainText('200 cm')
  await expect(legend.filter({ hasText: 'mächtig' })).toContainText('2')
  await page.getByLabel('Anyone with the link').check()
  const address = (await page.getByTestId('address').textContent())!
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(legend.filter({ hasText: 'mächtig' })).toContainText('2')

  const stranger = await (await browser.newContext()).newPage()
  await stranger.goto(new URL(address, baseURL!).pathname)
  await expect(stranger.getByText('mächtig')).toBeVisible()
  await expect(stranger.getByText('No number')).toBeVisible()
  await expect(stranger.getByRole('region', { name: 'Size: Girth' })).toContainText('200 cm')
})
