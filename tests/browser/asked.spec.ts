import { expect, test } from './test'
import { apiAs, CREW, desk, nestOperation, nestPatrol, PHONE, phoneWithPack } from './yard'
import { readFileSync } from 'node:fs'
import { v7 as uuid } from 'uuid'

test.use(PHONE)

/**
 * A question of the desk is read and answered on the phone, without signal too, and the answer comes back.
 */
test('the desk asks back about a record, the crew answers where there is no signal, the desk reads it', async ({
  browser,
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const code = `AB-${Math.random().toString(36).slice(2, 7).toUpperCase()}`
  const crew = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), CREW)
  const { programme, layer } = await nestPatrol(crew)
  const operation = nestOperation(layer, code)
  expect((await crew.post('/sync', { device: uuid(), operations: [operation], cursors: {} })).status()).toBe(
    200,
  )

  const office = await desk(browser)
  await office.goto(`/desk/p/${programme}/check?layer=${layer}&record=${operation.record}`)
  const section = office.getByRole('region', { name: 'Asked back' })
  const ask = section.getByRole('button', { name: 'Ask', exact: true })
  await expect(ask).toBeDisabled()
  await section.getByLabel('Ask Ines Calder').fill(`Is the stake of ${code} on the seaward side?`)
  await ask.click()
  await expect(section.getByText('No answer yet')).toBeVisible()

  const page = await phoneWithPack(context)
  await expect(page.getByTestId('strip')).toContainText(/question.* from the desk/)
  await context.setOffline(true)
  await page.getByTestId('strip').click()
  await expect(page.getByText(`Is the stake of ${code} on the seaward side?`)).toBeVisible()
  // Others may wait for an answer as well: the one of this record.
  await page
    .getByText(`Is the stake of ${code} on the seaward side?`)
    .locator('xpath=ancestor::*[.//button][1]')
    .getByRole('button', { name: 'See the record' })
    .click()
  await expect(page.getByRole('heading', { name: code })).toBeVisible()
  const answer = page.getByRole('button', { name: 'Answer', exact: true })
  await expect(answer).toBeDisabled()
  await page.getByLabel('Your answer').fill(`Yes, two steps from the reeds (${code})`)
  await answer.click()
  await expect(page.getByText('Your answer goes with the next sync.')).toBeVisible()
  // The answer is in the rescue file too, and comes back out of it.
  await page.getByTestId('strip').click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save a rescue file' }).click(),
  ])
  const file = readFileSync(await download.path())
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        const open = indexedDB.open('pin-yard')
        open.onsuccess = () => {
          const tx = open.result.transaction('asked', 'readwrite')
          tx.objectStore('asked').clear()
          tx.oncomplete = () => done()
        }
      }),
  )
  await page.reload()
  await expect(page.getByRole('button', { name: 'Save a rescue file' })).toBeDisabled()
  await page
    .getByLabel('Take one in')
    .last()
    .setInputFiles({ name: 'rescue.json', mimeType: 'application/json', buffer: file })
  await expect(page.getByText('1 thing was taken in and will be sent.')).toBeVisible()
  await page.reload()
  await expect(page.getByText('Your answer goes with the next sync.')).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByText(`Is the stake of ${code} on the seaward side?`)).toHaveCount(0, {
    timeout: 60_000,
  })

  await office.goto(`/desk/p/${programme}/check`)
  await expect(office.getByText(/answers? (has|have) come back/)).toBeVisible()
  await office.getByRole('link', { name: 'Read' }).click()
  await expect(office.getByText(`Yes, two steps from the reeds (${code})`)).toBeVisible()
  // Answered ones come first; the demo has one more that waits.
  await office.getByRole('button', { name: 'Close' }).first().click()
  await expect(office.getByText(`Yes, two steps from the reeds (${code})`)).toHaveCount(0)
  await expect(office.getByText('No answer yet')).toBeVisible()
})
