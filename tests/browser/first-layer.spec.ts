import { expect, test } from './test'
import { desk } from './yard'

/**
 * Common practice, no source: fewer presses, fewer mistakes. A newcomer's first layer with four fields stays
 * under these.
 */
const MOST_CLICKS = 12

test('a first layer with four fields takes few clicks', async ({ browser }, info) => {
  const page = await desk(browser)
  await page.getByRole('link', { name: /Lamp Watch/ }).click()
  let clicks = 0
  const click = async (role: 'link' | 'button' | 'menuitem', name: string | RegExp) => {
    clicks++
    await page.getByRole(role, { name }).first().click()
  }
  const field = async (kind: string, label: string) => {
    await click('button', 'Add a field')
    await click('menuitem', kind)
    await expect(page.getByLabel('Label', { exact: true })).toBeFocused()
    await page.keyboard.type(label)
  }
  const begun = Date.now()
  await click('link', 'New layer')
  await expect(page.getByLabel('Title')).toBeFocused()
  await page.keyboard.type(`Lamps ${info.retry}`)
  await click('button', 'Next: fields')
  await field('Short text', 'Lamp number')
  await field('One choice', 'Colour')
  // Into the first choice, then Enter for each further one.
  clicks++
  await page.getByLabel('Label of choice 1').click()
  for (const [i, label] of ['White', 'Amber', 'Red'].entries()) {
    await expect(page.getByLabel(`Label of choice ${i + 1}`)).toBeFocused()
    await page.keyboard.type(label)
    if (i < 2) await page.keyboard.press('Enter')
  }
  await field('Whole number', 'Metres to the sand')
  await field('Date', 'Seen on')
  await expect(page.getByRole('group', { name: 'The form on a phone' }).getByLabel('Seen on')).toBeVisible()
  await click('button', 'Make the layer')
  await expect(page.getByText('design 1, in use')).toBeVisible()
  info.annotations.push(
    { type: 'clicks', description: `${clicks} clicks` },
    { type: 'seconds', description: `${Math.round((Date.now() - begun) / 1000)} s by a machine` },
  )
  expect(clicks).toBeLessThanOrEqual(MOST_CLICKS)
  console.log(`a first layer with four fields: ${clicks} clicks`)
})
