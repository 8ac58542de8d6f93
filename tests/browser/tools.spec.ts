import { expect, test } from '@playwright/test'
import { PHONE, phoneWithPack } from './yard'

test.use(PHONE)

test('layers are switched, marks explained, distances and areas measured, without signal', async ({ context }) => {
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
