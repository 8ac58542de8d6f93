import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, desk } from './yard'

/*
 * Six written questions become a board: as sentences whose parts are tapped, with a slice made in place, a target with a
 * threshold, shares, two counts apart, a list. Then one part is picked and the others follow, at the desk and for a
 * visitor; then the phone, then the wall.
 */
test('six questions become a board that is used, carried and hung up', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const programme = await made('/programmes', {
    name: `Boards ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const hedges = await made(`/programmes/${programme.id}/layers`, {
    title: 'Hecken',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text' },
      { key: 'kept', label: 'Kept', kind: 'decimal', unit: 'm' },
      {
        key: 'state',
        label: 'State',
        kind: 'one_choice',
        choices: [
          { code: 'new', label: 'Neu' },
          { code: 'old', label: 'Überständig' },
        ],
      },
      { key: 'laid', label: 'Laid on', kind: 'date' },
      { key: 'sound', label: 'Sound', kind: 'yes_no' },
    ],
    rights: { crew: { add: true, see: 'all' }, public: { see: true } },
  })
  for (let i = 0; i < 10; i++)
    await made(`/layers/${hedges.id}/records`, {
      values: {
        code: `H-${i}`,
        ...(i === 9 ? {} : { kept: 100 * (i + 1) }),
        state: i < 7 ? 'new' : 'old',
        laid: `2026-0${1 + (i % 5)}-1${i % 3}`,
        sound: i % 2 === 0,
      },
      geometry: { type: 'Point', coordinates: [-11.68 + i * 0.015, -14.2] },
    })
  const field = (...keys: string[]) => keys.map((key) => ({ layer: hedges.id, key }))
  const questions = [
    ['How many metres are kept?', field('kept')],
    ['How do they stand?', field('state')],
    ['When were they laid?', field('laid')],
    ['Which are sound?', field('sound')],
    ['Which came last?', field('code')],
    ['Who does the work?', []],
  ] as const
  await api.put(`/programmes/${programme.id}/questions`, {
    questions: questions.map(([text, fields], i) => ({ id: `q${i}`, text, note: '', fields, tile: null })),
  })

  const page = await desk(browser)
  const saved = () => expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const region = (name: string, on: Page = page) => on.getByRole('region', { name, exact: true })
  const part = (words: string | RegExp) => page.getByRole('button', { name: words })
  await page.goto(`/desk/p/${programme.id}/publish`)

  await test.step('a board begins with a tile for each question that a field can answer', async () => {
    await page.getByRole('button', { name: 'New board' }).click()
    await expect(page.getByText('5 of 6 answered')).toBeVisible()
    for (const [text] of questions.slice(0, 5)) await expect(region(text)).toBeVisible()
    await page.getByRole('button', { name: /Who does the work/ }).click()
    await expect(page.getByText('No field of the design is tied to this question.')).toBeVisible()
  })

  await test.step('a tile becomes a target in kilometres, with a threshold', async () => {
    await region('How many metres are kept?').click()
    await page.getByLabel('What it shows').selectOption({ label: 'Progress to a target' })
    await part('the mean of Kept: change').click()
    await page.getByLabel('What is told').selectOption({ label: 'sum' })
    await page.getByLabel('In which unit').selectOption({ label: 'km' })
    await page.keyboard.press('Escape')
    await part('100: change').click()
    await page.getByLabel('Target').fill('0')
    await expect(page.getByText('Give a number above nought.')).toBeVisible()
    await page.getByLabel('Target').fill('6')
    await page.getByRole('button', { name: 'Add a value that means something' }).click()
    await page.getByLabel('From', { exact: true }).fill('4,5')
    await page.getByLabel('What that means').fill('für das Jahr genug')
    await page.keyboard.press('Escape')
    await expect(region('How many metres are kept?')).toContainText('4.5 km')
    await expect(region('How many metres are kept?')).toContainText('of 6 km')
    await expect(region('How many metres are kept?')).toContainText('für das Jahr genug')
    await expect(region('How many metres are kept?')).toContainText('10 records · 1 without a value')
    await saved()
  })

  await test.step('a slice is made in place, with its count as one builds', async () => {
    await region('How do they stand?').click()
    await part('all of them: change').click()
    await page.getByLabel('Of which records').selectOption({ label: 'A new slice…' })
    const rule = page.getByRole('dialog').filter({ has: page.getByLabel('What it is about') })
    await rule.getByLabel('What it is about').selectOption({ label: 'Laid on' })
    await rule.getByLabel('Comparison').selectOption({ label: 'is on or before' })
    await rule.getByLabel('Value').fill('2026-03-31')
    await expect(rule.getByRole('status')).toContainText('6 records of 10')
    await rule.getByRole('button', { name: 'Save this slice' }).click()
    await expect(rule).toHaveCount(0)
    await page.keyboard.press('Escape')
    await expect(region('How do they stand?')).toContainText('6 records')
  })

  await test.step('picked in one, followed by the others; let go, all is back', async () => {
    await saved()
    await page.getByRole('button', { name: 'Use', exact: true }).click()
    const sound = region('Which are sound?')
    await sound.getByRole('button', { name: /^no/ }).click()
    await expect(page.getByText('Which are sound?: no')).toBeVisible()
    await expect(region('How many metres are kept?')).toContainText('2 km')
    // The tile itself goes on telling of all, so that another can be picked.
    await expect(sound).toContainText('5 · 50 %')
    await expect(page).toHaveURL(/pick\./)
    await page.reload()
    await page.getByRole('button', { name: 'Use', exact: true }).click()
    await expect(region('How many metres are kept?')).toContainText('2 km')
    await page.getByRole('button', { name: 'Show all again' }).click()
    await expect(region('How many metres are kept?')).toContainText('4.5 km')
    await expect(page).not.toHaveURL(/pick\./)
  })

  await test.step('a tile is moved by keys, and left out on phones', async () => {
    await page.getByRole('button', { name: 'Arrange', exact: true }).click()
    const before = await region('Which came last?').boundingBox()
    await page.getByRole('button', { name: 'Move “Which came last?”' }).press('ArrowRight')
    await expect(async () => {
      const now = await region('Which came last?').boundingBox()
      expect(now!.x !== before!.x || now!.y !== before!.y).toBe(true)
    }).toPass()
    await region('When were they laid?').click({ position: { x: 20, y: 20 } })
    await page.getByLabel('Show it on phones').uncheck()
    await saved()
    // Taken off by mistake, and put back.
    await page.getByRole('button', { name: 'Remove this tile' }).click()
    await expect(region('When were they laid?')).toHaveCount(0)
    await page.getByRole('button', { name: 'Put it back' }).click()
    await expect(region('When were they laid?')).toBeVisible()
    await page.getByRole('button', { name: 'Phone', exact: true }).click()
    await expect(region('Which are sound?')).toBeVisible()
    await expect(region('When were they laid?')).toHaveCount(0)
    const order = () =>
      page
        .locator('section[aria-label]')
        .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')))
    const stood = await order()
    const at = stood.indexOf('Which came last?')
    await page.getByRole('button', { name: 'Move Which came last? up' }).click()
    await expect.poll(async () => (await order()).indexOf('Which came last?')).toBe(at - 1)
    await saved()
  })

  await test.step('a visitor picks only when that is opened', async () => {
    await page.getByLabel('Anyone with the link').check()
    const address = (await page.getByTestId('address').textContent())!
    const visitor = await (await browser.newContext()).newPage()
    await visitor.goto(address)
    await expect(region('Which are sound?', visitor)).toContainText('5 · 50 %')
    await expect(visitor.getByRole('button', { name: /^no/ })).toHaveCount(0)
    await page.getByLabel(/Whoever has the link can pick/).check()
    await expect(visitor.getByRole('button', { name: /^no/ })).toBeVisible({ timeout: 10_000 })
    await visitor.getByRole('button', { name: /^no/ }).click()
    await expect(region('How many metres are kept?', visitor)).toContainText('2 km')
    // Without a network nothing is said to follow that does not; with it again it does.
    await visitor.context().setOffline(true)
    await visitor.getByRole('button', { name: /^yes/ }).click()
    await expect(visitor.getByText('No connection: the tiles still show what was before.')).toBeVisible()
    await expect(region('How many metres are kept?', visitor)).toContainText('2 km')
    await visitor.context().setOffline(false)
    await expect(region('How many metres are kept?', visitor)).toContainText('2.5 km', { timeout: 10_000 })
    await visitor.getByRole('button', { name: /^no/ }).click()
    await expect(region('How many metres are kept?', visitor)).toContainText('2 km')
    // A phone is narrow: one below the other, nothing beside it.
    await visitor.setViewportSize({ width: 390, height: 844 })
    await expect(region('When were they laid?', visitor)).toHaveCount(0)
    expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    // What has come meanwhile is told within seconds, and marked.
    await made(`/layers/${hedges.id}/records`, {
      values: { code: 'NEU-1', kept: 1000, state: 'new', sound: false },
      geometry: { type: 'Point', coordinates: [-11.6, -14.2] },
    })
    await expect(region('How many metres are kept?', visitor)).toContainText('3 km', { timeout: 10_000 })
    await visitor.close()
  })

  await test.step('on the wall it fills the window, and Escape leaves it', async () => {
    await page.getByRole('link', { name: 'Open the board by itself' }).click()
    await page.getByRole('button', { name: 'Wall mode' }).click()
    const wall = page.getByRole('dialog', { name: /for the wall/ })
    await expect(wall.getByRole('region', { name: 'Which are sound?' })).toBeVisible()
    await expect(wall.getByRole('button', { name: /^no/ })).toHaveCount(0)
    await page.keyboard.press('Escape')
    await expect(wall).toHaveCount(0)
  })

  await test.step('a tile leads to the very records that it is of', async () => {
    await page.getByRole('button', { name: 'What to do with “How do they stand?”' }).click()
    await page.getByRole('menuitem', { name: 'The records behind it' }).click()
    await expect(page.getByText('6 records, newest first')).toBeVisible()
  })
})
