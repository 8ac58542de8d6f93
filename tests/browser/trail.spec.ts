import { expect, test } from './test'
import { addNest, apiAs, BEACH, COORDINATOR, desk, nestPatrol, PHONE, phoneWithPack, signIn } from './yard'

type Lines = { features: { properties: { name: string }; geometry: { coordinates: [number, number][] } }[] }

test.describe('a trail', () => {
  test.use(PHONE)
  test('is recorded only when one says so, thinned, kept without signal, and seen at the desk', async ({
    browser,
    context,
    playwright,
    baseURL,
  }) => {
    test.setTimeout(200_000)
    const head = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
    const { programme } = await nestPatrol(head)
    const span = `from=${new Date(Date.now() - 1_000).toISOString()}&to=${new Date(Date.now() + 3_600_000).toISOString()}`
    const mine = async () =>
      (await head.get<Lines>(`/programmes/${programme}/trails.geojson?${span}`)).features
        .filter((f) => f.properties.name === 'Ines Calder')
        .flatMap((f) => f.geometry.coordinates)
        .filter(([lon]) => Math.abs(lon - BEACH.longitude) < 0.01)
    const page = await phoneWithPack(context)
    const walk = async (steps: number, from: number) => {
      for (let i = from; i < from + steps; i++) {
        await context.setGeolocation({ ...BEACH, longitude: BEACH.longitude + i * 0.0002 })
        await page.waitForTimeout(250)
      }
    }
    await walk(3, 1)
    await page.getByRole('button', { name: 'Record my way' }).click()
    await expect(page.getByText('Your way is being recorded and shared with the desk.')).toBeVisible()
    await context.setOffline(true)
    await walk(8, 4)
    // Standing about makes no points.
    for (let i = 0; i < 6; i++) {
      await context.setGeolocation({ ...BEACH, longitude: BEACH.longitude + 11 * 0.0002 + i * 1e-6 })
      await page.waitForTimeout(200)
    }
    await page.reload()
    await expect(page.getByText('Your way is being recorded and shared with the desk.')).toBeVisible()
    await context.setOffline(false)
    await expect.poll(async () => (await mine()).length, { timeout: 60_000 }).toBeGreaterThan(2)
    const points = await mine()
    expect(points.length).toBeLessThan(12)
    // What was walked before it was switched on is nobody's business.
    expect(Math.min(...points.map(([lon]) => lon))).toBeGreaterThan(BEACH.longitude + 0.0005)
    await page.getByRole('button', { name: 'Stop recording my way' }).click()
    await expect(page.getByText('Your way is being recorded')).toHaveCount(0)
    await walk(4, 20)
    await page.waitForTimeout(1_000)
    expect(await mine()).toHaveLength(points.length)

    const collect = await desk(browser)
    await collect.goto(`/desk/p/${programme}/collect`)
    await expect(collect.getByText(/phones share their places/)).toBeVisible()
    await expect(collect.getByRole('row', { name: /Ines Calder/ })).toContainText('Last place')
    await collect.getByRole('button', { name: 'Last 7 days' }).click()
    await expect(collect.getByRole('region', { name: 'Where everyone is and has been' })).toBeVisible()
  })
})

test('a person is removed from the programme after a second word, and the last coordinator is not', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const head = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme } = await nestPatrol(head)
  // Out on a beach without signal when it happens.
  const context = await browser.newContext(PHONE)
  const phone = await context.newPage()
  await signIn(phone, 'wim@example.test', '/field')
  await phone.getByRole('button', { name: 'Get this pack' }).click()
  await phone.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await phone.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await context.setOffline(true)
  await addNest(phone, 'GONE-1')
  const page = await desk(browser)
  await page.goto(`/desk/p/${programme}/collect`)
  const row = page.getByRole('row', { name: /Wim Sorrel/ })
  await row.getByRole('button', { name: 'Remove Wim Sorrel' }).click()
  await row.getByRole('button', { name: 'Keep' }).click()
  await row.getByRole('button', { name: 'Remove Wim Sorrel' }).click()
  await row.getByRole('button', { name: 'Remove from the programme' }).click()
  await expect(row).toHaveCount(0)
  // The work of the morning arrives and is held; then the phone gives up its copy.
  await context.setOffline(false)
  await expect(phone.getByTestId('strip')).toContainText('1 thing for the desk to decide', {
    timeout: 60_000,
  })
  await expect(phone.getByText('Nothing is shared with you yet')).toBeVisible({ timeout: 60_000 })
  const left = await phone.evaluate(
    () =>
      new Promise<number>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const count = open.result.transaction('records').objectStore('records').count()
          count.onsuccess = () => done(count.result)
        }
      }),
  )
  expect(left).toBe(0)
  await page.goto(`/desk/p/${programme}/check/decide`)
  await page.getByRole('button', { name: /GONE-1/ }).click()
  await expect(page.getByText('When this was done it was allowed; today it no longer is.')).toBeVisible()
  await page.getByRole('button', { name: 'Let it in as it is' }).click()
  await expect(page.getByText('GONE-1: let in.')).toBeVisible()
  await page.goto(`/desk/p/${programme}/collect`)
  const own = page.getByRole('row', { name: /Mara Oduya/ })
  await own.getByRole('button', { name: 'Remove Mara Oduya' }).click()
  await own.getByRole('button', { name: 'Remove from the programme' }).click()
  await expect(page.getByText('This is the only coordinator. Invite another one first.')).toBeVisible()
})
