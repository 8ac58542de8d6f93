import { readFileSync } from 'node:fs'
import { expect, test } from './test'
import { PHONE, phoneWithPack } from './yard'

// A picture of the map is told by its pixels here.
test.use({ ...PHONE, deviceScaleFactor: 1 })

test('layers are switched, marks explained, distances and areas measured, without signal', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Layers and what the marks mean' }).click()
  const sheet = page.getByRole('dialog')
  await expect(sheet.getByText('Due to open')).toBeVisible()
  await sheet.getByRole('switch', { name: 'Nests' }).click()
  await expect(sheet.getByRole('switch', { name: 'Nests' })).not.toBeChecked()
  await expect(sheet.getByText('Due to open')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.reload()
  await page.getByRole('button', { name: 'Layers and what the marks mean' }).click()
  await expect(sheet.getByRole('switch', { name: 'Nests' })).not.toBeChecked()
  await sheet.getByRole('switch', { name: 'Nests' }).click()
  await sheet.getByRole('button', { name: 'Measure on the map' }).click()
  const said = page.getByRole('status')
  await expect(said).toContainText('0.0 m')
  await page.locator('[data-testid=map][data-ready=true]').waitFor()
  const corner = page.getByRole('button', { name: 'Corner at the crosshair' })
  const move = async (dx: number, dy: number) => {
    const box = (await page.getByTestId('map').boundingBox())!
    await page.mouse.move(box.x + 190, box.y + 250)
    await page.mouse.down()
    await page.mouse.move(box.x + 190 + dx, box.y + 250 + dy, { steps: 6 })
    await page.mouse.up()
    await page.waitForTimeout(700)
  }
  await corner.click()
  await move(-80, 0)
  await expect(said).toContainText(/km/)
  await corner.click()
  await move(0, -80)
  await corner.click()
  await expect(said).toContainText(/ha|km²/)
  await page.getByRole('button', { name: 'nautical miles' }).click()
  await expect(said).toContainText(/NM.*NM²/)
  await page.getByRole('button', { name: 'Begin anew' }).click()
  await expect(said).toContainText('0 m')
})

test('a place is found by its name, a record by any of its words, and the needle points to it', async ({
  context,
}) => {
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: 'List' }).click()
  const asked = page.getByLabel('Find a record or a place')
  await asked.fill('zzzz')
  await expect(page.getByRole('listitem')).toHaveCount(0)
  await asked.fill('petrel l')
  const place = page.getByRole('button', { name: /^Petrel Light/ })
  await expect(place).toContainText('Place')
  await expect(place).toContainText(/ km|\d m/)
  await place.click()
  const chip = page.getByRole('button', { name: 'Take Petrel Light off the map' })
  await expect(chip).toBeVisible()
  await expect(page.getByRole('img', { name: 'What was picked' })).toBeVisible()
  await chip.click()
  await expect(page.getByRole('img', { name: 'What was picked' })).toHaveCount(0)
  // Accents and capitals do not matter.
  await page.getByRole('button', { name: 'List' }).click()
  await asked.fill('LÖGGERHEAD opened')
  await page.getByRole('listitem').first().getByRole('button').click()
  await expect(page.getByRole('img', { name: /^Needle: \d+ degrees from north/ })).toBeVisible()
  await page.evaluate(() =>
    window.dispatchEvent(
      Object.assign(new Event('deviceorientationabsolute'), { alpha: 90, absolute: true }),
    ),
  )
  await expect(page.getByRole('img', { name: /^Needle that turns with the phone/ })).toBeVisible()
})

test('a grid is laid over the map, a sketch with a note drawn, and a picture of all of it saved', async ({
  context,
}) => {
  test.setTimeout(240_000)
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  const sheet = page.getByRole('dialog')
  const tools = () => page.getByRole('button', { name: 'Layers and what the marks mean' }).click()
  await tools()
  await sheet.getByRole('switch', { name: 'Grid of coordinates' }).click()
  await expect(sheet.getByRole('switch', { name: 'Grid of coordinates' })).toBeChecked()
  await sheet.getByRole('button', { name: 'Sketch and note' }).click()
  const keep = page.getByRole('button', { name: 'Keep it' })
  await expect(keep).toBeDisabled()
  await page.locator('[data-testid=map][data-ready=true]').waitFor()
  const box = (await page.getByTestId('sheet').boundingBox())!
  await page.mouse.move(box.x + 60, box.y + 60)
  await page.mouse.down()
  for (let i = 1; i <= 12; i++) await page.mouse.move(box.x + 60 + i * 12, box.y + 60 + Math.sin(i) * 30)
  await page.mouse.up()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(keep).toBeDisabled()
  await page.mouse.move(box.x + 60, box.y + 60)
  await page.mouse.down()
  for (let i = 1; i <= 12; i++) await page.mouse.move(box.x + 60 + i * 12, box.y + 60 + Math.sin(i) * 30)
  await page.mouse.up()
  await page.getByLabel('Note', { exact: true }).fill('Fence is down here')
  await keep.click()
  await expect(page.getByRole('button', { name: 'List' })).toBeVisible()
  await page.reload()
  await page.locator('[data-testid=map][data-ready=true]').waitFor()
  await tools()
  await sheet.getByRole('button', { name: 'Share a picture of the map' }).click()
  const picture = page.getByRole('img', { name: /^Picture of the map of/ })
  await expect(picture).toBeVisible()
  // What was drawn is in it: the purple of sketches, and nothing else on the map is purple.
  await expect
    .poll(() =>
      picture.evaluate((img: HTMLImageElement) => {
        const canvas = Object.assign(document.createElement('canvas'), {
          width: img.naturalWidth,
          height: img.naturalHeight,
        })
        const pen = canvas.getContext('2d')!
        pen.drawImage(img, 0, 0)
        const { data } = pen.getImageData(0, 0, canvas.width, canvas.height)
        let purple = 0
        for (let i = 0; i < data.length; i += 4)
          if (Math.abs(data[i]! - 0x8a) + Math.abs(data[i + 1]! - 0x2b) + Math.abs(data[i + 2]! - 0xa0) < 30)
            purple++
        return purple
      }),
    )
    .toBeGreaterThan(200)
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Share or save it' }).click()
  const file = await saved
  expect(file.suggestedFilename()).toMatch(/^Nest-Patrol-\d{4}-\d\d-\d\d\.png$/)
  const bytes = readFileSync(await file.path())
  expect(bytes.subarray(0, 8).toString('latin1')).toBe('\x89PNG\r\n\x1a\n')
  // The map is in it, not an empty canvas: a picture of one colour would be much smaller.
  expect(bytes.length).toBeGreaterThan(15_000)
})
