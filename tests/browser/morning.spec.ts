import { chromium, type BrowserContext, type Page } from '@playwright/test'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MapView } from '../../resources/ts/shared/types'
import { expect, test } from './test'
import { BEACH, desk, PHONE } from './yard'

/**
 * The whole morning, as its people live it: built, invited, collected without signal, killed, sent, looked
 * at.
 */
test('a layer is built, collected on without signal, and seen by a stranger', async ({
  browser,
  baseURL,
}, info) => {
  test.setTimeout(240_000)
  const suffix = `${info.workerIndex}${Date.now() % 100_000}`
  const page = await desk(browser)

  await test.step('the coordinator starts a programme and builds a layer', async () => {
    await page.getByRole('link', { name: 'New programme' }).click()
    await page.getByLabel('Name').fill(`Crab Count ${suffix}`)
    await page.getByLabel('What is it for?').fill('How many crabs share the beach.')
    await expect(page.getByText('This is the area')).toBeVisible()
    await page.getByRole('button', { name: 'Start the programme' }).click()
    await page.getByRole('link', { name: 'New layer' }).first().click()
    await page.getByLabel('Title').fill('Crabs')
    await page.getByRole('button', { name: 'Next: fields' }).click()
    await addField(page, 'Short text', 'Code')
    await page.getByLabel('Required', { exact: false }).check()
    await addField(page, 'One choice', 'Kind')
    await page.getByLabel('Label of choice 1').fill('Ghost crab')
    await page.getByLabel('Label of choice 1').press('Enter')
    await page.getByLabel('Label of choice 2').fill('Land crab')
    await page.getByLabel('Required', { exact: false }).check()
    await addField(page, 'Whole number', 'How many')
    await page.getByLabel('Lowest').fill('1')
    await page.getByLabel('Highest').fill('50')
    await addField(page, 'Date', 'Seen on')
  })

  await test.step('the form beside the design works before anything is saved', async () => {
    const phone = page.getByRole('group', { name: 'The form on a phone' })
    await phone.getByLabel('How many').fill('many')
    await phone.getByRole('button', { name: 'Save on this phone' }).click()
    await expect(phone.getByText('Code is needed.')).toBeVisible()
    await expect(phone.getByText('How many needs a whole number; “many” is none.')).toBeVisible()
    await page.getByRole('button', { name: 'Make the layer' }).click()
    await expect(page.getByText('design 1, in use')).toBeVisible()
  })

  const [mapAddress, boardAddress] =
    await test.step('a map and a board are opened to anyone with the link', async () => {
      await page.getByRole('link', { name: /^Publish/ }).click()
      await page.getByRole('button', { name: 'New map' }).click()
      await page.getByLabel('Anyone with the link').check()
      const map = await page.getByTestId('address').textContent()
      await page.getByRole('link', { name: /^Publish/ }).click()
      await page.getByRole('button', { name: 'New board' }).click()
      await page.getByRole('button', { name: 'Add a tile' }).click()
      await page.getByRole('button', { name: 'all of them: change' }).click()
      await page.getByLabel('Of which records').selectOption({ label: 'A new slice…' })
      const rule = page.getByRole('dialog').filter({ has: page.getByLabel('What it is about') })
      await rule.getByLabel('What it is about').selectOption({ label: 'Kind' })
      await rule.getByLabel('Value').selectOption({ label: 'Land crab' })
      await expect(rule.getByRole('status')).toContainText('0 records of 0')
      await rule.getByRole('button', { name: 'Save this slice' }).click()
      await expect(rule).toHaveCount(0)
      await page.keyboard.press('Escape')
      await expect(page.getByRole('region', { name: 'Kind: Land crab' })).toContainText('0')
      // Names leave to a link only where that is chosen, tile by tile.
      await page.getByRole('region', { name: 'Latest records' }).click()
      await page.getByLabel('Tell names of records to whoever has the link').check()
      await page.getByLabel('Anyone with the link').check()
      return [map, await page.getByTestId('address').textContent()] as const
    })

  const invitation = await test.step('a crew member is invited', async () => {
    await page.getByRole('link', { name: /^Collect/ }).click()
    await page.getByLabel('Name', { exact: true }).fill('Ola Brandt')
    await page.getByLabel('E-mail').fill(`ola${suffix}@example.test`)
    await page.getByLabel('Crew').fill('Godwit')
    await page.getByRole('button', { name: 'Make the invitation' }).click()
    return (await page.getByTestId('address').filter({ hasText: '/join/' }).textContent()) ?? ''
  })

  const folder = mkdtempSync(join(tmpdir(), 'pinyard-phone-'))
  const { executablePath, args } = info.project.use.launchOptions ?? {}
  const open = async (): Promise<BrowserContext> =>
    chromium.launchPersistentContext(folder, {
      ...PHONE,
      baseURL: baseURL!,
      ...(executablePath ? { executablePath } : {}),
      ...(args ? { args } : {}),
    })
  let phone = await open()
  try {
    await test.step('the phone joins by the link and takes the pack', async () => {
      const p = phone.pages()[0]!
      await p.goto(invitation)
      await p.getByLabel('Choose a password').fill('a-crab-is-no-spider')
      await p.getByRole('button', { name: 'Join' }).click()
      await p.getByRole('button', { name: 'Get this pack' }).click()
      await expect(p.getByRole('button', { name: 'Add to Crabs here' })).toBeEnabled({ timeout: 30_000 })
      await expect
        .poll(() =>
          p.evaluate(async () => (await navigator.serviceWorker.getRegistration('/field'))?.active?.state),
        )
        .toBe('activated')
      await p.reload()
      await expect(p.getByTestId('strip')).toContainText(/all sent/i)
    })

    await test.step('three records with a photo, without signal', async () => {
      await phone.setOffline(true)
      const p = phone.pages()[0]!
      const photo = await p.screenshot({ type: 'jpeg', quality: 60 })
      for (const [code, kind, count] of [
        ['C-1', 'Ghost crab', '3'],
        ['C-2', 'Land crab', '12'],
        ['C-3', 'Land crab', '1'],
      ] as const) {
        await p.getByRole('button', { name: /Add to Crabs/ }).click()
        await p.getByLabel('Code').fill(code)
        await p.getByRole('button', { name: kind }).click()
        await p.getByLabel('How many').fill(count)
        await p.getByRole('button', { name: 'Today' }).click()
        if (code === 'C-2')
          await p
            .locator('input[type=file]')
            .setInputFiles({ name: 'crab.jpg', mimeType: 'image/jpeg', buffer: photo })
        if (code === 'C-2') await expect(p.getByRole('button', { name: 'Draw on crab.jpg' })).toBeVisible()
        await p.getByRole('button', { name: 'Save on this phone' }).click()
        await expect(p.getByRole('button', { name: /Add to Crabs/ })).toBeVisible()
      }
      await expect(p.getByTestId('strip')).toContainText('3 to send')
      await expect(p.getByTestId('strip')).toContainText('No signal')
    })

    await test.step('the browser is killed and opened again, still without signal', async () => {
      await phone.close()
      phone = await open()
      await phone.setOffline(true)
      const p = phone.pages()[0]!
      await p.goto('/field')
      await expect(p.getByTestId('strip')).toContainText('3 to send')
      await p.getByRole('button', { name: 'List' }).click()
      for (const code of ['C-1', 'C-2', 'C-3']) await expect(p.getByText(code)).toBeVisible()
    })

    const stranger = await (await browser.newContext()).newPage()
    await test.step('a stranger has the board open, with nothing on it yet', async () => {
      await stranger.goto(boardAddress!)
      await expect(stranger.getByTestId('number-count')).toHaveText('0')
    })

    await test.step('with signal everything goes by itself, and the board follows within ten seconds', async () => {
      await phone.setOffline(false)
      const p = phone.pages()[0]!
      await expect(p.getByTestId('strip')).toContainText(/all sent/i, { timeout: 20_000 })
      await expect(stranger.getByTestId('number-count')).toHaveText('3', { timeout: 10_000 })
      await expect(stranger.getByRole('region', { name: 'By Kind' })).toContainText('2 · 67 %')
      await expect(stranger.getByRole('region', { name: 'Kind: Land crab' })).toContainText('2')
      await expect(stranger.getByRole('region', { name: 'Latest records' })).toContainText('C-3')
    })

    await test.step('the stranger sees them on the map, with the photo', async () => {
      await stranger.goto(mapAddress!)
      const legend = stranger.getByRole('complementary', { name: 'Legend' })
      await expect(legend).toContainText('Land crab2')
      await expect(stranger.locator('[data-testid=map][data-ready=true]')).toBeVisible({ timeout: 30_000 })
      const token = mapAddress!.split('/').pop()
      const view = (await (await stranger.request.get(`/api/v1/open/maps/${token}`)).json()) as MapView
      const part = `/api/v1/open/maps/${token}/layers/${view.layers[0]!.id}`
      const features = (await (
        await stranger.request.get(`${part}/features.geojson`)
      ).json()) as GeoJSON.FeatureCollection
      expect(features.features.map((f) => f.properties?.name).sort()).toEqual(['C-1', 'C-2', 'C-3'])
      const second = features.features.find((f) => f.properties?.name === 'C-2')!
      const card = (await (await stranger.request.get(`${part}/records/${String(second.id)}`)).json()) as {
        photos: { id: string; state: string }[]
      }
      expect(card.photos.map((f) => f.state)).toEqual(['stored'])
      expect(
        (
          await stranger.request.get(`/api/v1/open/maps/${token}/photos/${card.photos[0]!.id}/view`)
        ).headers()['content-type'],
      ).toBe('image/jpeg')
      // All three stand where the phone stood; a tap on the spot opens one of their cards.
      const { extent } = view
      const spot = pixelOf(
        BEACH.longitude,
        BEACH.latitude,
        extent,
        (await stranger.getByTestId('map').boundingBox())!,
      )
      const opened = stranger.getByRole('region', { name: /^C-\d$/ })
      // As a person would: once more if nothing was drawn there yet.
      await expect(async () => {
        await stranger.mouse.click(spot.x, spot.y)
        await expect(opened).toContainText('How many', { timeout: 5_000 })
      }).toPass({ timeout: 60_000 })
    })

    await test.step('the coordinator sees who sent it', async () => {
      await page.getByRole('link', { name: /^Check/ }).click()
      await expect(page.getByText('3 records, newest first')).toBeVisible()
      await page.getByRole('gridcell', { name: 'C-2' }).click()
      await expect(page.getByRole('img', { name: 'Photo of C-2' })).toBeVisible()
      await expect(page.getByText('Ola Brandt').first()).toBeVisible()
      await page.getByRole('link', { name: /^Collect/ }).click()
      await expect(page.getByRole('row', { name: /Ola Brandt ola/ })).toContainText(/all sent/i)
    })
  } finally {
    await phone.close()
    rmSync(folder, { recursive: true, force: true })
  }
})

/** Where a place is drawn when a map is fitted to an extent with 20 pixels kept free (Web Mercator). */
function pixelOf(
  lon: number,
  lat: number,
  [w, s, e, n]: [number, number, number, number],
  box: { x: number; y: number; width: number; height: number },
) {
  const mx = (v: number) => (v + 180) / 360
  const my = (v: number) => 0.5 - Math.log(Math.tan(Math.PI / 4 + (v * Math.PI) / 360)) / (2 * Math.PI)
  // The map opens beside its legend (open/OpenMap.tsx).
  const [left, right] = [292, 60]
  const scale = Math.min((box.width - left - right) / (mx(e) - mx(w)), (box.height - 40) / (my(s) - my(n)))
  return {
    x: box.x + (left + box.width - right) / 2 + (mx(lon) - (mx(w) + mx(e)) / 2) * scale,
    y: box.y + box.height / 2 + (my(lat) - (my(s) + my(n)) / 2) * scale,
  }
}

async function addField(page: Page, kind: string, label: string) {
  await page.getByRole('button', { name: 'Add a field' }).click()
  await page
    .getByRole('menuitem', { name: new RegExp(`^${kind} `) })
    .first()
    .click()
  await page.getByLabel('Label', { exact: true }).fill(label)
}
