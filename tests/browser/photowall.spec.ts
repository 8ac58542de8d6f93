import { devices } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, desk, nestPatrol, shownByDemo } from './yard'

/*
 * The records of a map leafed through by their photos, at the desk and behind a link: each photo has an address of its
 * own, says where it was taken, and leads to its place on the map.
 */
test('photos are leafed through by buttons, keys and addresses', async ({ browser, playwright, baseURL }) => {
  test.setTimeout(120_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { map } = await shownByDemo(api, (await nestPatrol(api)).programme)
  const address = new URL(map.address, baseURL).pathname
  const page = await (await browser.newContext()).newPage()
  await page.goto(address)
  const wall = page.getByRole('dialog', { name: 'Photos of The season so far' })
  const called = wall.getByRole('status')

  await test.step('all of them, the last collected first', async () => {
    await page.getByRole('button', { name: 'Photos', exact: true }).click()
    await expect(called).toHaveText(/^\d+ photos, last collected first$/)
    const n = Number.parseInt((await called.textContent())!, 10)
    expect(n).toBeGreaterThan(60)
    const shown = wall.getByRole('listitem')
    await expect(shown).toHaveCount(48)
    // Those behind come as one goes down.
    await shown.last().scrollIntoViewIfNeeded()
    await expect.poll(() => shown.count()).toBeGreaterThan(48)
  })
  let third = ''
  await test.step('one alone: forth and back, with where it was taken and what its card says', async () => {
    const button = wall.getByRole('listitem').nth(2).getByRole('button')
    third = (await button.getAttribute('aria-label'))!
    await button.click()
    await expect(called).toHaveText(third)
    expect(page.url()).toContain('#photos=')
    await expect(wall.getByRole('region', { name: 'Where it was taken' })).toBeVisible()
    await expect(wall.getByRole('heading', { name: third.split(',')[0]! })).toBeVisible()
    await expect(wall.getByRole('img', { name: third })).toHaveJSProperty('complete', true)
    // A record may have several photos of one name, so it is told by its address which is shown.
    const own = page.url()
    await wall.getByRole('button', { name: 'Next photo' }).click()
    await expect(page).not.toHaveURL(own)
    await page.keyboard.press('ArrowLeft')
    await expect(page).toHaveURL(own)
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('ArrowLeft')
    await expect(wall.getByRole('button', { name: 'Photo before' })).toBeDisabled()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await expect(page).toHaveURL(own)
    await expect(called).toHaveText(third)
  })
  await test.step('its address leads to it, and from there both ways', async () => {
    const own = page.url()
    const other = await (await browser.newContext(devices['Pixel 5'])).newPage()
    await other.goto(own)
    await expect(other.getByRole('dialog').getByRole('status')).toHaveText(third)
    expect(await other.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
    await other.getByRole('button', { name: 'Photo before' }).click()
    await expect(other).not.toHaveURL(own)
    await other.getByRole('button', { name: 'Next photo' }).click()
    await expect(other).toHaveURL(own)
    // A finger leafs as well; one that goes down scrolls.
    const swipe = (east: number, south: number) =>
      other
        .getByRole('dialog')
        .getByRole('img')
        .first()
        .evaluate(
          (target, [x, y]) => {
            const at = (clientX: number, clientY: number) => [
              new Touch({ identifier: 1, target, clientX, clientY }),
            ]
            const tell = (kind: string, touches: Touch[], changedTouches: Touch[]) =>
              target.dispatchEvent(new TouchEvent(kind, { bubbles: true, touches, changedTouches }))
            tell('touchstart', at(200, 200), at(200, 200))
            tell('touchend', [], at(200 + x, 200 + y))
          },
          [east, south] as const,
        )
    await swipe(-120, 20)
    await expect(other).not.toHaveURL(own)
    await swipe(90, -10)
    await expect(other).toHaveURL(own)
    await swipe(60, 140)
    await swipe(-20, 0)
    await expect(other).toHaveURL(own)
    await other.getByRole('button', { name: 'All photos' }).click()
    await expect(other.getByRole('listitem').first()).toBeVisible()
    // One that is not there says so, with the way out.
    await other.goto(own.replace(/#.*/, '#photos=AAAAAAAAAAAAAAAAAAAAAA'))
    await other.reload()
    await expect(other.getByRole('alert')).toContainText('This photo is not here, or no more.')
    await other.getByRole('button', { name: 'All photos' }).click()
    await expect(other.getByRole('listitem').first()).toBeVisible()
    await other.context().close()
  })
  await test.step('back by the browser, by Escape, and to its place on the map', async () => {
    await page.goBack()
    await expect(called).toHaveText(/photos, last collected first/)
    await page.goForward()
    await expect(called).toHaveText(third)
    await page.keyboard.press('Escape')
    await expect(called).toHaveText(/photos, last collected first/)
    await page.keyboard.press('Escape')
    await expect(wall).toBeHidden()
    expect(page.url()).not.toContain('#')
    await page.getByRole('button', { name: 'Photos', exact: true }).click()
    await wall.getByRole('button', { name: third }).first().click()
    await wall.getByRole('button', { name: 'Show it on the map' }).click()
    await expect(wall).toBeHidden()
    await expect(page.getByRole('region', { name: third.split(',')[0]! })).toBeVisible()
  })
  await test.step('without a network it says so, and goes on', async () => {
    await page.reload()
    await page.route('**/wall*', (route) => route.abort())
    await page.getByRole('button', { name: 'Photos', exact: true }).click()
    await expect(wall.getByRole('alert')).toBeVisible()
    await page.unroute('**/wall*')
    await wall.getByRole('button', { name: 'Back to the map' }).click()
    await page.getByRole('button', { name: 'Photos', exact: true }).click()
    await expect(wall.getByRole('listitem').first()).toBeVisible()
    // A search that is asked here is asked of the map as well, and stands in its address.
    await wall.getByLabel('Show only').selectOption({ index: 1 })
    await expect(page).toHaveURL(/search=s/)
    await wall.getByRole('button', { name: 'Back to the map' }).click()
    await expect(wall).toBeHidden()
    await expect(page).toHaveURL(/search=s[a-z0-9]{7}$/)
    await page.getByLabel('Show only').selectOption({ index: 0 })
    await page.getByRole('button', { name: 'Photos', exact: true }).click()
    await expect(wall.getByRole('listitem').first()).toBeVisible()
    // Of a layer without photos there are none.
    await wall.getByLabel('Which layer').selectOption({ label: 'Beach sectors' })
    await expect(called).toHaveText('No photos here.')
    await wall.getByLabel('Which layer').selectOption({ label: 'All layers' })
    await expect(wall.getByRole('listitem').first()).toBeVisible()
  })
})

test('whoever belongs to the programme leafs through the same at the desk', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { programme } = await nestPatrol(api)
  const { map } = await shownByDemo(api, programme)
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme}/map/${map.id}`)
  await page.getByRole('button', { name: 'Photos', exact: true }).click()
  const wall = page.getByRole('dialog', { name: 'Photos of The season so far' })
  await wall.getByRole('listitem').first().getByRole('button').click()
  await expect(wall.getByRole('img').first()).toHaveJSProperty('complete', true)
  await expect
    .poll(() =>
      wall
        .getByRole('img')
        .first()
        .evaluate((i) => (i as HTMLImageElement).naturalWidth),
    )
    .toBeGreaterThan(0)
  await page.goBack()
  await page.goBack()
  await expect(wall).toBeHidden()
  await expect(page.getByRole('heading', { name: 'The season so far' })).toBeVisible()
})
