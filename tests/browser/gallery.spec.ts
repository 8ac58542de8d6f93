import { expect, test } from './test'
import { apiAs, COORDINATOR, CREW, desk, nestPatrol, PASSWORD, PHONE } from './yard'

/**
 * A gate is made at the desk; on a phone what is closed has a lock until one signs in, and opens without
 * signal after that.
 */
test('a gate shows what is open, locks the rest until one signs in, and its maps open without signal', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const { programme } = await nestPatrol(
    await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR),
  )
  const office = await desk(browser)
  await office.goto(`/desk/p/${programme}/publish/gate`)
  // Beside the bench stands the gate as its visitors see it, at once.
  await office.getByLabel('Name over the door').fill('Turtles of the Cays')
  await expect(office.getByRole('heading', { name: 'Turtles of the Cays' })).toBeVisible()
  await office.getByRole('checkbox', { name: 'Dawn board' }).uncheck()
  await expect(office.getByRole('heading', { name: 'Dawn board' })).toHaveCount(0)
  await office.getByRole('checkbox', { name: 'Dawn board' }).check()
  await expect(office.getByRole('status')).toHaveText('Saved')
  const address = (await office.getByRole('link', { name: 'See it as they see it' }).getAttribute('href'))!

  const context = await browser.newContext(PHONE)
  const page = await context.newPage()
  await page.goto(address)
  await expect(page.getByRole('heading', { name: 'Turtles of the Cays' })).toBeVisible()
  await expect(page.getByRole('link', { name: /The season so far/ })).toHaveAttribute('href', /^\/m\//)
  await page.getByRole('link', { name: /Which species nests where/ }).click()
  // The phone knows the gate now, and says what is behind the lock.
  await expect(page.getByRole('link', { name: /The season so far/ })).toBeVisible()
  await page.getByRole('button', { name: /Which species nests where/ }).click()
  await page.getByLabel('E-mail').fill(CREW)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await page.getByRole('button', { name: /Take a pack/ }).click()
  await page.getByRole('button', { name: 'Get this pack' }).click()
  // Other tests add layers to the demo, and any of them may be the first.
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await expect(page.getByRole('button', { name: /Add to Nests/ })).toBeEnabled()
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))

  await context.setOffline(true)
  const layers = page.getByRole('button', { name: 'Layers and what the marks mean' })
  await layers.click()
  await page.getByRole('button', { name: 'Gallery' }).click()
  await page.getByRole('button', { name: /Which species nests where/ }).click()
  const shown = page.getByRole('button', { name: 'Which species nests where: back to all layers' })
  await expect(shown).toBeVisible()
  await layers.click()
  // Its own legend, and its viewpoints.
  await expect(page.getByText('Loggerhead')).toBeVisible()
  await expect(page.getByText('Beach sectors')).toHaveCount(0)
  await page.getByRole('button', { name: 'Little Drift', exact: true }).click()
  await expect(page.getByText('Loggerhead')).toHaveCount(0)
  // The whole area has 5 km where the isle has one.
  await expect(page.locator('.maplibregl-ctrl-scale')).toHaveText(/^(500\sm|1\skm)$/)

  // A tap on the map says what the card was made to say; the record itself is one step further.
  await layers.click()
  await page.getByRole('button', { name: 'Gallery' }).click()
  await page.getByRole('button', { name: /The season so far/ }).click()
  await expect(page.getByRole('button', { name: 'The season so far: back to all layers' })).toBeVisible()
  await page.locator('[data-ready=true]').waitFor()
  const card = page.getByRole('region').filter({ has: page.getByRole('button', { name: 'Open the record' }) })
  await expect(async () => {
    for (const [x, y] of [
      [60, 280],
      [288, 209],
      [192, 243],
      [113, 252],
      [99, 345],
    ] as const) {
      if (await card.isVisible()) break
      await page.touchscreen.tap(x, y)
      // Two taps in one place within a moment go nearer.
      await page.waitForTimeout(700)
    }
    await expect(card).toBeVisible({ timeout: 1_000 })
  }).toPass({ timeout: 60_000 })
  await expect(card.getByText(/^Laid .* by a /)).toBeVisible()
  await card.getByRole('button', { name: 'Open the record' }).click()
  await expect(page).toHaveURL(/\/field\/record\//)
  await page.goBack()
  await layers.click()
  await page.getByRole('button', { name: 'Gallery' }).click()
  await page.getByRole('button', { name: /Which species nests where/ }).click()
  await expect(shown).toBeVisible()

  // A place of one's own, kept on the phone, is there after the app was closed.
  await layers.click()
  await page.getByRole('button', { name: 'Keep what the map shows now' }).click()
  await page.getByLabel('Name of what the map shows now').fill('Camp')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Camp', exact: true })).toBeVisible()
  await page.reload()
  await expect(shown).toBeVisible()
  await layers.click()
  await page.getByRole('button', { name: 'Camp', exact: true }).click()
  await shown.click()
  await expect(shown).toHaveCount(0)
  await layers.click()
  await page.getByRole('button', { name: 'Remove Camp' }).click()
  await expect(page.getByRole('button', { name: 'Camp', exact: true })).toHaveCount(0)

  // Marks by classes of a number are made from the phone's own records, and their legend too.
  await page.getByRole('button', { name: 'Gallery' }).click()
  await page.getByRole('button', { name: /How large the clutches are/ }).click()
  await layers.click()
  await expect(page.getByText('60 eggs', { exact: true })).toBeVisible()
  await expect(page.getByText('160 eggs')).toBeVisible()
  await expect(page.getByText('No number')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'How large the clutches are: back to all layers' }).click()

  // A map of several layers: in their order, each to be switched, off where its makers left it off.
  await layers.click()
  await page.getByRole('button', { name: 'Gallery' }).click()
  await page.getByRole('button', { name: /The season so far/ }).click()
  await layers.click()
  const walks = page.getByLabel('Dawn walks')
  await expect(page.getByLabel('Nests', { exact: true })).toBeChecked()
  await expect(page.getByLabel('Beach sectors')).toBeChecked()
  await expect(walks).not.toBeChecked()
  // Kept on the phone first, and switched then.
  await walks.click()
  await expect(walks).toBeChecked()
  await expect(page.getByText('Breeze')).toBeVisible()
  await page.reload()
  await layers.click()
  await expect(walks).toBeChecked()
  await walks.click()
  await expect(walks).not.toBeChecked()
  // What its makers let be asked of it is asked of the phone's own records, and stays asked.
  const asks = page.getByLabel('Show only')
  const wanted = (await asks.locator('option').allInnerTexts())[1]!
  await asks.selectOption({ label: wanted })
  await page.keyboard.press('Escape')
  const again = page.getByRole('button', { name: `Show everything again, not only “${wanted}”` })
  await expect(again).toBeVisible()
  await page.reload()
  await again.click()
  await expect(again).toHaveCount(0)
  await page.getByRole('button', { name: 'The season so far: back to all layers' }).click()

  // Closed again, the link leads nowhere, and the phone forgets the gate.
  await office.getByLabel('The gate is open').uncheck()
  await expect(office.getByRole('link', { name: 'See it as they see it' })).toHaveCount(0)
  await context.setOffline(false)
  await page.goto('/field/gallery')
  await expect(page.getByRole('heading', { name: 'Nest Patrol: maps' })).toBeVisible()
  await expect(page.getByRole('heading', { name: /open to all/ })).toHaveCount(0)
  await office.getByLabel('The gate is open').check()
  await office.getByLabel('Name over the door').fill('Nest Patrol')
  await expect(office.getByRole('status')).toHaveText('Saved')
})

test('a place of a map is kept, and a link leads to it', async ({ browser }) => {
  const office = await desk(browser)
  await office.goto('/desk')
  await office.getByRole('link', { name: /Nest Patrol/ }).click()
  await office
    .getByRole('link', { name: /Publish/ })
    .first()
    .click()
  await office.getByRole('link', { name: /The season so far/ }).click()
  await office.locator('[data-ready=true]').waitFor()
  await office.getByRole('button', { name: 'Go there: Marram Cay' }).click()
  await office.getByLabel('Name of what the map shows now').fill('Cay of the north wind')
  await office.getByRole('button', { name: 'Keep', exact: true }).click()
  const kept = office.getByRole('button', { name: 'Go there: Cay of the north wind' })
  await expect(kept).toBeVisible()
  await expect(office.getByRole('status')).toHaveText('Saved')
  const address = (await office.getByRole('link', { name: 'See it as they see it' }).getAttribute('href'))!
  const visitor = await (await browser.newContext()).newPage()
  await visitor.goto(address)
  await visitor.getByRole('button', { name: 'Cay of the north wind' }).click()
  await expect(visitor).toHaveURL(/#[a-z0-9]{8}$/)
  await visitor.reload()
  await visitor.locator('[data-ready=true]').waitFor()
  await expect(visitor.locator('.maplibregl-ctrl-scale')).toHaveText('1 km')
  await office.getByRole('button', { name: 'Remove Cay of the north wind' }).click()
  await expect(kept).toHaveCount(0)
  await expect(office.getByRole('status')).toHaveText('Saved')
  await visitor.reload()
  await visitor.locator('[data-ready=true]').waitFor()
  await expect(visitor.getByRole('button', { name: 'Marram Cay' })).toBeVisible()
  await expect(visitor.locator('.maplibregl-ctrl-scale')).toHaveText('3 km')
})
