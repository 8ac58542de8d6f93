import { expect, test } from './test'
import { desk, ownProgramme } from './yard'

/*
 * A nest must not be found by whoever has a link, and still the map is public: the coordinator says under "Who sees what"
 * what everyone sees of a layer, and a stranger looks.
 */
test('places are blurred for everyone with the link, fields hidden, and a layer that is closed is caught', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const { request, api, made, programme } = await ownProgramme(playwright, baseURL, 'Seen')
  const dens = await made(`/programmes/${programme.id}/layers`, {
    title: 'Höhlen',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text', required: true },
      { key: 'pups', label: 'Welpen', kind: 'whole_number' },
    ],
    rights: { crew: { add: true, see: 'all' }, public: { see: false } },
  })
  const places = [-11.65, -11.62, -11.58].map((lon, i) => [lon, -14.2 - i * 0.01])
  for (const [i, coordinates] of places.entries())
    await made(`/layers/${dens.id}/records`, {
      values: { code: `GEHEIM-${i}`, pups: i },
      geometry: { type: 'Point', coordinates },
    })
  const map = await made(`/programmes/${programme.id}/maps`, { title: 'Wo die Höhlen sind', layer: dens.id })
  const opened = await request.patch(`/api/v1/maps/${map.id}`, {
    headers: await api.headers(),
    data: { audience: 'link' },
  })
  const shared = (await opened.json()) as { address: string }

  const page = await desk(browser)
  const panel = page.getByRole('region', { name: 'Höhlen for everyone with the link' })
  await test.step('what is open with a closed layer is caught, and opened carefully', async () => {
    await page.goto(`/desk/p/${programme.id}/publish`)
    await page.getByRole('link', { name: 'Layers, and what is told of them' }).click()
    await expect(page.getByText('Everyone with the link does not see Höhlen.')).toBeVisible()
    await page.getByRole('button', { name: 'Open Höhlen' }).click()
    await panel.getByLabel('Which records').selectOption({ label: 'all of them' })
    await expect(panel.getByRole('button', { name: 'blurred' })).toHaveAttribute('aria-pressed', 'true')
    await expect(panel.getByText(/its square, \d+ to \d+ m/)).toBeVisible()
    await panel.getByLabel('all fields, also those to come').uncheck()
    await panel.getByLabel('Code').uncheck()
    await expect(page.getByText('not saved')).toBeVisible()
  })
  await test.step('what was begun is there after a reload, and nothing was told of it', async () => {
    const asked = await api.get<{ layers: { rules: { link: { rows: string } } }[] }>(
      `/programmes/${programme.id}/audiences`,
    )
    expect(asked.layers[0]!.rules.link.rows).toBe('none')
    await page.waitForTimeout(400)
    await page.reload()
    await expect(panel.getByLabel('Code')).not.toBeChecked()
    // Sides of three metres are refused before anybody is asked.
    await panel.getByLabel('Squares with sides of at least').fill('3')
    await expect(panel.getByRole('button', { name: 'Show it so' })).toBeDisabled()
    await panel.getByLabel('Squares with sides of at least').fill('400')
  })
  await test.step('without a network it says so, and saves when it is back', async () => {
    await page.context().setOffline(true)
    await panel.getByRole('button', { name: 'Show it so' }).click()
    await expect(panel.getByRole('alert')).toBeVisible()
    await page.context().setOffline(false)
    let saves = 0
    page.on('request', (r) => void (saves += r.method() === 'PUT' ? 1 : 0))
    await panel.getByRole('button', { name: 'Show it so' }).dblclick()
    await expect(
      page.getByRole('button', { name: 'Höhlen, everyone with the link: blurred to 400 m , 1 of 2 fields' }),
    ).toBeVisible()
    await expect(page.getByText('Shown to more people than its layers')).toHaveCount(0)
    expect(saves).toBe(1)
    await expect(panel.getByRole('alert')).toHaveCount(0)
  })
  await test.step('a stranger sees the map, and finds no den', async () => {
    const stranger = await browser.newContext()
    const visitor = await stranger.newPage()
    const features = visitor.waitForResponse((r) => r.url().includes('features.geojson'))
    await visitor.goto(shared.address)
    const told = (await (await features).json()) as { features: { geometry: { coordinates: number[] } }[] }
    expect(told.features).toHaveLength(3)
    for (const f of told.features) {
      const [lon = 0, lat = 0] = f.geometry.coordinates
      for (const [x = 0, y = 0] of places) expect(Math.hypot(lon - x, lat - y)).toBeGreaterThan(0.00002)
      expect(Math.min(...places.map(([x = 0, y = 0]) => Math.hypot(lon - x, lat - y)))).toBeLessThan(0.02)
    }
    expect(JSON.stringify(told)).not.toContain('GEHEIM')
    await expect(
      visitor.getByText(/“Höhlen”: each record stands somewhere in a square of/).first(),
    ).toBeVisible()
    await stranger.close()
  })
  await test.step('only the area that a den lies in is told, and one that lies in none has no place', async () => {
    const wards = await made(`/programmes/${programme.id}/layers`, {
      title: 'Bezirke',
      geometry: 'area',
      fields: [],
    })
    const ring = [-11.7, -11.6].flatMap((lon, i) => [
      [lon, i ? -14.1 : -14.3],
      [lon, i ? -14.3 : -14.1],
    ])
    await made(`/layers/${wards.id}/records`, {
      values: {},
      geometry: { type: 'Polygon', coordinates: [[...ring, ring[0]]] },
    })
    await page.reload()
    await page.getByRole('button', { name: /^Höhlen, everyone with the link/i }).click()
    await panel.getByRole('button', { name: 'only its area' }).click()
    await expect(panel.getByLabel('Areas of')).toHaveValue(String(wards.id))
    await expect(panel.getByText('■ its area')).toBeVisible()
    await panel.getByRole('button', { name: 'Show it so' }).click()
    await expect(
      page.getByRole('button', {
        name: 'Höhlen, everyone with the link: only the area of Bezirke , 1 of 2 fields',
      }),
    ).toBeVisible()
    const stranger = await browser.newContext()
    const visitor = await stranger.newPage()
    const features = visitor.waitForResponse((r) => r.url().includes('features.geojson'))
    await visitor.goto(shared.address)
    const told = (await (await features).json()) as { features: { geometry: { coordinates: number[] } }[] }
    expect(told.features).toHaveLength(2)
    for (const f of told.features) expect(f.geometry.coordinates[0]).toBeLessThan(-11.6)
    await expect(
      visitor.getByText(/“Höhlen”: each record stands somewhere in the area that it lies in/).first(),
    ).toBeVisible()
    await stranger.close()
  })
  await test.step('told in numbers only, a board says how many there are, and nothing shows one', async () => {
    const board = await made<{ id: number; address: string }>(`/programmes/${programme.id}/boards`, {
      title: 'Zahlen',
      audience: 'link',
      tiles: [
        { id: 'a', kind: 'number', title: 'Alle', layer: dens.id, width: 6, height: 2 },
        {
          id: 'b',
          kind: 'breakdown',
          title: 'Welpen',
          layer: dens.id,
          by: { field: 'pups' },
          width: 6,
          height: 3,
        },
        { id: 'c', kind: 'latest', title: 'Liste', layer: dens.id, width: 6, height: 3, names: true },
      ],
    })
    await page.getByRole('button', { name: /^Höhlen, everyone with the link/i }).click()
    await panel.getByRole('button', { name: 'in numbers only' }).click()
    await panel.getByLabel('Each number of at least so many records').fill('2')
    await expect(panel.getByRole('button', { name: 'Show it so' })).toBeDisabled()
    await panel.getByLabel('Each number of at least so many records').fill('3')
    await panel.getByLabel('all fields, also those to come').check()
    await panel.getByRole('button', { name: 'Show it so' }).click()
    await expect(
      page.getByRole('button', { name: 'Höhlen, everyone with the link: numbers from 3' }),
    ).toBeVisible()
    const stranger = await browser.newContext()
    const visitor = await stranger.newPage()
    const answer = visitor.waitForResponse((r) => r.url().includes('/open/boards/'))
    await visitor.goto(board.address)
    await expect(visitor.getByTestId('number-a')).toHaveText('3')
    await expect(visitor.getByText('Too few records to tell groups apart')).toBeVisible()
    await expect(visitor.getByText('What this reads is not open to you.')).toBeVisible()
    expect(await (await answer).text()).not.toContain('GEHEIM')
    // The map has nothing to show any more, and that is caught where it is made.
    await page.goto(`/desk/p/${programme.id}/publish/map/${map.id}`)
    await expect(page.getByText('Everyone with the link does not see Höhlen.')).toBeVisible()
    await stranger.close()
  })
  await test.step('crews now are told to everyone, when that was saved', async () => {
    await page.goto(`/desk/p/${programme.id}/publish/seen`)
    const cell = page.getByRole('button', { name: 'Crews now, everyone with the link: nothing' })
    await cell.click()
    const work = page.getByRole('region', { name: 'Crews now for everyone with the link' })
    await work.getByRole('button', { name: 'of all crews' }).click()
    await expect(cell).toBeVisible()
    await work.getByRole('button', { name: 'Tell it so' }).click()
    await expect(
      page.getByRole('button', { name: 'Crews now, everyone with the link: of all crews' }),
    ).toBeVisible()
    await page.goto(`/desk/p/${programme.id}/publish/map/${map.id}`)
  })
  await test.step('a map is shown to guests alone, and its link leads nowhere', async () => {
    await page.getByRole('radio', { name: 'Some of the programme' }).click()
    // Nothing is saved before it is said to whom.
    await page.getByRole('checkbox', { name: 'Guests' }).click()
    await expect(page.getByRole('checkbox', { name: 'Guests' })).toBeDisabled()
    await expect(page.getByText('Everyone with the link does not see Höhlen.')).toHaveCount(0)
    const stranger = await browser.newContext()
    const visitor = await stranger.newPage()
    const gone = visitor.waitForResponse((r) => r.url().includes('/api/v1/open/maps/'))
    await visitor.goto(shared.address)
    expect((await gone).status()).toBe(404)
    await stranger.close()
  })
  await page.close()
})
