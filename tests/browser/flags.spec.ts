import { v7 as uuid } from 'uuid'
import { expect, test } from './test'
import { apiAs, desk, nestPatrol, ownProgramme } from './yard'

/*
 * What speaks against records that wait: listed with its reasons, narrowed by whom and when, accepted all the same, and
 * found by rules that a coordinator says.
 */
test('what is flagged is looked at, decided, and flagged by other rules', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const { api, made, programme } = await ownProgramme(playwright, baseURL, 'Flags')
  const dens = await made(`/programmes/${programme.id}/layers`, {
    title: 'Höhlen',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text', required: true },
      { key: 'seen_on', label: 'Gesehen am', kind: 'date' },
      { key: 'back_on', label: 'Wieder am', kind: 'date' },
    ],
    fix: { warn_above: 15 },
    rights: { crew: { add: true, see: 'all' }, public: { see: false } },
  })
  const ids: Record<string, string> = {}
  let seq = 0
  const found = (code: string, east: number, hoursAgo: number, more: object = {}) => ({
    op: uuid(),
    kind: 'add',
    seq: ++seq,
    layer: dens.id,
    design: 1,
    record: (ids[code] = uuid()),
    captured_at: new Date(Date.now() - hoursAgo * 3_600_000).toISOString(),
    values: { code },
    geometry: { type: 'Point', coordinates: [-11.6 + east, -14.2] },
    fix: { accuracy: 4, at: null },
    photos: [],
    ...more,
  })
  const later = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10)
  const sent = await api.post('/sync', {
    device: uuid(),
    operations: [
      found('Ä-1', 0, 60),
      found('Ä-2', 0.00003, 59),
      found('Ü-3', 0.02, 40, { fix: { accuracy: 31.5, at: null } }),
      found('Ö-4', 0.5, 30),
      found('ß-5', 0.01, 8, { values: { code: 'ß-5', back_on: later } }),
    ],
    cursors: {},
  })
  expect(sent.ok()).toBe(true)
  // What a coordinator brings is accepted with it; here it is to be looked at.
  await api.post(`/layers/${dens.id}/accepted`, {
    accepted: false,
    records: Object.values(ids).map((id) => ({ id, version: 1 })),
  })

  const page = await desk(browser)
  const cell = (code: string) => page.getByRole('gridcell', { name: code, exact: true })
  await test.step('the list says how many and why, and each its reasons', async () => {
    await page.goto(`/desk/p/${programme.id}/check?layer=${dens.id}`)
    await page.getByRole('button', { name: 'Flagged: 4' }).click()
    await expect(cell('Ä-1')).toBeHidden()
    for (const code of ['Ä-2', 'Ü-3', 'Ö-4', 'ß-5']) await expect(cell(code)).toBeVisible()
    await page.getByRole('button', { name: 'Double? 1' }).click()
    await expect(cell('Ü-3')).toBeHidden()
    await cell('Ä-2').click()
    const reasons = page.getByRole('list', { name: 'What speaks against it' })
    await expect(reasons).toContainText('Ä-1 was collected 3.2 m from here, 60 minutes before.')
    await reasons.getByRole('button', { name: 'Look at that one' }).click()
    await expect(page.getByRole('heading', { name: 'Ä-1' })).toBeVisible()
    await expect(reasons).toBeHidden()
  })
  await test.step('accepted, it stands all the same; undone, it is flagged again', async () => {
    await cell('Ä-2').click()
    await page.getByRole('button', { name: 'Accept', exact: true }).dblclick()
    await expect(page.getByText('1 record accepted.')).toBeVisible()
    await expect(page.getByText('Nothing speaks against what waits here.')).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(cell('Ä-2')).toBeVisible()
    await page.getByRole('button', { name: 'Any reason' }).click()
    await expect(cell('ß-5')).toBeVisible()
  })
  await test.step('it is flagged by what a coordinator says; what cannot be is refused with its reason', async () => {
    await page.getByRole('button', { name: 'What is flagged' }).click()
    const dialog = page.getByRole('dialog', { name: 'What is flagged in Höhlen' })
    const metres = dialog.getByRole('spinbutton', { name: 'A fix poorer than' })
    await metres.fill('')
    await dialog.getByRole('button', { name: 'Flag by that' }).click()
    await expect(dialog.getByRole('alert')).toContainText('10')
    await metres.fill('40')
    await dialog.getByLabel('Wieder am').uncheck()
    // A tap beside it takes nothing of that.
    await page.mouse.click(4, 400)
    await expect(metres).toHaveValue('40')
    // Nobody is there, and nothing of it is lost.
    await page.route('**/flags', (route) =>
      route.request().method() === 'PUT' ? route.abort() : route.continue(),
    )
    await dialog.getByRole('button', { name: 'Flag by that' }).click()
    await expect(dialog.getByRole('alert')).toBeVisible()
    await page.unroute('**/flags')
    await dialog.getByRole('button', { name: 'Flag by that' }).click()
    await expect(dialog).toBeHidden()
    await expect(page.getByRole('button', { name: 'Flagged: 2' })).toBeVisible()
    await expect(cell('Ü-3')).toBeHidden()
    await expect(cell('ß-5')).toBeHidden()
    // The next who opens it finds what was said, and the way back.
    await page.getByRole('button', { name: 'What is flagged' }).click()
    await expect(dialog.getByRole('spinbutton', { name: 'A fix poorer than' })).toHaveValue('40')
    await dialog.getByRole('button', { name: 'As usual' }).click()
    await expect(dialog.getByRole('spinbutton', { name: 'A fix poorer than' })).toHaveValue('15')
    await dialog.getByRole('button', { name: 'Cancel' }).click()
    await expect(page.getByRole('button', { name: 'Flagged: 2' })).toBeVisible()
  })
  await test.step('the list is narrowed to days, and all of that accepted at once', async () => {
    await page.getByRole('button', { name: 'To check: 5' }).click()
    await page.getByLabel('Collected', { exact: true }).selectOption({ label: 'On one day …' })
    // Until a day is chosen nothing is narrowed.
    await expect(cell('ß-5')).toBeVisible()
    await page
      .getByLabel('On which day')
      .fill(new Date(Date.now() - 40 * 3_600_000).toISOString().slice(0, 10))
    await expect(cell('Ü-3')).toBeVisible()
    await expect(cell('ß-5')).toBeHidden()
    await page.getByLabel('On which day').fill('2020-02-29')
    await expect(page.getByText('Nothing of that is here.')).toBeVisible()
    await page.getByLabel('Collected', { exact: true }).selectOption({ label: 'In the last 7 days' })
    await page.getByRole('button', { name: 'Accept all 5' }).click()
    await expect(page.getByText('5 records accepted.')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Flagged: 0' })).toBeVisible()
  })
  await test.step('in a window 820 pixels wide it all has room', async () => {
    await page.setViewportSize({ width: 820, height: 1100 })
    await page.getByRole('button', { name: 'Flagged: 0' }).click()
    await page.getByRole('button', { name: 'What is flagged' }).click()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(820)
    await page.keyboard.press('Escape')
  })
})

test('the list is narrowed to what a crew, or an outing, brought', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { programme, layer } = await nestPatrol(api)
  const outings = await api.get<
    { id: number; title: string; crew: number | null; from: string; to: string }[]
  >(`/programmes/${programme}/outings`)
  const outing = outings.find((o) => o.crew !== null)!
  const page = await desk(browser)
  const asked = page.waitForResponse((r) => r.url().includes(`/layers/${layer}/records?`))
  await page.goto(`/desk/p/${programme}/check?layer=${layer}&to_check=1`)
  await asked
  const narrowed = async (name: string) => {
    const answer = page.waitForResponse((r) => r.url().includes(`/layers/${layer}/records?`))
    await page.getByLabel('Made by').selectOption({ label: name })
    return (await (await answer).json()) as {
      total: number
      records: { author: string; collected_at: string }[]
    }
  }
  await page.getByRole('button', { name: 'All', exact: true }).click()
  const crew = await narrowed('Sanderling')
  expect(crew.records.length).toBeGreaterThan(0)
  // Other tests bring many as one of the two, so the other may be on a later page.
  for (const { author } of crew.records) expect(['Ines Calder', 'Tomas Wray']).toContain(author)
  const out = await narrowed(outing.title)
  for (const record of out.records) {
    // Days are the programme's, which keeps the time of Greenwich.
    expect(record.collected_at.slice(0, 10) >= outing.from).toBe(true)
    expect(record.collected_at.slice(0, 10) <= outing.to).toBe(true)
  }
  await page.getByLabel('Made by').selectOption({ label: 'Made by anyone' })
  await expect(page.getByText(/records, newest first/)).not.toHaveText(`${out.total} records, newest first`)
})
