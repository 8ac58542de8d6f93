import type { Browser, BrowserContextOptions, PlaywrightWorkerArgs } from '@playwright/test'
import { expect, test } from './test'
import { addNest, apiAs, nestPatrol, PHONE, shownByDemo } from './yard'

/* Everybody reads in a language of their own, at the desk, on the phone and behind a link. */

const PASSWORD = 'lantern-on-the-reef'
type Api = Awaited<ReturnType<typeof apiAs>>

/** Somebody new in the demo's programme; the demo's own people stay as they are for other tests. */
async function newcomer(api: Api, role: string) {
  const email = `lin.${Math.random().toString(36).slice(2, 10)}@example.test`
  const { programme } = await nestPatrol(api)
  const invited = (await (
    await api.post(`/programmes/${programme}/people`, { name: 'Lin Weiß', email, role })
  ).json()) as { address: string }
  return { email, join: invited.address, programme }
}

const asCoordinator = async (playwright: PlaywrightWorkerArgs['playwright'], baseURL: string | undefined) =>
  apiAs(await playwright.request.newContext(baseURL === undefined ? {} : { baseURL }))

const visitor = async (browser: Browser, options: BrowserContextOptions) =>
  (await browser.newContext(options)).newPage()

test('a language is chosen on the own page, is there again after signing in, and goes with whoever leaves', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(120_000)
  const who = await newcomer(await asCoordinator(playwright, baseURL), 'maker')
  const page = await visitor(browser, {})
  await page.goto(who.join)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Join' }).click()
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible()
  await page.goto('/desk/me')
  await page.getByLabel('You read in').selectOption('Deutsch')
  await expect(page.getByRole('heading', { name: 'Sprache' })).toBeVisible()
  await expect(page.locator('html')).toHaveAttribute('lang', 'de')
  await expect(page.getByLabel('Sie lesen')).toHaveValue('de')
  // Answers of the server, too: what is wrong with a password.
  const password = page.locator('section').filter({ has: page.getByRole('heading', { name: 'Passwort' }) })
  await password.getByLabel('Jetziges Passwort').fill('nicht-dieses')
  await password.getByLabel('Neues Passwort').fill('lantern-on-the-reef-2')
  await password.getByRole('button', { name: 'Ändern' }).click()
  await expect(password.getByRole('alert')).toContainText('Das ist nicht Ihr')
  await page.goto(`/desk/p/${who.programme}/publish`)
  await expect(page.getByRole('link', { name: /Veröffentlichen/ })).toHaveAttribute('aria-current', 'page')
  // Whoever comes next to this browser has their own.
  await page.getByRole('button', { name: /Konto von Lin Weiß/ }).click()
  await page.getByRole('menuitem', { name: 'Abmelden' }).click()
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await page.getByLabel('E-mail').fill(who.email)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Programme', exact: true })).toBeVisible()
  await expect(page.locator('html')).toHaveAttribute('lang', 'de')
  await page.goto('/desk/me')
  await page.getByLabel('Sie lesen').selectOption('English')
  await expect(page.getByRole('heading', { name: 'Language' })).toBeVisible()
})

test('a page behind a link comes in the language of the browser, with its sentences', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await asCoordinator(playwright, baseURL)
  const { programme } = await nestPatrol(api)
  const { address } = (await shownByDemo(api, programme)).map
  for (const [locale, lang] of [
    ['de-AT', 'de'],
    ['en-GB', 'en'],
    ['sv-SE', 'en'],
  ] as const) {
    const page = await visitor(browser, { locale, viewport: { width: 390, height: 844 } })
    const failed: string[] = []
    page.on('pageerror', (e) => failed.push(String(e)))
    await page.goto(address)
    await expect(page.getByRole('heading', { name: 'The season so far' })).toBeVisible()
    await expect(page.locator('html')).toHaveAttribute('lang', lang)
    // A sentence that is missing would be said by its key.
    await expect(page.locator('body')).not.toContainText(/\b[a-z]+\.[a-z]+\.?[a-z]*\b(?<!example\.test)/)
    expect(failed, locale).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await page.context().close()
  }
})

test('a visitor chooses a language where there is no account to say it', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const api = await asCoordinator(playwright, baseURL)
  const { programme } = await nestPatrol(api)
  const { map, board } = await shownByDemo(api, programme)
  const gate = await api.get<{ address: string }>(`/programmes/${programme}/gate`)
  const page = await visitor(browser, { locale: 'en-GB', viewport: { width: 390, height: 844 } })
  await page.goto(map.address)
  // Without a network nothing is lost: the page stays as it is, and says why.
  await expect(page.getByRole('heading', { name: 'The season so far' })).toBeVisible()
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Deutsch' }).click()
  await expect(page.getByRole('alert')).toContainText('cannot be reached')
  await expect(page.getByRole('heading', { name: 'The season so far' })).toBeVisible()
  expect((await page.context().cookies()).map((c) => c.name)).not.toContain('pin_yard_language')
  await page.context().setOffline(false)
  await page.getByRole('button', { name: 'Deutsch' }).click()
  await expect(page.locator('html')).toHaveAttribute('lang', 'de')
  await expect(page.getByRole('heading', { name: 'The season so far' })).toBeVisible()
  // It is there on all pages that follow, and none of them is wider than the phone.
  for (const address of [
    board.address,
    gate.address,
    '/join',
    '/forgot',
    '/m/nowhere',
    '/b/nowhere',
    '/g/nowhere',
  ]) {
    await page.goto(address)
    await expect(page.locator('html')).toHaveAttribute('lang', 'de')
    await expect(page.getByRole('heading').first()).toBeVisible()
    await expect(page.getByRole('button', { name: 'English' })).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth), address).toBeLessThanOrEqual(390)
  }
  // What is typed goes with the old page, so one is asked.
  await page.goto('/join')
  await page.getByLabel(/Code/).fill('ABCD')
  page.once('dialog', (asked) => void asked.dismiss())
  await page.getByRole('button', { name: 'English' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByLabel(/Code/)).toHaveValue('ABCD')
  await expect(page.locator('html')).toHaveAttribute('lang', 'de')
  page.once('dialog', (asked) => void asked.accept())
  await page.keyboard.press('Enter')
  await expect(page.locator('html')).toHaveAttribute('lang', 'en')
  // Two at once: another browser keeps its own.
  const other = await visitor(browser, { locale: 'de-DE' })
  await other.goto(map.address)
  await expect(other.getByRole('button', { name: 'English' })).toBeVisible()
})

test.describe('a phone', () => {
  test.use(PHONE)
  test('speaks the language chosen on it, also without signal, and saves as before', async ({
    context,
    playwright,
    baseURL,
  }) => {
    test.setTimeout(180_000)
    const who = await newcomer(await asCoordinator(playwright, baseURL), 'crew')
    const page = await context.newPage()
    await page.goto(who.join)
    await page.getByLabel('Password').fill(PASSWORD)
    await page.getByRole('button', { name: 'Join' }).click()
    await expect(page.getByRole('button', { name: 'Get this pack' }).first()).toBeVisible()
    await page.getByRole('button', { name: 'Get this pack' }).first().click()
    await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
    await addNest(page, `SP-${Date.now() % 10_000}`)
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
    await expect.poll(() => page.evaluate(async () => (await caches.keys()).length)).toBeGreaterThan(0)
    // What was added before is not among what is counted without signal.
    await expect(page.getByTestId('strip')).toContainText(/all sent/i)
    await context.setOffline(true)
    await page.goto('/field/packs')
    await page.getByLabel('Language').selectOption('Deutsch')
    await expect(page.getByRole('heading', { name: 'Dieses Telefon' })).toBeVisible()
    await expect(page.locator('html')).toHaveAttribute('lang', 'de')
    // Killed, and opened again without signal.
    await page.close({ runBeforeUnload: false })
    const again = await context.newPage()
    await again.goto('/field?signin')
    await again.goto('/field')
    await again.getByLabel('Ebene', { exact: true }).selectOption({ label: 'Nests' })
    await again.getByRole('button', { name: /zu Nests hinzufügen/i }).click()
    const code = `DE-${Date.now() % 10_000}`
    await again.getByLabel('Nest code').fill(code)
    await again.getByRole('button', { name: 'Incubating' }).click()
    await again.getByLabel('Clutch size').fill('viele')
    await again.getByRole('button', { name: 'Auf diesem Telefon speichern' }).click()
    await expect(again.getByRole('alert').first()).toContainText('Clutch size')
    await expect(again.locator('body')).not.toContainText('problem.')
    await again.getByLabel('Clutch size').fill('90')
    await again.getByRole('button', { name: 'Loggerhead' }).click()
    await again.getByRole('button', { name: 'Auf diesem Telefon speichern' }).click()
    await expect(again.getByTestId('strip')).toContainText('1 zu senden')
    await context.setOffline(false)
    await expect(again.getByTestId('strip')).toContainText('alles gesendet', { timeout: 60_000 })
    // The account hears of it, for its mails and the desk.
    const language = async () =>
      ((await (await context.request.get('/api/v1/me')).json()) as { language: string }).language
    await expect.poll(language).toBe('de')
    await expect(again).toHaveTitle('Pin Yard draußen')
  })
})
