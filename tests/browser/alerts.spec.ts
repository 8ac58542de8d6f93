import { expect, test } from './test'
import { apiAs, CREW, desk, nestOperation, nestPatrol, PHONE, phoneWithPack } from './yard'
import { v7 as uuid } from 'uuid'

test.use(PHONE)

/**
 * An alert is made at the desk, with its slice made in place; a phone's round sets it off; it is told at the desk, by
 * mail and on the phone of a crew, where it is read without signal.
 */
test('a record that comes into a slice is told at the desk, by mail and on phones', async ({
  browser,
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const code = `AL-${Math.random().toString(36).slice(2, 7).toUpperCase()}`
  const crew = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), CREW)
  const { programme, layer } = await nestPatrol(crew)
  const sync = async (operations: unknown[]) =>
    expect((await crew.post('/sync', { device: uuid(), operations, cursors: {} })).status()).toBe(200)

  const office = await desk(browser)
  await office.goto(`/desk/p/${programme}/publish`)
  await office.getByRole('button', { name: 'New alert' }).click()
  const dialog = office.getByRole('dialog', { name: 'New alert' })
  await dialog.getByLabel('Layer').selectOption({ label: 'Nests' })
  await expect(dialog.getByRole('button', { name: 'Save' })).toBeDisabled()
  await dialog.getByLabel('Tell of each record that comes into').selectOption({ label: 'A new slice…' })
  const rule = office.getByRole('dialog').filter({ has: office.getByLabel('What it is about') })
  await rule.getByLabel('What it is about').selectOption({ label: 'Nest code' })
  await rule.getByLabel('Comparison').selectOption({ label: 'contains' })
  await rule.getByLabel('Value').fill(code)
  await rule.getByRole('button', { name: 'Save' }).click()
  await expect(dialog.getByTestId('alert-stands')).toContainText('No record is in it now')
  await dialog.getByLabel('Name').fill(`Look at ${code}`)
  await dialog.getByLabel('Sanderling').check()
  await dialog.getByLabel('On phones, with their next sync').check()
  await dialog.getByLabel('Messages at the most').selectOption({ label: 'as often as it happens' })
  await dialog.getByLabel('Quiet at night').uncheck()
  // Twice at once makes one: further down there is one to pause.
  await dialog.getByRole('button', { name: 'Save' }).dblclick()
  await expect(dialog).toBeHidden()
  await expect(office.getByText('has told nothing yet').first()).toBeVisible()

  await test.step('a round of a phone sets it off', async () => {
    await sync([nestOperation(layer, code), nestOperation(layer, `${code}-ü`)])
    const bell = office.getByRole('button', { name: /Notices: / })
    await expect(bell).toBeVisible({ timeout: 60_000 })
    await bell.click()
    const list = office.getByRole('dialog', { name: 'Notices' })
    await expect(list).toContainText(`Look at ${code}: 2 new records`)
    await expect(list).toContainText(`${code}-ü`)
    await list.getByRole('button', { name: new RegExp(`Look at ${code}`) }).click()
    await expect(office).toHaveURL(/check\?layer=/)
    await expect(office.getByText(`${code}-ü`).first()).toBeVisible()
    await office.goto('/desk/mail-box')
    await expect(office.getByText(`Nest Patrol: Look at ${code}`).first()).toBeVisible()
  })

  await test.step('the phone has it with its next round, and reads it without signal', async () => {
    const page = await phoneWithPack(context)
    await page.getByTestId('strip').click()
    const notice = page.getByTestId('notice').filter({ hasText: `Look at ${code}` })
    await expect(notice).toContainText('2 new records')
    await context.setOffline(true)
    await notice.getByRole('button', { name: code, exact: true }).click()
    await expect(page.getByRole('heading', { name: code })).toBeVisible()
    await page.getByTestId('strip').click()
    await notice.getByRole('button', { name: 'Read' }).click()
    await expect(notice).toBeHidden()
    await page.reload()
    await page.getByTestId('strip').click()
    await expect(page.getByRole('button', { name: 'Save a rescue file' })).toBeVisible()
    await expect(notice).toBeHidden()
    await context.setOffline(false)
    await expect
      .poll(
        async () =>
          (await crew.get<{ notices: { text: string; read: boolean }[] }>('/notices')).notices.find((n) =>
            n.text.includes(code),
          )?.read,
        { timeout: 60_000 },
      )
      .toBe(true)
  })

  await test.step('it is paused, deleted and brought back', async () => {
    await office.goto(`/desk/p/${programme}/publish`)
    await office.getByRole('button', { name: `Pause: Look at ${code}` }).click()
    await expect(office.getByRole('button', { name: `Go on: Look at ${code}` })).toBeVisible()
    await office.getByRole('button', { name: `Delete: Look at ${code}` }).click()
    await expect(office.getByRole('button', { name: `Go on: Look at ${code}` })).toBeHidden()
    await office.getByRole('button', { name: 'Undo' }).click()
    await expect(office.getByRole('button', { name: `Pause: Look at ${code}` })).toBeVisible()
    await office.getByRole('button', { name: `Delete: Look at ${code}` }).click()
    await expect(office.getByRole('button', { name: `Pause: Look at ${code}` })).toBeHidden()
  })
})
