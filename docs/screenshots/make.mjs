// Takes the pictures of this folder from the running demo:  node docs/screenshots/make.mjs [address]
import { chromium } from '@playwright/test'

const base = process.argv[2] ?? 'http://127.0.0.1:8420'
const here = new URL('.', import.meta.url).pathname
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
})
const take = async (page, name, wait = 1500) => { await page.waitForTimeout(wait); await page.screenshot({ path: `${here}${name}.png` }) }
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
const layer = (await json(`/programmes/${id}/layers`))[0].id
const [map] = await json(`/programmes/${id}/maps`)
const [board] = await json(`/programmes/${id}/boards`)
await page.goto(`${base}/desk/p/${id}/plan`)
await take(page, 'plan', 2500)
await page.goto(`${base}/desk/p/${id}/plan?part=sheet`)
await take(page, 'sheet')
await page.goto(`${base}/desk/p/${id}/build/${layer}`)
const preview = page.getByRole('group', { name: 'The form on a phone' })
await preview.getByRole('button', { name: 'Opened' }).click()
await preview.getByLabel('Clutch size').fill('31')
await preview.getByLabel('Empty shells').fill('20')
await preview.getByLabel('Unhatched eggs').fill('11')
await page.getByRole('button', { name: /Hatching success/ }).first().click()
await page.waitForTimeout(1500)
await preview.getByLabel('Clutch size').evaluate((e) => e.scrollIntoView({ block: 'start' }))
await page.getByLabel('Formula').evaluate((e) => e.scrollIntoView({ block: 'center' }))
await take(page, 'build')
await page.goto(`${base}/desk/p/${id}/build/${layer}`)
await page.getByRole('button', { name: /Species species/ }).click()
await page.getByRole('button', { name: 'Remove Not sure' }).click()
await page.getByRole('button', { name: 'Give design 2 to the crews' }).click()
await page.getByRole('dialog').waitFor()
await take(page, 'change')
await page.goto(`${base}/desk/p/${id}/collect`)
await take(page, 'collect')
await page.goto(`${base}/desk/p/${id}/check`)
const withPhoto = (await json(`/layers/${layer}/records`)).records.findIndex((r) => r.photos.length > 0)
await page.getByRole('row').nth(withPhoto + 1).getByRole('gridcell').first().click()
await take(page, 'check', 4500)
await page.goto(`${base}/desk/p/${id}/publish/map/${map.id}`)
await take(page, 'map-editor', 5000)
await page.goto(`${base}/desk/p/${id}/publish/board/${board.id}`)
await take(page, 'board-editor', 6000)
await page.goto(base + map.address)
await page.locator('[data-testid=map][data-ready=true]').waitFor()
await page.waitForTimeout(3000)
const area = await page.getByTestId('map').boundingBox()
const features = (await json(`/open/maps/${map.address.slice(3)}/features.geojson`)).features
const cards = []
for (const f of features.slice(0, 60)) if ((await json(`/open/maps/${map.address.slice(3)}/records/${f.id}`)).photos.length) cards.push(f)
const mx = (v) => (v + 180) / 360, my = (v) => 0.5 - Math.log(Math.tan(Math.PI / 4 + (v * Math.PI) / 360)) / (2 * Math.PI)
const [w, s, e, n] = map.extent
const scale = Math.min((area.width - 40) / (mx(e) - mx(w)), (area.height - 40) / (my(s) - my(n)))
for (const f of cards) {
  const [lon, lat] = f.geometry.coordinates
  await page.mouse.click(area.x + area.width / 2 + (mx(lon) - (mx(w) + mx(e)) / 2) * scale, area.y + area.height / 2 + (my(lat) - (my(s) + my(n)) / 2) * scale - 8)
  await page.waitForTimeout(900)
  if (await page.getByRole('button', { name: /^Photo 1/ }).count()) break
}
await take(page, 'public-map', 2500)
await page.goto(base + board.address)
await take(page, 'board', 6000)

const beach = JSON.parse((await import('node:fs')).readFileSync(new URL('../../database/demo/cays/beaches.json', import.meta.url), 'utf8')).find((b) => b.code === 'GH3').points[7]
const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, geolocation: { longitude: beach[0], latitude: beach[1], accuracy: 4 }, permissions: ['geolocation'] })
const field = await phone.newPage()
await signIn(field, '/field', 'ines@example.test')
await field.getByRole('button', { name: 'Get this pack' }).click()
await field.getByRole('button', { name: /Add to Nests/ }).waitFor()
await field.waitForTimeout(4000)
await field.getByRole('button', { name: 'Go to where I stand' }).click()
await take(field, 'field-map', 5000)
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
