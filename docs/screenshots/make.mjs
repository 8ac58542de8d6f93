// Takes the pictures of this folder from the running demo:  node docs/screenshots/make.mjs [address]
import { chromium } from '@playwright/test'
import { existsSync } from 'node:fs'

const base = process.argv[2] ?? 'http://127.0.0.1:8420'
const here = new URL('.', import.meta.url).pathname
const browser = await chromium.launch({
  executablePath: ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
  args: [
    '--no-sandbox',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
})
const take = async (page, name, wait = 1500) => {
  await page.waitForTimeout(wait)
  await page.screenshot({ path: `${here}${name}.png` })
}
const signIn = async (page, at, email) => {
  await page.goto(base + at)
  await page.getByLabel('E-mail').fill(email)
  await page.getByLabel('Password').fill('halcyon-cays')
  await page.getByRole('button', { name: 'Sign in' }).click()
}

const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
await signIn(page, '/desk', 'mara@example.test')
await page.getByRole('heading', { name: 'Programmes' }).waitFor()
const json = (path) => page.evaluate(async (p) => (await fetch(`/api/v1${p}`)).json(), path)
const id = (await json('/programmes')).find((p) => p.name === 'Nest Patrol').id
const layer = (await json(`/programmes/${id}/layers`)).find((l) => l.title === 'Nests').id
const maps = await json(`/programmes/${id}/maps`)
const map = maps.find((m) => m.title === 'The season so far')
const areas = maps.find((m) => m.title === 'Which sectors hatch well?')
const [board] = await json(`/programmes/${id}/boards`)
await page.goto(`${base}/desk/p/${id}/plan`)
await take(page, 'plan', 2500)
await page.goto(`${base}/desk/p/${id}/plan?part=outings`)
await take(page, 'outings', 2500)
await page.goto(`${base}/desk/p/${id}/shelves`)
await page.getByLabel('Choose Nests', { exact: true }).click()
await page.getByLabel('Choose Dawn walks', { exact: true }).click()
await take(page, 'shelves')
await page.goto(`${base}/desk/p/${id}/build/${layer}`)
const preview = page.getByRole('group', { name: 'The form on a phone' })
await preview.getByRole('button', { name: 'Opened' }).click()
await preview.getByLabel('Clutch size').fill('31')
await preview.getByLabel('Empty shells').fill('20')
await preview.getByLabel('Unhatched eggs').fill('11')
await page
  .getByRole('button', { name: /Hatching success/ })
  .first()
  .click()
await page.waitForTimeout(1500)
await preview.getByLabel('Clutch size').evaluate((e) => e.scrollIntoView({ block: 'start' }))
await page.getByLabel('Formula').evaluate((e) => e.scrollIntoView({ block: 'center' }))
await take(page, 'build')
await page.goto(`${base}/desk/p/${id}/publish/seen`)
await page.getByRole('button', { name: /^Nests, Partners/ }).click()

await take(page, 'seen', 4000)
await page.goto(`${base}/desk/p/${id}/build/bring`)
await page
  .getByLabel('Bring in a file')
  .last()
  .setInputFiles(new URL('../../database/demo/files/old_lights_survey.csv', import.meta.url).pathname)
await page.getByRole('button', { name: 'May 3, 2026' }).click()
await page.getByText(/rows are ready/).waitFor()
await take(page, 'bring', 5000)
await page.getByRole('button', { name: 'Leave it' }).click()
await page.goto(`${base}/desk/p/${id}/collect`)
await page.locator('[data-testid=map][data-ready=true]').waitFor()
await take(page, 'collect', 3000)
await page.goto(`${base}/desk/p/${id}/check?layer=${layer}&flagged=1`)
await page.getByRole('row').filter({ hasText: 'Double?' }).getByRole('gridcell').nth(2).click()
await take(page, 'check', 4500)
await page.goto(`${base}/desk/p/${id}/check/decide`)
await page.getByRole('button', { name: /Place/ }).click()
await take(page, 'decide', 5000)
await page.goto(`${base}/desk/p/${id}/publish/map/${areas.id}`)
await page.getByRole('button', { name: /^Beach sectors/ }).click()
await take(page, 'map-editor', 5000)
await page.goto(`${base}/desk/p/${id}/publish/board/${board.id}`)
await page.getByRole('region', { name: 'How the nests are doing' }).click()
await take(page, 'board-editor', 6000)
await page.goto(`${base}/desk/p/${id}/publish/gate`)
await take(page, 'gate', 2500)
await page.goto(base + map.address)
await page.locator('[data-testid=map][data-ready=true]').waitFor()
await page.waitForTimeout(3000)
const area = await page.getByTestId('map').boundingBox()
const part = `/open/maps/${map.address.slice(3)}/layers/${map.layers[0].id}`
const features = (await json(`${part}/features.geojson`)).features
const cards = []
for (const f of features.slice(0, 60))
  if ((await json(`${part}/records/${f.id}`)).photos.length) cards.push(f)
const mx = (v) => (v + 180) / 360,
  my = (v) => 0.5 - Math.log(Math.tan(Math.PI / 4 + (v * Math.PI) / 360)) / (2 * Math.PI)
const [w, s, e, n] = map.extent
// The map opens beside its legend (open/OpenMap.tsx).
const [left, right] = [292, 60]
const scale = Math.min((area.width - left - right) / (mx(e) - mx(w)), (area.height - 40) / (my(s) - my(n)))
for (const f of cards) {
  const [lon, lat] = f.geometry.coordinates
  await page.mouse.click(
    area.x + (left + area.width - right) / 2 + (mx(lon) - (mx(w) + mx(e)) / 2) * scale,
    area.y + area.height / 2 + (my(lat) - (my(s) + my(n)) / 2) * scale - 8,
  )
  await page.waitForTimeout(900)
  if (await page.getByRole('button', { name: /^Photo 1/ }).count()) break
}
await take(page, 'public-map', 2500)
await page.getByRole('button', { name: 'Photos', exact: true }).click()
await page.getByRole('dialog').getByRole('listitem').nth(2).getByRole('button').click()
await take(page, 'photos', 4000)
await page.goto(base + board.address)
await take(page, 'board', 6000)

const beach = JSON.parse(
  (await import('node:fs')).readFileSync(
    new URL('../../database/demo/cays/beaches.json', import.meta.url),
    'utf8',
  ),
).find((b) => b.code === 'GH3').points[7]
const phone = await browser.newContext({
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  geolocation: { longitude: beach[0], latitude: beach[1], accuracy: 4 },
  permissions: ['geolocation'],
})
const field = await phone.newPage()
const gate = await json(`/programmes/${id}/gate`)
await field.goto(`${base}/field?gate=${gate.address.slice(3)}`)
await field.getByRole('button', { name: 'Sign in', exact: true }).click()
await field.getByLabel('E-mail').fill('ines@example.test')
await field.getByLabel('Password').fill('halcyon-cays')
await field.getByRole('button', { name: 'Sign in', exact: true }).click()
await field.waitForTimeout(3000)
await field.goto(`${base}/field/packs`)
await field.getByRole('button', { name: 'Get this pack' }).click()
await field.getByRole('button', { name: /Add to Nests/ }).waitFor()
await field.waitForTimeout(4000)
await field.getByRole('button', { name: 'Go to where I stand' }).click()
await take(field, 'field-map', 5000)
await field.getByRole('button', { name: 'List' }).click()
await field.getByPlaceholder(/./).fill('GH3')
await field.getByRole('button', { name: /GH3/ }).first().click()
await take(field, 'field-record', 1500)
await field.goto(`${base}/field`)
await field.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
await phone.setOffline(true)
await field.getByRole('button', { name: /Add to Nests/ }).click()
await field.getByLabel('Nest code').fill('GH3-215')
await field.getByRole('button', { name: 'Incubating' }).click()
await field.getByRole('button', { name: 'Loggerhead' }).click()
await field.getByRole('button', { name: 'Today' }).click()
await field.getByLabel('Clutch size').fill('31')
await field.getByLabel('Clutch size').evaluate((e) => e.scrollIntoView({ block: 'center' }))
await take(field, 'field-form', 800)
await field.getByRole('button', { name: 'Yes, 31 eggs' }).click()
await field.getByRole('button', { name: 'Save on this phone' }).click()
await field.getByRole('button', { name: 'Night colours' }).click()
await field.getByTestId('strip').click()
await take(field, 'field-outbox-night', 800)
await browser.close()
