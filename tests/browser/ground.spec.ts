import { measure, shapeOf, type Place } from '../../resources/ts/shared/form/geodesic'
import { expect, test } from './test'
import { apiAs, BEACH, desk, PHONE, signIn } from './yard'

/** Lines, areas, altitude, files and visits: drawn and made at the desk and on a phone without signal. */

const COPSE: Place[] = [
  [-11.66, -14.17],
  [-11.655, -14.17],
  [-11.655, -14.166],
  [-11.66, -14.166],
]

test('the phone measures shapes as the server does', async ({ playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const programme = (await (
    await api.post('/programmes', {
      name: `Ground ${Date.now()}`,
      time_zone: 'UTC',
      area: [-12, -15, -11, -14],
    })
  ).json()) as { id: number }
  for (const [kind, corners] of [
    ['line', COPSE],
    ['area', COPSE],
    [
      'area',
      [
        [179.9, -1],
        [-179.9, -1],
        [-179.9, 1.3],
        [179.95, 0.4],
      ],
    ],
    [
      'area',
      [
        [0, 0],
        [3, 0],
        [3, 3],
        [2, 3],
        [2, 1],
        [1, 1],
        [1, 3],
        [0, 3],
      ],
    ],
  ] as ['line' | 'area', Place[]][]) {
    const layer = (await (
      await api.post(`/programmes/${programme.id}/layers`, {
        title: `Shapes ${Math.random()}`,
        geometry: kind,
        fields: [
          { key: 'm', label: 'M', kind: 'calculated', formula: 'line_length()' },
          { key: 'a', label: 'A', kind: 'calculated', formula: 'area_size()' },
          { key: 'x', label: 'X', kind: 'calculated', formula: 'longitude()' },
          { key: 'y', label: 'Y', kind: 'calculated', formula: 'latitude()' },
        ],
      })
    ).json()) as { id: number }
    const made = (await (
      await api.post(`/layers/${layer.id}/records`, { values: {}, geometry: shapeOf(kind, corners) })
    ).json()) as { values: Record<string, number | null> }
    const here = measure(shapeOf(kind, corners))
    expect(here.length).toBeCloseTo(made.values.m!, 5)
    if (kind === 'area')
      expect(Math.abs(here.area! - made.values.a!)).toBeLessThan(Math.max(0.01, made.values.a! * 1e-9))
    expect([here.lon, here.lat].map((n) => n!.toFixed(7))).toEqual([
      made.values.x!.toFixed(7),
      made.values.y!.toFixed(7),
    ])
  }
})

test('an area is drawn at the desk, by typed corners and on the map, and moved by keys', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const programme = (await (
    await api.post('/programmes', {
      name: `Plots ${Date.now()}`,
      time_zone: 'UTC',
      area: [-11.7, -14.2, -11.6, -14.1],
    })
  ).json()) as { id: number }
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/build/new`)
  await page.getByLabel('Title').fill('Plots')
  await page.getByRole('button', { name: 'An area' }).click()
  await page.getByRole('button', { name: 'Next: fields' }).click()
  await page.getByRole('button', { name: 'Add a field' }).click()
  await page.getByRole('menuitem', { name: 'Short text' }).click()
  await page.getByLabel('Label', { exact: true }).fill('Plot')
  await page.getByRole('button', { name: 'Place', exact: true }).click()
  await page.getByLabel('Records carry an altitude').check()
  await page.getByRole('button', { name: 'feet' }).click()
  await page.getByRole('button', { name: 'Make the layer' }).click()
  await expect(page.getByText('design 1, in use')).toBeVisible()
  await page.getByRole('link', { name: /^Check/ }).click()
  await page.getByRole('button', { name: 'Add a record' }).click()
  const outline = page.getByLabel('Outline of the area')
  for (const place of ['-14.17 -11.66', '-14.17 -11.655', '14°09\'57.6"S 11°39\'18"W']) {
    await outline.fill(place)
    await outline.press('Enter')
    await expect(outline).toHaveValue('')
  }
  await expect(page.getByText(/^3 corners ·/)).toBeVisible()
  // The fourth by a tap beside the others: the triangle becomes a quadrilateral.
  await page
    .getByTestId('map')
    .and(page.locator('[data-ready=true]'))
    .click({ position: { x: 60, y: 60 } })
  await expect(page.getByText(/^4 corners ·/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo corner' }).click()
  const before = await page.getByText(/^3 corners ·/).textContent()
  await page.getByRole('button', { name: 'Corner 1', exact: true }).focus()
  await page.keyboard.press('Shift+ArrowLeft')
  await expect(page.getByText(/^3 corners ·/)).not.toHaveText(before!)
  await expect(page.getByRole('button', { name: 'Corner 1', exact: true })).toBeFocused()
  await page.getByLabel('Plot').fill('P-1')
  await page.getByLabel('Altitude').fill('100')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'P-1' })).toBeVisible()
  await expect(page.getByText('100 ft')).toBeVisible()
  await expect(page.getByText(/ha$/)).toBeVisible()
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByRole('button', { name: 'Corner 3', exact: true }).focus()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  // Two corners are no area: the outline stays what it was until it is drawn again, and that is said.
  await expect(page.getByText(/^2 corners/)).toHaveCount(0)
})

test('lines, files and visits are made without signal, and all of them arrive', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const programme = (await (
    await api.post('/programmes', {
      name: `Walks ${Date.now()}`,
      time_zone: 'Atlantic/St_Helena',
      area: [-11.7, -14.2, -11.6, -14.1],
    })
  ).json()) as { id: number }
  const title = { key: 'name', label: 'Name', kind: 'short_text', required: true }
  await api.post(`/programmes/${programme.id}/layers`, {
    title: 'Paths',
    geometry: 'line',
    fields: [title, { key: 'm', label: 'Metres', kind: 'calculated', formula: 'round(line_length())' }],
  })
  const wells = (await (
    await api.post(`/programmes/${programme.id}/layers`, {
      title: 'Wells',
      geometry: 'point',
      fields: [title],
      altitude: { unit: 'm' },
      slots: [
        { key: 'permit', label: 'Permit', kind: 'pdf' },
        { key: 'pump', label: 'Sound of the pump', kind: 'audio' },
      ],
    })
  ).json()) as { id: number; design: Record<string, unknown> & { fields: unknown[] } }
  await api.post(`/programmes/${programme.id}/layers`, {
    title: 'Well visits',
    geometry: 'point',
    visits_of: 'Wells',
    fields: [{ key: 'depth', label: 'Depth', kind: 'decimal', unit: 'm' }],
  })
  const fields = [
    ...wells.design.fields,
    { key: 'seen', label: 'Visits', kind: 'calculated', formula: 'visits()' },
    { key: 'last', label: 'Last depth', kind: 'calculated', formula: 'latest_visit("depth")' },
  ]
  const page = await desk(browser)
  const put = await page.evaluate(
    async ([layer, design]) => {
      const token = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? '')
      return (
        await fetch(`/api/v1/layers/${layer as number}/design`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json', 'X-XSRF-TOKEN': token, Accept: 'application/json' },
          body: JSON.stringify({ base: 1, design }),
        })
      ).status
    },
    [wells.id, { ...wells.design, fields }] as const,
  )
  expect(put).toBe(200)

  const context = await browser.newContext(PHONE)
  const phone = await context.newPage()
  await signIn(phone, 'mara@example.test', '/field')
  await phone
    .locator('.MuiPaper-root', { has: phone.getByRole('heading', { name: /^Walks/ }) })
    .getByRole('button', { name: 'Get this pack' })
    .click()
  await expect(phone.getByRole('button', { name: /Add to Wells/ })).toBeEnabled()
  await phone.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await context.setOffline(true)

  await test.step('a line, corner by corner', async () => {
    await phone.getByLabel('Layer', { exact: true }).selectOption({ label: 'Paths' })
    await phone.getByRole('button', { name: 'Draw a line: Paths' }).click()
    await phone.getByRole('button', { name: 'Corner where I stand' }).click()
    await context.setGeolocation({ ...BEACH, latitude: BEACH.latitude + 0.001 })
    await expect(async () => {
      await phone.getByRole('button', { name: 'Corner where I stand' }).click()
      await expect(phone.getByText(/· 1\d\d m/)).toBeVisible({ timeout: 2_000 })
    }).toPass()
    // A killed page keeps every corner.
    const corners = await phone.getByText(/corners ·/).textContent()
    await phone.reload()
    await expect(phone.getByText(/corners ·/)).toHaveText(corners!)
    await phone.getByRole('button', { name: 'Go on to the form' }).click()
    await phone.getByLabel('Name').fill('To the well')
    await expect(phone.getByRole('status', { name: 'Metres' })).toHaveText(/^1\d\d$/)
    await phone.getByRole('button', { name: 'Save on this phone' }).click()
  })
  await test.step('a point with an altitude, a PDF and a sound; what is no PDF is refused', async () => {
    await phone.getByLabel('Layer', { exact: true }).selectOption({ label: 'Wells' })
    await phone.getByRole('button', { name: /Add to Wells/ }).click()
    await phone.getByLabel('Name').fill('Well 1')
    await phone.getByLabel('Altitude').fill('12.5')
    const permit = phone.getByLabel('Permit: PDF')
    await permit.setInputFiles({
      name: 'permit.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('no pdf at all'),
    })
    await expect(phone.getByText('“permit.pdf” can’t go into Permit: it takes PDF files.')).toBeVisible()
    await permit.setInputFiles({
      name: 'permit.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('%PDF-1.4\n%%EOF\n'),
    })
    await phone.getByLabel('Sound of the pump: Sound').setInputFiles({
      name: 'pump.wav',
      mimeType: 'audio/wav',
      buffer: Buffer.concat([
        Buffer.from('RIFF'),
        Buffer.from([36, 0, 0, 0]),
        Buffer.from('WAVEfmt '),
        Buffer.alloc(64),
      ]),
    })
    await phone.getByRole('button', { name: 'Save on this phone' }).click()
  })
  await test.step('visits to it, while it has not arrived itself', async () => {
    for (const depth of ['3.5', '3,1']) {
      await phone.getByRole('button', { name: 'List' }).click()
      await phone.getByRole('button', { name: /Well 1/ }).click()
      await phone.getByRole('button', { name: 'Add a visit' }).click()
      await phone.getByLabel('Depth').fill(depth)
      await phone.getByRole('button', { name: 'Save on this phone' }).click()
      await expect(phone.getByRole('heading', { name: 'Well 1' })).toBeVisible()
      await phone.getByLabel('Back').click()
    }
    await phone.getByRole('button', { name: 'List' }).click()
    await phone.getByRole('button', { name: /Well 1/ }).click()
    await expect(phone.getByText('Depth: 3.1 m')).toBeVisible()
    await expect(phone.locator('dt:has-text("Visits") + dd')).toHaveText('2')
    await expect(phone.locator('dt:has-text("Last depth") + dd')).toHaveText('3.1')
    await phone.getByLabel('Back').click()
  })
  await test.step('everything arrives', async () => {
    await expect(phone.getByText(/4 .*to send/).first()).toBeVisible()
    await context.setOffline(false)
    await expect(phone.getByText('On this phone: all sent')).toBeVisible({ timeout: 60_000 })
    await page.goto(`/desk/p/${programme.id}/check?layer=${wells.id}`)
    await page.locator('.MuiDataGrid-row').filter({ hasText: 'Well 1' }).click()
    await expect(page.getByText('Depth: 3.1 m')).toBeVisible()
    await expect(page.getByText('13 m')).toBeVisible()
    const link = page.getByRole('link', { name: 'Open permit.pdf' })
    await expect(link).toBeVisible()
    expect((await page.request.get((await link.getAttribute('href'))!)).headers()['content-type']).toBe(
      'application/pdf',
    )
    await expect(page.getByLabel('pump.wav', { exact: true })).toBeVisible()
  })
  await test.step('a file is taken away at the desk and put back, another is added', async () => {
    await page.getByRole('button', { name: 'Take permit.pdf away' }).click()
    await expect(page.getByRole('link', { name: 'Open permit.pdf' })).toHaveCount(0)
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('link', { name: 'Open permit.pdf' })).toBeVisible()
  })
  await test.step('a visit is added at the desk', async () => {
    await page.getByRole('button', { name: 'Add a visit' }).click()
    await expect(page.getByRole('heading', { name: 'Visit to Well 1' })).toBeVisible()
    await page.getByLabel('Depth').fill('2.9')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText('Depth: 2.9 m')).toBeVisible()
    await expect(page.locator('dt:has-text("Last depth") + dd')).toHaveText('2.9')
  })
  await context.close()
})
