import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from './test'
import { apiAs, BEACH, nestPatrol, PASSWORD, PHONE, phoneWithPack } from './yard'

test.use(PHONE)

/** A picture of one loud colour, to be found again among those of the map. */
function pink(): string {
  const file = join(mkdtempSync(join(tmpdir(), 'pin-yard-')), 'pink.jpg')
  execFileSync('php', [
    '-r',
    '$i = imagecreatetruecolor(800, 600); imagefilledrectangle($i, 0, 0, 800, 600, 0xFF00C8); imagejpeg($i, $argv[1], 90);',
    file,
  ])
  return file
}

/** How much of the middle of the screen has that colour. */
const pinkShown = async (page: Page) => {
  const shot = (await page.screenshot()).toString('base64')
  return page.evaluate(async (png) => {
    const picture = await createImageBitmap(new Blob([Uint8Array.from(atob(png), (c) => c.charCodeAt(0))]))
    const canvas = new OffscreenCanvas(picture.width, picture.height)
    const pen = canvas.getContext('2d')!
    pen.drawImage(picture, 0, 0)
    const { data } = pen.getImageData(0, 0, picture.width, picture.height)
    let found = 0
    for (let i = 0; i < data.length; i += 4)
      if (data[i]! > 200 && data[i + 1]! < 80 && data[i + 2]! > 150) found++
    return found
  }, shot)
}

const thumbs = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((done, fail) => {
        const asked = indexedDB.open('pin-yard')
        asked.onerror = () => fail(asked.error ?? new Error('not opened'))
        asked.onsuccess = () => {
          const count = asked.result.transaction('thumbs').objectStore('thumbs').count()
          count.onsuccess = () => {
            asked.result.close()
            done(count.result)
          }
        }
      }),
  )

let away: (() => Promise<unknown>) | null = null
// Phones of other tests would fetch its pictures.
test.afterEach(async () => {
  await away?.()
  away = null
})

test('a photo that was taken without signal stands on the phone’s map as its mark, and goes with its bearer', async ({
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { programme, layer } = await nestPatrol(api)
  const title = `Seen ${Math.random().toString(36).slice(2, 7)}`
  // Where no other test leaves its marks.
  const [lon, lat] = [BEACH.longitude - 0.02 - Math.random() * 0.02, BEACH.latitude - Math.random() * 0.03]
  await context.setGeolocation({ longitude: lon, latitude: lat, accuracy: 4 })
  const made = await api.post(`/programmes/${programme}/maps`, {
    title,
    extent: [lon - 0.004, lat - 0.006, lon + 0.004, lat + 0.006],
    layers: [
      {
        id: 'lphotos0',
        layer,
        look: { kind: 'single', peg: { head: 'disc', colour: '#115E52' }, photos: true },
        card: { fields: ['nest_code'], photos: true },
      },
    ],
  })
  expect(made.status()).toBe(201)
  const { id } = (await made.json()) as { id: number }
  away = () => api.post('/things', { action: 'bin', things: [{ kind: 'map', id }], with: null })

  const page = await phoneWithPack(context)
  await context.setOffline(true)
  const show = async () => {
    await page.getByRole('button', { name: 'Layers and what the marks mean' }).click()
    await page.getByRole('button', { name: 'Gallery' }).click()
    await page.getByRole('button', { name: new RegExp(title) }).click()
    await page.locator('[data-ready=true]').waitFor()
  }
  await show()
  await expect(page.getByRole('button', { name: `${title}: back to all layers` })).toBeVisible()
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill(title)
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
  await page.getByLabel('Photos: Photo').setInputFiles(pink())
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.locator('[data-ready=true]').waitFor()
  // As soon as it was saved, from the phone's own outbox.
  await expect.poll(() => pinkShown(page), { timeout: 30_000 }).toBeGreaterThan(60)

  // Sent, the phone keeps no more than a small picture of it.
  await context.setOffline(false)
  await expect(page.getByTestId('strip')).toContainText('all sent', { timeout: 60_000 })
  await expect.poll(() => thumbs(page)).toBeGreaterThan(0)
  await context.setOffline(true)
  await page.reload()
  await show()
  await expect.poll(() => pinkShown(page), { timeout: 30_000 }).toBeGreaterThan(60)

  // Whoever takes the phone next finds none of them.
  await context.clearCookies()
  await context.setOffline(false)
  const strip = page.getByTestId('strip')
  await expect(strip).toContainText('Sign in', { timeout: 60_000 })
  await strip.click()
  await page.getByLabel('E-mail').fill('ruth@example.test')
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect.poll(() => thumbs(page), { timeout: 30_000 }).toBe(0)
})
