import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * A page of several parts, put together in the editor: a list with photos, a map, the details of what is picked and a form
 * for adding; then used at the desk, on a past day, and by a visitor.
 */
test('a page of a list, a map, details and a form', async ({ browser, playwright, baseURL }) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Parts ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const trees = await made(`/programmes/${programme.id}/layers`, {
    title: 'Bäume',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text', required: true },
      { key: 'girth', label: 'Umfang', kind: 'decimal', unit: 'cm' },
    ],
    photos: { allowed: true, most: 3 },
    rights: { crew: { add: true, see: 'all' }, public: { see: true } },
  })
  for (let i = 0; i < 3; i++)
    await made(`/layers/${trees.id}/records`, {
      values: { code: `Ä-${3 - i}`, girth: 100 + i },
      geometry: { type: 'Point', coordinates: [-11.65 + i * 0.03, -14.2] },
    })
  const at = { layer: trees.id, width: 6, height: 5 }
  const board = await made(`/programmes/${programme.id}/boards`, {
    title: 'Baum für Baum',
    visitors_pick: true,
    audience: 'link',
    tiles: [{ id: 'list', kind: 'number', title: 'Alle', ...at, x: 0, y: 0 }],
  })

  const page = await desk(browser)
  await page.setViewportSize({ width: 1280, height: 1100 })
  const part = (name: string, on = page) => on.getByRole('region', { name, exact: true })

  await test.step('the parts are put together in the editor', async () => {
    await page.goto(`/desk/p/${programme.id}/publish/board/${board.id}`)
    const kind = page.getByLabel('What it shows')
    await part('Alle').click()
    await kind.selectOption({ label: 'List of records' })
    await page.getByRole('button', { name: 'the last collected first: change' }).click()
    await page.getByRole('button', { name: 'by their names' }).click()
    await page.keyboard.press('Escape')
    await page.getByLabel('With photos').check()
    await page.getByLabel('Tell names of records to whoever has the link').check()
    for (const [title, label] of [
      ['Wo', 'Map'],
      ['Der Baum', 'Details of what is picked'],
      ['Noch einer', 'Form for adding'],
    ] as const) {
      await page.getByRole('button', { name: 'Add a tile' }).click()
      await page.keyboard.press('Escape')
      await kind.selectOption({ label })
      await page.getByLabel('Title of the tile').fill(title)
      await expect(part(title).first()).toBeVisible()
    }
    await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  })

  await test.step('a record is picked in the list, and told beside it', async () => {
    await page.goto(`/desk/p/${programme.id}/board/${board.id}`)
    await expect(part('Alle').getByRole('button').filter({ hasText: 'Ä-' })).toHaveText([/Ä-1/, /Ä-2/, /Ä-3/])
    await expect(part('Der Baum')).toContainText('Tap a record of Bäume')
    await part('Alle').getByRole('button', { name: /Ä-2/ }).click()
    await expect(part('Der Baum').getByRole('heading', { name: 'Ä-2' })).toBeVisible()
    await expect(part('Der Baum')).toContainText('101 cm')
    await expect(page).toHaveURL(/show\.list=/)
    await page.reload()
    await expect(part('Der Baum').getByRole('heading', { name: 'Ä-2' })).toBeVisible()
    await part('Der Baum').getByRole('button', { name: 'Let it go' }).click()
    await expect(part('Der Baum')).toContainText('Tap a record of Bäume')
  })

  await test.step('a record is added in the form, and is the one that is told', async () => {
    const form = part('Noch einer')
    await form.getByRole('button', { name: 'Add a record' }).click()
    await form.getByRole('button', { name: 'Save' }).click()
    await expect(form.getByRole('alert')).toBeVisible()
    await form.getByLabel('Place').fill('14.2 S, 11.6 W')
    await form.getByLabel('Code').fill('Ä-4')
    await form.getByLabel('Umfang').fill('77,5')
    await form.getByRole('button', { name: 'Save' }).click()
    await expect(form).toContainText('Added.')
    await expect(part('Der Baum').getByRole('heading', { name: 'Ä-4' })).toBeVisible()
    await expect(part('Der Baum')).toContainText('77.5 cm')
    await expect(part('Alle')).toContainText('Ä-4')
  })

  await test.step('yesterday there was none of it; beside it stands now', async () => {
    const yesterday = new Date(Date.now() - 86_400_000).toISOString().slice(0, 10)
    await page.getByRole('button', { name: 'As it stood' }).click()
    await page.getByLabel('As it stood on').fill(yesterday)
    await expect(page.getByText(/As it stood on .*, by what had arrived/)).toBeVisible()
    await expect(part('Alle')).toContainText('0 records')
    await expect(part('Noch einer')).toContainText('Adding is for people of the programme who may.')
    await page.getByLabel('Beside it').selectOption({ label: 'this board on another day' })
    await page.getByLabel('Of the day').fill('')
    const now = page.getByRole('group', { name: /Alle, .* now/ })
    await expect(now).toContainText('4 records')
    await expect(page.getByRole('group', { name: /^Alle, / }).first()).toContainText('0 records')
    await page.reload()
    await expect(now).toContainText('4 records')
    await page.getByRole('button', { name: 'Back to now' }).click()
    await expect(part('Alle')).toContainText('Ä-4')
  })

  await test.step('a visitor reads details of the list, and writes nothing', async () => {
    const link = (await api.get<{ address: string }>(`/boards/${board.id}`)).address
    const stranger = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
    await stranger.goto(link)
    await part('Alle', stranger).getByRole('button', { name: /Ä-3/ }).click()
    await expect(part('Der Baum', stranger)).toContainText('100 cm')
    await expect(part('Noch einer', stranger)).toContainText('Adding is for people of the programme who may.')
  })
})
