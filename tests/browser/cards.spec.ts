import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * A card that speaks: a total worked back from a count and a rate, a sentence that is said only where it fits, a ring of
 * two numbers, labels of a name and a code; read by a stranger.
 */
test('a total worked back from a count and a rate is said on a card with a ring', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Cards ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const whole = (key: string, label: string) => ({ key, label, kind: 'whole_number' })
  const wards = await made(`/programmes/${programme.id}/layers`, {
    title: 'Wards',
    geometry: 'point',
    name_field: 'name',
    fields: [
      { key: 'name', label: 'Name', kind: 'short_text' },
      { key: 'code', label: 'Code', kind: 'short_text' },
      whole('cases', 'Cases'),
      { key: 'rate', label: 'Rate', kind: 'decimal' },
      whole('women', 'Women'),
      whole('men', 'Men'),
    ],
  })
  for (const [values, lon] of [
    [{ name: 'Über den Höfen', code: 'UH', cases: 30, rate: 25, women: 20, men: 10 }, -11.6],
    // Without a rate there is nothing to work back from.
    [{ name: 'Lower End', code: 'LE', cases: 4 }, -11.55],
  ] as const)
    await made(`/layers/${wards.id}/records`, {
      values,
      geometry: { type: 'Point', coordinates: [lon, -14.2] },
    })

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  await page.getByRole('tab', { name: 'Labels' }).click()
  await page.getByLabel('Label the records').check()
  await page.getByRole('button', { name: 'Add words' }).click()
  await page.getByLabel('Words', { exact: true }).fill(' (')
  await page.getByLabel('Add a value').selectOption({ label: 'Code' })
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()

  await page.getByRole('tab', { name: 'Card' }).click()
  await page.getByRole('button', { name: 'Add a sentence' }).click()
  const one = page.getByRole('region', { name: 'Sentence 1' })
  await one.getByLabel('Words', { exact: true }).fill('About ')
  await one.getByLabel('Add a value').selectOption({ label: 'A calculated value…' })
  const dialog = page.getByRole('dialog')
  // What is off is said, and nothing is put in.
  await dialog.getByLabel('Formula').fill('round(cases / rte * 100000)')
  await dialog.getByRole('button', { name: 'Put it in' }).click()
  await expect(dialog.getByText('There is no field “rte”. Do you mean rate?')).toBeVisible()
  await dialog.getByLabel('Formula').fill('round(cases / rate * 100000)')
  await expect(dialog.getByText('120,000').or(dialog.getByText('120000')).first()).toBeVisible()
  await dialog.getByRole('button', { name: 'Put it in' }).click()
  await one.getByRole('button', { name: 'Add words' }).click()
  await one.getByLabel('Words', { exact: true }).last().fill(' people live here.')
  await one.getByLabel('Said').selectOption({ label: 'only if Rate …' })
  await page.getByRole('button', { name: 'Add a sentence' }).click()
  const two = page.getByRole('region', { name: 'Sentence 2' })
  await two.getByLabel('Words', { exact: true }).fill('Nobody knows how many live here.')
  await two.getByLabel('Said').selectOption({ label: 'only if Rate …' })
  await two.getByLabel('What it must be').selectOption({ label: 'is not known' })
  await page.getByLabel('Chart').selectOption({ label: 'a ring of parts of a whole' })
  await expect(page.getByText('Choose at least two numbers.')).toBeVisible()
  await page.getByRole('checkbox', { name: 'Women' }).first().check()
  await page.getByRole('checkbox', { name: 'Men', exact: true }).first().check()
  // The list of fields can go.
  for (const name of ['Code', 'Cases', 'Rate']) await page.getByRole('checkbox', { name }).last().uncheck()
  await page.getByLabel('Title').fill('Who lives where')
  await page.getByLabel('Anyone with the link').check()
  const address = (await page.getByTestId('address').textContent())!
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  // It is there after a reload.
  await page.reload()
  await page.getByRole('tab', { name: 'Card' }).click()
  await expect(two.getByLabel('Words', { exact: true })).toHaveValue('Nobody knows how many live here.')

  const token = address.split('/').pop()!
  const part = (await api.get<{ layers: { id: string }[] }>(`/open/maps/${token}`)).layers[0]!.id
  const { features } = await api.get<{
    features: { properties: { id: string; label: string; name: string } }[]
  }>(`/open/maps/${token}/layers/${part}/features.geojson`)
  expect(features.map((f) => f.properties.label).sort()).toEqual(['Lower End (LE', 'Über den Höfen (UH'])

  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(new URL(address, baseURL!).pathname)
  await visitor.locator('[data-ready=true]').waitFor()
  const box = (await visitor.getByTestId('map').boundingBox())!
  // The area opens beside the legend, so that its middle is there.
  const [left, right] = [box.x + 292, box.x + box.width - 60]
  await expect(async () => {
    await visitor.mouse.click((left + right) / 2, box.y + box.height / 2 - 10)
    await expect(visitor.getByRole('heading', { name: 'Über den Höfen' })).toBeVisible({ timeout: 2_000 })
  }).toPass({ timeout: 60_000 })
  await expect(visitor.getByText('About 120000 people live here.')).toBeVisible()
  await expect(visitor.getByText('Nobody knows')).toHaveCount(0)
  await expect(visitor.getByText('Women 20 (67 %)')).toBeVisible()
  await expect(visitor.getByText('Men 10 (33 %)')).toBeVisible()
})
