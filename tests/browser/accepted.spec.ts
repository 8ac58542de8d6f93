import { v7 as uuid } from 'uuid'
import { expect, test } from './test'
import { apiAs, CREW, desk, nestOperation, nestPatrol, ownProgramme } from './yard'

/*
 * What crews bring waits until somebody has looked at it; a map for everyone with the link may show accepted records
 * alone.
 */
test('records wait, are accepted one by one, and only then shown to everyone with the link', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const { request, api, made, programme } = await ownProgramme(playwright, baseURL, 'Accepted')
  const dens = await made(`/programmes/${programme.id}/layers`, {
    title: 'Höhlen',
    geometry: 'point',
    name_field: 'code',
    fields: [{ key: 'code', label: 'Code', kind: 'short_text', required: true }],
    rights: { crew: { add: true, see: 'all' }, public: { see: true } },
  })
  for (const code of ['Ä-1', 'Ä-2', 'Ä-3'])
    await made(`/layers/${dens.id}/records`, {
      values: { code },
      geometry: { type: 'Point', coordinates: [-11.6, -14.2] },
    })
  const map = await made<{ id: number; layers: { id: string }[] }>(`/programmes/${programme.id}/maps`, {
    title: 'Wo',
    layer: dens.id,
  })
  const opened = await request.patch(`/api/v1/maps/${map.id}`, {
    headers: await api.headers(),
    data: { audience: 'link' },
  })
  const shared = (await opened.json()) as { address: string; layers: { id: string }[] }
  const token = shared.address.split('/').pop()
  const shown = async () => {
    const path = `/api/v1/open/maps/${token}/layers/${shared.layers[0]!.id}/features.geojson`
    return ((await (await request.get(path)).json()) as { features: unknown[] }).features.length
  }
  expect(await shown()).toBe(3)

  const page = await desk(browser)
  await test.step('the rule says that records wait', async () => {
    await page.goto(`/desk/p/${programme.id}/publish/seen?layer=${dens.id}&audience=link`)
    const panel = page.getByRole('region', { name: 'Höhlen for everyone with the link' })
    await panel.getByLabel('Only once somebody has accepted them').check()
    await panel.getByRole('button', { name: 'Show it so' }).click()
    await expect(
      page.getByRole('button', { name: /^Höhlen, Everyone with the link: once accepted/ }),
    ).toBeVisible()
    expect(await shown()).toBe(3)
  })
  await test.step('one is to be looked at again, and goes from the map', async () => {
    await page.goto(`/desk/p/${programme.id}/check?layer=${dens.id}`)
    await page.getByRole('gridcell', { name: 'Ä-2', exact: true }).click()
    await page.getByRole('button', { name: 'Check again' }).click()
    await expect(page.getByText('Waits to be checked.')).toBeVisible()
    expect(await shown()).toBe(2)
    await page.getByRole('button', { name: 'To check: 1' }).click()
    await expect(page.getByRole('gridcell', { name: 'Ä-1', exact: true })).toBeHidden()
  })
  await test.step('without a network nothing is accepted, and it is said', async () => {
    await page.route('**/accepted', (route) => route.abort())
    await page.getByRole('button', { name: 'Accept', exact: true }).click()
    await expect(page.getByRole('alert').first()).toBeVisible()
    await expect(page.getByText('Waits to be checked.')).toBeVisible()
    await page.unroute('**/accepted')
    await page.getByRole('button', { name: 'Accept', exact: true }).click()
    await expect(page.getByText('1 record accepted.')).toBeVisible()
    await expect(page.getByText('Nothing waits to be checked here.')).toBeVisible()
    expect(await shown()).toBe(3)
  })
  await test.step('and it can be undone', async () => {
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByText('1 record is to be checked again.')).toBeVisible()
    await expect(page.getByRole('gridcell', { name: 'Ä-2', exact: true })).toBeVisible()
    expect(await shown()).toBe(2)
    await page.getByRole('button', { name: 'Accept all 1' }).click()
    await expect(page.getByText('1 record accepted.')).toBeVisible()
  })
  await test.step('what a crew brings waits, and several are accepted at once', async () => {
    const ines = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), CREW)
    const { programme: demo, layer } = await nestPatrol(ines)
    const codes = [1, 2].map((n) => `AC-${Math.random().toString(36).slice(2, 6)}${n}`)
    const sent = await ines.post('/sync', {
      device: uuid(),
      operations: codes.map((code) => nestOperation(layer, code)),
      cursors: {},
    })
    expect(sent.ok()).toBe(true)
    await page.goto(`/desk/p/${demo}/check?layer=${layer}&to_check=1`)
    for (const code of codes)
      await page.getByRole('row').filter({ hasText: code }).getByRole('checkbox').check()
    await page.getByRole('button', { name: 'Accept 2 records' }).click()
    await expect(page.getByText('2 records accepted.')).toBeVisible()
    for (const code of codes) await expect(page.getByText(code)).toBeHidden()
    // Undone from another layer, it is the same two.
    await page.getByLabel('Layer').selectOption({ label: 'Dawn walks' })
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByText('2 records are to be checked again.')).toBeVisible()
    await page.getByLabel('Layer').selectOption({ label: 'Nests' })
    for (const code of codes) await expect(page.getByText(code)).toBeVisible()
  })
})
