import type { MapView } from '../../resources/ts/shared/types'
import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * A map of several layers: found by search, ordered by keys, labelled, cut to a slice, taken out and put back; a stranger
 * switches them and leafs through what lies in one place. On a phone without signal in gallery.spec.ts.
 */

const square = (lon: number, lat: number, size: number) => ({
  type: 'Polygon',
  coordinates: [
    [
      [lon, lat],
      [lon + size, lat],
      [lon + size, lat + size],
      [lon, lat + size],
      [lon, lat],
    ],
  ],
})

test('a map is made of layers found by search, and a stranger reads them', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const name = `Layers ${Math.random().toString(36).slice(2, 8)}`
  const programme = await made('/programmes', {
    name,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const at = `/programmes/${programme.id}`
  const trees = await made(`${at}/layers`, {
    title: 'Bäume',
    geometry: 'point',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text' },
      {
        key: 'kind',
        label: 'Kind',
        kind: 'one_choice',
        choices: [
          { code: 'A', label: 'Ash' },
          { code: 'E', label: 'Elm' },
        ],
      },
    ],
  })
  const plots = await made(`${at}/layers`, {
    title: 'Plots',
    geometry: 'area',
    fields: [{ key: 'plot', label: 'Plot', kind: 'short_text' }],
  })
  for (const [i, kind] of ['A', 'E', 'E'].entries())
    await made(`/layers/${trees.id}/records`, {
      values: { code: `T-${i}`, kind },
      // Two stand in one place.
      geometry: { type: 'Point', coordinates: i < 2 ? [-11.6, -14.2] : [-11.56, -14.16] },
    })
  await made(`/layers/${plots.id}/records`, {
    values: { plot: 'North' },
    geometry: square(-11.62, -14.22, 0.04),
  })

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  await page.getByRole('menuitem', { name: /Bäume/ }).click()
  const layers = page.getByRole('region', { name: 'Layers' })
  const rows = layers.getByRole('listitem')
  await expect(rows).toHaveCount(1)

  // Found by a word; areas come under points.
  await page.getByRole('button', { name: 'Add a layer' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Find a layer').fill(`plots ${name}`)
  // Other tests have layers of the same name.
  const found = (title: string) => dialog.getByRole('button', { name: `${title} ${name}` })
  await found('Plots').click()
  await expect(found('Plots')).toContainText('on this map already')
  await dialog.getByLabel('Find a layer').fill('nothing is called so')
  await expect(dialog.getByText('No layer fits. Try fewer words.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(rows.nth(0)).toContainText('Bäume')
  await expect(rows.nth(1)).toContainText('Plots')
  await expect(rows.nth(1)).toContainText('1')

  // What was added is open: it gets a label and becomes faint.
  await page.getByRole('tab', { name: 'Labels' }).click()
  await page.getByLabel('Label the records').check()
  await page.getByRole('button', { name: 'Add words' }).click()
  await page.getByLabel('Words', { exact: true }).fill(' plot')
  await page.getByRole('tab', { name: 'Drawing' }).click()
  await page.getByLabel('Called on this map').fill('Where we count')
  const solid = page.getByRole('slider', { name: 'How solid' })
  await solid.focus()
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowLeft')
  await expect(rows.nth(1)).toContainText('Where we count')
  await expect(rows.nth(1)).toContainText('labels, 70 % solid')

  // By keys to the top and back; out, and back where it was.
  await page.getByRole('button', { name: 'Where we count one up' }).click()
  await expect(rows.nth(0)).toContainText('Where we count')
  await page.getByRole('button', { name: 'Where we count one down' }).click()
  await page.getByRole('button', { name: 'Take Where we count out of the map' }).click()
  await expect(rows).toHaveCount(1)
  await expect(page.getByText('Where we count is taken out.')).toBeVisible()
  await page.getByRole('button', { name: 'Put it back' }).click()
  await expect(rows.nth(1)).toContainText('Where we count')

  // The trees twice: all of them, and the elms alone, which are off at first.
  await page.getByRole('button', { name: 'Add a layer' }).click()
  await found('Bäume').click()
  await dialog.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('tab', { name: 'Drawing' }).click()
  await page.getByLabel('Which records').selectOption({ label: 'A new slice…' })
  const builder = page.getByRole('dialog')
  await builder.getByLabel('What it is about').selectOption({ label: 'Kind' })
  await builder.getByLabel('Value', { exact: true }).selectOption({ label: 'Elm' })
  await expect(builder.getByRole('status')).toContainText('2 records of 3')
  await builder.getByRole('button', { name: 'Save this slice' }).click()
  await expect(rows.nth(0)).toContainText('Kind: Elm')
  await expect(rows.nth(0)).toContainText('2')
  await page.getByRole('button', { name: 'Show Bäume when the map opens' }).first().click()

  await page.getByLabel('Title').fill('Trees and plots')
  await page.getByLabel('About this map').fill('Counted in June.')
  await page.getByLabel('Anyone with the link').check()
  const address = (await page.getByTestId('address').textContent())!
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.reload()
  await expect(rows).toHaveCount(3)
  await expect(rows.nth(2)).toContainText('Where we count')

  const visitor = await (await browser.newContext()).newPage()
  const asked: string[] = []
  visitor.on('request', (r) => {
    if (r.url().includes('features.geojson')) asked.push(r.url())
  })
  await visitor.goto(new URL(address, baseURL!).pathname)
  const legend = visitor.getByRole('complementary', { name: 'Legend' })
  await expect(legend).toContainText('Counted in June.')
  await expect(legend.getByRole('checkbox', { name: 'Show Bäume: Kind: Elm' })).not.toBeChecked()
  await visitor.locator('[data-ready=true]').waitFor()
  // What is off is not fetched before somebody wants to see it.
  await expect.poll(() => asked.length).toBe(2)
  // Without a network it says why nothing comes, and it comes when the network is back.
  await visitor.context().setOffline(true)
  await legend.getByRole('checkbox', { name: 'Show Bäume: Kind: Elm' }).check()
  await expect(legend.getByText('The server cannot be reached just now.')).toBeVisible()
  await visitor.context().setOffline(false)
  await expect(legend.getByText('The server cannot be reached just now.')).toHaveCount(0)
  await expect.poll(() => asked.length).toBeGreaterThanOrEqual(3)
  await legend.getByRole('checkbox', { name: 'Show Bäume: Kind: Elm' }).uncheck()

  // Two trees and the plot lie under one tap.
  const view = (await (
    await visitor.request.get(`/api/v1/open/maps/${address.split('/').pop()}`)
  ).json()) as MapView
  expect(view.layers.map((l) => [l.title, l.slice, l.total])).toEqual([
    ['Bäume', 'Kind: Elm', 2],
    ['Bäume', null, 3],
    ['Where we count', null, 1],
  ])
  const box = (await visitor.getByTestId('map').boundingBox())!
  // The area opens beside the legend.
  const [left, right] = [box.x + 292, box.x + box.width - 60]
  const spot = { x: (left + right) / 2, y: box.y + box.height / 2 }
  await expect(async () => {
    await visitor.mouse.click(spot.x, spot.y)
    await expect(visitor.getByText('1 of 3 here')).toBeVisible({ timeout: 2_000 })
  }).toPass({ timeout: 60_000 })
  const names = []
  for (let i = 1; i <= 3; i++) {
    await expect(visitor.getByText(`${i} of 3 here`)).toBeVisible()
    names.push(await visitor.getByRole('heading', { level: 2 }).first().textContent())
    await visitor.getByRole('button', { name: 'Next one' }).click()
  }
  expect(names.sort()).toEqual(['North', 'T-0', 'T-1'])
})

test('a layer that goes leaves a note, and the map goes on', async ({ browser, playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Gone ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const layer = (title: string) =>
    made(`/programmes/${programme.id}/layers`, {
      title,
      geometry: 'point',
      fields: [{ key: 'code', label: 'Code', kind: 'short_text' }],
    })
  const [a, b] = [await layer('Stays'), await layer('Goes')]
  const map = await made<{ id: number; address: string }>(`/programmes/${programme.id}/maps`, {
    title: 'Both',
    audience: 'link',
    layers: [{ layer: a.id }, { layer: b.id }],
  })
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/publish/map/${map.id}`)
  const rows = page.getByRole('region', { name: 'Layers' }).getByRole('listitem')
  await expect(rows).toHaveCount(2)
  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(map.address)
  const legend = visitor.getByRole('complementary', { name: 'Legend' })
  await expect(legend).toContainText('Goes')
  // Thrown away while both look at it.
  await api.post('/things', { things: [{ kind: 'layer', id: b.id }], action: 'bin', with: null })
  await expect(page.getByText(/“Goes” lies in the bin/)).toBeVisible()
  await expect(rows.nth(1)).toContainText('in the bin, or no more')
  await expect(legend).toContainText('One layer of this map cannot be shown.')
  await expect(legend).not.toContainText('Goes')
  await rows.nth(1).getByRole('button').first().click()
  await page.getByRole('button', { name: 'Take Goes out of the map' }).click()
  await expect(page.getByText(/“Goes” lies in the bin/)).toHaveCount(0)
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
})
