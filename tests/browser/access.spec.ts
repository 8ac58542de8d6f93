import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, COORDINATOR, desk, nestPatrol, PHONE, phoneWithPack, shownByDemo } from './yard'

/**
 * Source: WCAG 2.2 A and AA, as axe-core checks them; of a page that was looked at in other colours its colours alone.
 */
async function sound(page: Page, what: string, colours = false) {
  // A colour in the middle of its transition is measured as it is, so what is off is looked at again.
  await expect(async () => {
    // In the page itself: a blank page of its own for every look costs more than the look.
    const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] })
    const { violations } = await (
      colours
        ? axe.withRules(['color-contrast'])
        : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    ).analyze()
    expect(
      violations.map((v) => `${what}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
    ).toEqual([])
  }).toPass({ timeout: 90_000, intervals: [500] })
}

/** To another page of the same application, as its own links lead there: nothing is loaded anew. */
const go = (page: Page, address: string) =>
  page.evaluate((to) => {
    history.pushState(null, '', to)
    dispatchEvent(new PopStateEvent('popstate', { state: null }))
  }, address)

test('the desk is open to everyone', async ({ browser, playwright, baseURL }) => {
  test.setTimeout(300_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme, layer } = await nestPatrol(api)
  const { map, board } = await shownByDemo(api, programme)
  const closed = await (await browser.newContext()).newPage()
  await closed.goto('/desk')
  await closed.getByRole('button', { name: 'Sign in' }).waitFor()
  await sound(closed, 'sign in')
  await closed.goto('/forgot')
  await closed.getByLabel('E-mail').waitFor()
  await sound(closed, 'a forgotten password')
  const page = await desk(browser)
  await sound(page, 'programmes')
  const views: [string, string][] = [
    ['/desk/new', 'New programme'],
    ['/desk/me', 'Signed in on these devices'],
    ['/desk/mail-box', 'Mail box'],
    [`/desk/p/${programme}/plan`, 'What must this programme tell us?'],
    [`/desk/p/${programme}/plan?part=sheet`, 'Design sheet'],
    [`/desk/p/${programme}/plan?part=programme`, 'The programme'],
    [`/desk/p/${programme}/plan?part=outings`, 'Outings'],
    [`/desk/p/${programme}/shelves`, 'Shelves'],
    [`/desk/p/${programme}/build`, 'Layers'],
    [`/desk/p/${programme}/build/new`, 'New layer'],
    [`/desk/p/${programme}/build/${layer}`, 'Nests'],
    [`/desk/p/${programme}/collect`, 'People and their phones'],
    [`/desk/p/${programme}/check`, 'What has come back'],
    [`/desk/p/${programme}/check/decide`, 'Two people changed the same'],
    [`/desk/p/${programme}/publish`, 'Maps'],
    [`/desk/p/${programme}/publish/map/${map.id}`, 'The season so far'],
    [`/desk/p/${programme}/publish/board/${board.id}`, 'Dawn board'],
    [`/desk/p/${programme}/publish/gate`, 'Gate'],
    [`/desk/p/${programme}/publish/seen`, 'Who sees what'],
    [`/desk/p/${programme}/people`, 'People and groups'],
    [`/desk/p/${programme}/people/done`, 'What was done'],
  ]
  for (const [address, heading] of views) {
    await go(page, address)
    await page.getByRole('heading', { name: heading }).first().waitFor()
    await page.waitForTimeout(300)
    await sound(page, address)
  }
  await go(page, `/desk/p/${programme}/shelves`)
  await page.getByLabel('Choose Nests', { exact: true }).click()
  await sound(page, 'things that are chosen')
  await go(page, `/desk/p/${programme}/plan?part=outings`)
  await page.getByRole('button', { name: 'Plan an outing' }).click()
  await sound(page, 'an outing')
  await page.keyboard.press('Escape')
  for (const part of ['photos', 'place', 'rights']) {
    await go(page, `/desk/p/${programme}/build/${layer}?part=${part}`)
    await page.getByRole('heading', { name: 'Nests' }).first().waitFor()
    await sound(page, `the designer, ${part}`)
  }
  await page.keyboard.press('/')
  await page.getByRole('combobox', { name: /Layers, fields/ }).fill('nest')
  await page.getByRole('option').first().waitFor()
  await sound(page, 'the search')
  await page.goto(`/desk/p/${programme}/build/${layer}`)
  await page
    .getByRole('button', { name: /Hatching success/ })
    .first()
    .click()
  await sound(page, 'an open field with a formula and a condition')
  await go(page, `/desk/p/${programme}/check?layer=${layer}`)
  await page.locator('.MuiDataGrid-row').filter({ hasText: 'Loggerhead' }).first().click()
  await sound(page, 'a record')
  await page.getByRole('button', { name: 'History' }).click()
  await page.getByText('Version 1').waitFor()
  await sound(page, 'the history of a record')
  await page.getByRole('button', { name: 'Change' }).click()
  await sound(page, 'a record that is changed')
  await go(page, `/desk/p/${programme}/check?layer=${layer}&flagged=1`)
  await page.getByRole('row').filter({ hasText: 'Double?' }).getByRole('gridcell').nth(2).click()
  await page.getByRole('list', { name: 'What speaks against it' }).waitFor()
  await sound(page, 'what is flagged')
  await page.getByRole('button', { name: 'What is flagged' }).click()
  await page.getByRole('dialog').getByRole('checkbox').first().waitFor()
  await sound(page, 'what it is flagged for')
})

test('what the public sees is open to everyone', async ({ browser, playwright, baseURL }) => {
  test.setTimeout(180_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme } = await nestPatrol(api)
  const { map, board } = await shownByDemo(api, programme)
  const gate = await api.get<{ address: string }>(`/programmes/${programme}/gate`)
  const page = await (await browser.newContext()).newPage()
  for (const [address, heading] of [
    [map.address, 'The season so far'],
    [board.address, 'Dawn board'],
    [gate.address, /Nest Patrol|Turtles of the Cays/],
    ['/kit', 'Parts of Pin Yard'],
    ['/m/nowhere', 'This link leads nowhere'],
  ] as const) {
    await page.goto(address)
    await page.getByRole('heading', { name: heading }).first().waitFor()
    await page.waitForTimeout(300)
    await sound(page, address)
  }
  await page.goto(`${map.address}#photos`)
  const wall = page.getByRole('dialog')
  await wall.getByRole('listitem').first().waitFor()
  await sound(page, 'photos of a map')
  await wall.getByRole('listitem').first().getByRole('button').click()
  await wall.getByRole('button', { name: 'Show it on the map' }).waitFor()
  await sound(page, 'a photo')
})

test.describe('on the phone', () => {
  test.use(PHONE)
  test('the field app is open to everyone, by day and by night', async ({ context }) => {
    test.setTimeout(240_000)
    const page = await phoneWithPack(context)
    for (const light of ['sun', 'night']) {
      for (const [address, ready] of [
        ['/field', 'List'],
        ['/field/list', 'Back'],
        ['/field/outbox', 'Send now'],
        ['/field/packs', 'Get it again'],
        ['/field/outings', 'Back'],
        ['/field/gallery', 'Back'],
        ['/field/measure', 'Corner at the crosshair'],
        ['/field/sketch', 'Keep it'],
        ['/field/packs/1', 'Take it'],
      ] as const) {
        await go(page, address)
        await page.getByRole('button', { name: ready }).waitFor()
        await page.waitForTimeout(400)
        await sound(page, `${address} (${light})`, light === 'night')
      }
      await go(page, '/field')
      await page.getByRole('button', { name: /Add to Nests/ }).click()
      await page.getByRole('button', { name: 'Save on this phone' }).click()
      await sound(page, `form (${light})`, light === 'night')
      await page.getByRole('button', { name: 'Discard' }).click()
      if (light === 'sun') await page.getByRole('button', { name: 'Night colours' }).click()
    }
  })
})

test('a layer can be built by keyboard alone', async ({ browser }) => {
  const page = await desk(browser)
  await page.goto('/desk')
  await page.getByRole('link', { name: /Lamp Watch/ }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'New layer' }).first().focus()
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Title')).toBeFocused()
  await page.keyboard.type('Lamps')
  await page.getByRole('button', { name: 'Next: fields' }).focus()
  await page.keyboard.press('Enter')
  const add = async (down: number, label: string) => {
    await page.getByRole('button', { name: 'Add a field' }).focus()
    await page.keyboard.press('Enter')
    await page.getByRole('menuitem').first().waitFor()
    for (let n = 0; n < down; n++) await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await expect(page.getByLabel('Label', { exact: true })).toBeFocused()
    await page.keyboard.type(label)
  }
  const phone = page.getByRole('group', { name: 'The form on a phone' })
  await add(0, 'Lamp number')
  await add(5, 'Colour')
  await page.getByLabel('Label of choice 1').focus()
  await page.keyboard.type('White')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Label of choice 2')).toBeFocused()
  await page.keyboard.type('Amber')
  await expect(phone.getByRole('button', { name: 'Amber' })).toBeVisible()
  await add(4, 'Seen from the sand')
  await add(3, 'Height')
  await add(7, 'Seen on')
  await add(1, 'What shields it')
  // Its condition: shown only when the lamp is seen from the sand.
  await page.getByRole('button', { name: '+ condition' }).focus()
  await page.keyboard.press('Enter')
  await page.getByLabel('Field', { exact: true }).focus()
  await page.keyboard.type('Seen from')
  await page.getByLabel('Value', { exact: true }).focus()
  await page.keyboard.type('Yes')
  await expect(phone.getByLabel('What shields it')).toHaveCount(0)
  await phone.getByRole('group', { name: 'Seen from the sand' }).getByRole('button', { name: 'Yes' }).focus()
  await page.keyboard.press('Enter')
  await expect(phone.getByLabel('What shields it')).toBeVisible()
  await page.getByRole('button', { name: 'Make the layer' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('design 1, in use')).toBeVisible()
})
