import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, desk, PHONE, signIn } from './yard'

/** Outings, shelves, the bin, search, shared lists and the design sheet, as a coordinator uses them. */

const TREES = {
  title: 'Trees',
  geometry: 'point',
  fields: [
    { key: 'code', label: 'Code', kind: 'short_text', required: true },
    {
      key: 'side',
      label: 'Side',
      kind: 'one_choice',
      choices: [
        { code: 'n', label: 'North' },
        { code: 's', label: 'South' },
      ],
    },
  ],
}

async function yard(
  page: Page,
  playwright: { request: { newContext: (o: { baseURL: string }) => Promise<Parameters<typeof apiAs>[0]> } },
  baseURL: string | undefined,
  name: string,
) {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const called = `${name} ${Date.now() % 1_000_000}`
  const { id: programme } = (await (
    await api.post('/programmes', { name: called, time_zone: 'UTC', area: [-11.7, -14.2, -11.6, -14.1] })
  ).json()) as { id: number }
  const { id: layer } = (await (await api.post(`/programmes/${programme}/layers`, TREES)).json()) as {
    id: number
  }
  return { api, programme, layer, page, called }
}

test("an outing is planned, seen on the crew's phone, ticked off, and filled by records", async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { api, programme, layer, called } = await yard(page, playwright, baseURL, 'Outing')
  await page.goto(`/desk/p/${programme}/plan?part=outings`)
  await page.getByRole('button', { name: 'Plan an outing' }).click()
  await page.getByLabel('What is it called?').fill('First round')
  await page.getByLabel('Last day').fill('2026-01-01')
  await page.getByRole('button', { name: 'So many records' }).click()
  await page.getByLabel('Records wanted').fill('0')
  await page.getByRole('button', { name: 'Begin with the usual things' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText(/The last day .* lies before the first/)).toBeVisible()
  await expect(page.getByText('How many records are wanted must be a whole number from 1 on.')).toBeVisible()
  await page.getByLabel('Last day').fill(new Date(Date.now() + 864e5).toISOString().slice(0, 10))
  await page.getByLabel('Records wanted').fill('2')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('0 of 2')).toBeVisible()

  const phone = await (await browser.newContext(PHONE)).newPage()
  await signIn(phone, 'mara@example.test', '/field')
  await phone
    .locator('.MuiPaper-root', { has: phone.getByRole('heading', { name: called }) })
    .getByRole('button', { name: 'Get this pack' })
    .click()
  await phone.getByRole('button', { name: 'Outings' }).click()
  // Ticks are kept in the phone's database first.
  await phone.getByLabel('Water and sun cover').click()
  await expect(phone.getByText('1 of 5 packed')).toBeVisible()
  await phone.reload()
  await expect(phone.getByLabel('Water and sun cover')).toBeChecked()
  await api.post(`/layers/${layer}/records`, {
    values: { code: 'A' },
    geometry: { type: 'Point', coordinates: [-11.65, -14.15] },
  })
  await expect(page.getByText('1 of 2')).toBeVisible()
  await page.getByRole('button', { name: 'Drop it: First round' }).click()
  await expect(page.getByText('No outing planned yet')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('1 of 2')).toBeVisible()
})

test('things are put on shelves, tagged, starred, copied and thrown away, several at once', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { api, programme, layer } = await yard(page, playwright, baseURL, 'Order')
  await api.post(`/programmes/${programme}/maps`, { layer, title: 'Tree map' })
  await page.goto(`/desk/p/${programme}/shelves`)
  await page.getByRole('button', { name: '+ New shelf' }).click()
  await page.getByLabel('Name of the shelf').fill('Old things')
  await page.getByLabel('Name of the shelf').press('Enter')
  await expect(page.getByRole('button', { name: /^Old things/ })).toBeVisible()
  await page.getByLabel('Choose all').check()
  await page.getByRole('button', { name: 'Put on a shelf' }).click()
  await page.getByRole('menuitem', { name: 'Old things' }).click()
  await expect(page.getByRole('row', { name: /Tree map/ })).toContainText('Old things')
  await page.getByRole('button', { name: 'Tags' }).click()
  await page.getByLabel('New tag').fill('oak')
  await page.getByLabel('New tag').press('Enter')
  await expect(page.getByRole('row', { name: /Trees/ }).first()).toContainText('oak')
  await page.getByRole('toolbar').getByRole('button', { name: 'Purposes' }).click()
  await page.getByRole('menuitem', { name: 'Training' }).click()
  await expect(page.getByRole('row', { name: /Tree map/ })).toContainText('Training')
  await page.getByLabel('Star Tree map').click()
  await page.getByRole('button', { name: /^Starred/ }).click()
  await expect(page.getByRole('row')).toHaveCount(2)
  await page.getByRole('button', { name: /^Everything/ }).click()
  await page.getByLabel('Choose Trees', { exact: true }).check()
  await page.getByRole('button', { name: 'Throw away' }).click()
  // The map goes with its layer.
  await expect(page.getByText('Nothing here')).toBeVisible()
  await page.getByRole('button', { name: /^Bin/ }).click()
  await expect(page.getByRole('row', { name: /Tree map/ })).toBeVisible()
  await page.getByLabel('Choose Trees', { exact: true }).check()
  await page.getByRole('button', { name: 'Bring back' }).click()
  await page.getByRole('button', { name: /^Everything/ }).click()
  await expect(page.getByRole('row', { name: /Tree map/ })).toBeVisible()
})

test('the search opens with a slash and leads by keyboard to what was meant', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { api, programme, layer } = await yard(page, playwright, baseURL, 'Finding')
  const code = `ZX-${Date.now() % 10_000_000}`
  await api.post(`/layers/${layer}/records`, {
    values: { code },
    geometry: { type: 'Point', coordinates: [-11.65, -14.15] },
  })
  await page.goto(`/desk/p/${programme}/build`)
  await page.getByRole('heading', { name: 'Layers' }).waitFor()
  await page.keyboard.press('/')
  await page.keyboard.type(code.toLowerCase())
  await expect(page.getByRole('option')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: code })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Search/ }).click()
  await page.keyboard.type('nothing of the kind')
  await expect(page.getByText('Nothing is called “nothing of the kind”.')).toBeVisible()
})

test('a programme is copied for a new season, thrown away, and brought back', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { called: name } = await yard(page, playwright, baseURL, 'Season A')
  await page.reload()
  await page.getByRole('button', { name: `More for ${name}` }).click()
  await page.getByRole('menuitem', { name: 'Copy for a new season' }).click()
  await expect(page.getByRole('link', { name: `${name} (copy)`, exact: true })).toBeVisible()
  await page.getByRole('button', { name: `More for ${name} (copy)` }).click()
  await page.getByRole('menuitem', { name: 'Throw away' }).click()
  await expect(page.getByRole('link', { name: `${name} (copy)`, exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: `Bring back: ${name} (copy)` }).click()
  await page.getByRole('link', { name: `${name} (copy)`, exact: true }).click()
  await expect(page.getByRole('link', { name: /^Trees/ })).toBeVisible()
})

test('choices are shared, changed in one place, and retired where records carry them', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { api, programme, layer } = await yard(page, playwright, baseURL, 'Lists')
  await api.post(`/layers/${layer}/records`, {
    values: { code: 'A', side: 's' },
    geometry: { type: 'Point', coordinates: [-11.65, -14.15] },
  })
  await page.goto(`/desk/p/${programme}/build/${layer}`)
  await page.getByRole('button', { name: /^Side/ }).first().click()
  await page.getByRole('button', { name: 'Share these choices…' }).click()
  await page.getByLabel('Name of the list').fill('Sides')
  await page.getByRole('button', { name: 'Share', exact: true }).click()
  await expect(page.getByText('Changed under Build, “Sides”.')).toBeVisible()
  await page.getByRole('button', { name: 'Give design 2 to the crews' }).click()
  await expect(page.getByText('design 2, in use')).toBeVisible()
  await page.getByRole('link', { name: /^Build/ }).click()
  await page
    .getByRole('region', { name: 'Shared choice lists' })
    .getByRole('button', { name: 'Open' })
    .click()
  await expect(page.getByText('One layer gets a new design when this is saved.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a choice' }).click()
  await page.getByLabel('Label of choice 3').fill('West')
  await page.getByRole('button', { name: 'Remove South' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(
    page.getByText('1 record carries “South” (Trees). Move them to another choice, or retire it.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Keep the choice, retired' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(page.getByText('design 3').first()).toBeVisible()
  await expect(page.getByRole('region', { name: 'Shared choice lists' })).toContainText('North, West')
})

test('the design sheet goes out as a spreadsheet and comes back as layers', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { api, programme } = await yard(page, playwright, baseURL, 'Sheet')
  await page.goto(`/desk/p/${programme}/plan?part=sheet`)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as spreadsheet' }).click(),
  ])
  const { id: other } = (await (
    await api.post('/programmes', {
      name: `Sheet in ${Date.now() % 1_000_000}`,
      time_zone: 'UTC',
      area: [-11.7, -14.2, -11.6, -14.1],
    })
  ).json()) as { id: number }
  await page.goto(`/desk/p/${other}/build`)
  const file = page.getByLabel('A file: design (JSON) or spreadsheet…')
  await file.setInputFiles({
    name: 'photo.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,colour\na,b\n'),
  })
  await expect(
    page.getByText('No sheet has a row of heads with at least Field, Kind.', { exact: false }),
  ).toBeVisible()
  await file.setInputFiles((await download.path())!)
  await expect(page.getByText(/^Made from .*: Trees\.$/)).toBeVisible()
  await file.setInputFiles({
    name: 'Wells.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Survey of wells,,\nQuestion,Type,Options\nDepth,number,\nState,select one,Good; Bad\nOdd,wibble,\n',
    ),
  })
  await expect(
    page.getByText('Wells, row 5: “wibble” is no kind of field; Odd became: Short text.'),
  ).toBeVisible()
  await page.getByRole('link', { name: /^Wells/ }).click()
  await expect(
    page.getByRole('group', { name: 'The form on a phone' }).getByRole('button', { name: 'Bad' }),
  ).toBeVisible()
})
