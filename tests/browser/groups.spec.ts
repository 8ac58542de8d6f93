import { expect, test } from './test'
import { desk, ownProgramme } from './yard'

/*
 * Partners are asked in from a pasted list, are put into a group, and see of a layer what was said for that group, and
 * no more: said, looked at as they see it, and seen by one of them.
 */
test('a group is made, invited from a list, shown blurred records, and looked at as it sees them', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const { api, made, mark, programme } = await ownProgramme(playwright, baseURL, 'Groups')
  const dens = await made(`/programmes/${programme.id}/layers`, {
    title: 'Höhlen',
    geometry: 'point',
    name_field: 'code',
    fields: [
      { key: 'code', label: 'Code', kind: 'short_text', required: true },
      { key: 'pups', label: 'Welpen', kind: 'whole_number' },
    ],
    rights: { crew: { add: true, see: 'all' }, public: { see: false } },
  })
  for (const i of [0, 1, 2])
    await made(`/layers/${dens.id}/records`, {
      values: { code: `GEHEIM-${i}`, pups: 40 + i },
      geometry: { type: 'Point', coordinates: [-11.65 + i * 0.03, -14.2] },
    })
  await made(`/programmes/${programme.id}/maps`, { title: 'Wo sie sind', layer: dens.id })
  const page = await desk(browser)
  const anna = `anna.${mark}@example.test`

  await test.step('a group is made, and a pasted list asked in: who has no address is left out, and told', async () => {
    await page.goto(`/desk/p/${programme.id}/collect`)
    await page.getByRole('link', { name: 'Roles and groups' }).click()
    await page.getByLabel('A new group').fill('Übersee')
    // Two taps are one group.
    await page.getByRole('button', { name: 'Make it' }).dblclick()
    await expect(page.getByRole('button', { name: 'Change Übersee' })).toHaveCount(1)
    await page.getByRole('button', { name: 'Several' }).click()
    await page
      .getByLabel('One person in each line')
      .fill(`Anna Berg <${anna}>\nBo Dahl\nČapek, Jan\tjan.${mark}@example.test\n${anna}`)
    await page.getByRole('combobox', { name: 'Role' }).selectOption({ label: 'Guest' })
    await page.getByRole('group', { name: 'In these groups' }).getByLabel('Übersee').check()
    await page.getByRole('button', { name: 'Invite them all' }).click()
    await expect(page.getByText('2 people are asked in, 2 lines were left out.')).toBeVisible()
    await expect(page.getByText('No mail address in this line.')).toBeVisible()
    await expect(page.getByRole('heading', { name: '2 are asked in and not here yet' })).toBeVisible()
    await page.getByRole('button', { name: 'Take back the invitation of Čapek Jan' }).click()
    await expect(page.getByRole('heading', { name: '1 is asked in and not here yet' })).toBeVisible()
  })
  await test.step('who sees what is said for the group', async () => {
    await page.getByRole('link', { name: 'Who sees what' }).click()
    await page.getByRole('button', { name: 'Höhlen, Übersee: nothing' }).click()
    const panel = page.getByRole('region', { name: 'Höhlen for Übersee' })
    await panel.getByLabel('Which records').selectOption({ label: 'all of them' })
    await panel.getByLabel('all fields, also those to come').uncheck()
    await panel.getByLabel('Code').uncheck()
    await panel.getByRole('button', { name: 'Show it so' }).click()
    await expect(
      page.getByRole('button', { name: 'Höhlen, Übersee: blurred to 500 m , 1 of 2 fields' }),
    ).toBeVisible()
    await expect(page.getByRole('button', { name: 'Höhlen, Guests: nothing' })).toBeVisible()
  })
  await test.step('seen as the group sees it: said on each page, nothing to change, and the way back', async () => {
    await page.getByRole('button', { name: 'see it so, as Übersee do' }).click()
    await expect(page.getByText('You see this programme as Übersee do.')).toBeVisible()
    await expect(page.getByRole('button', { name: 'New map' })).toHaveCount(0)
    await page.getByRole('link', { name: /Wo sie sind/ }).click()
    await expect(page.getByRole('heading', { name: 'Wo sie sind' })).toBeVisible()
    await expect(page.getByText(/“Höhlen”: each record stands somewhere/).first()).toBeVisible()
    await page.getByRole('link', { name: 'Check' }).click()
    await expect(page.getByText('40', { exact: true })).toBeVisible()
    await expect(page.getByText('GEHEIM')).toHaveCount(0)
    await page.getByText('40', { exact: true }).click()
    await expect(page.getByText(/somewhere in a square of 500 m or more/)).toBeVisible()
    await page.getByRole('button', { name: 'Back to what you see' }).click()
    await expect(page.getByText('You see this programme as')).toHaveCount(0)
    await expect(page.getByRole('button', { name: /Höhlen, Übersee/ })).toBeVisible()
  })
  await test.step('one of them comes by the mail, sees just that, and loses it with the group', async () => {
    // Mails go out behind the answer.
    const sent = async () =>
      (await api.get<{ to: string; text: string }[]>('/mail-box')).find((l) => l.to === anna)?.text
    await expect.poll(sent).toBeTruthy()
    const letter = await sent()
    const own = await browser.newContext()
    const guest = await own.newPage()
    await guest.goto(new URL(/https?:\/\/\S+\/join\/\S+/.exec(letter!)![0]).pathname)
    await guest.getByLabel('Password').fill('a-den-in-the-dunes')
    await guest.getByRole('button', { name: 'Join' }).click()
    await guest.getByRole('link', { name: `Groups ${mark}` }).click()
    await expect(guest.getByRole('link', { name: /Wo sie sind/ })).toBeVisible()
    await expect(guest.getByRole('link', { name: 'Build' })).toHaveCount(0)
    const records = guest.waitForResponse((r) => r.url().includes(`/layers/${dens.id}/records`))
    await guest.getByRole('link', { name: 'Check' }).click()
    expect(await (await records).text()).not.toContain('GEHEIM')
    await expect(guest.getByText('42', { exact: true })).toBeVisible()
    await expect(guest.getByRole('button', { name: /Add a record/ })).toHaveCount(0)
    await page.goto(`/desk/p/${programme.id}/people`)
    await page.getByRole('button', { name: 'Change Anna Berg' }).click()
    await page.getByRole('group', { name: 'Change Anna Berg' }).getByLabel('Übersee', { exact: true }).click()
    await expect(page.getByText('nobody yet')).toBeVisible()
    await guest.goto(`/desk/p/${programme.id}/publish`)
    await expect(guest.getByText('Nothing is shown to you yet')).toBeVisible()
    await own.close()
  })
  await test.step('one link for many: its code is typed in a hurry, and leads a guest in', async () => {
    await page.getByRole('button', { name: 'Many by one link' }).click()
    await page.getByLabel('For so many people').fill('1')
    await expect(page.getByRole('button', { name: 'Make the link' })).toBeDisabled()
    await page.getByLabel('For so many people').fill('2')
    const form = page.locator('form').filter({ hasText: 'For so many people' })
    await form.getByRole('combobox', { name: 'Role' }).selectOption({ label: 'Guest' })
    await page.getByRole('button', { name: 'Make the link' }).click()
    const code = await page.getByTestId('code').innerText()
    const phone = await browser.newContext({ viewport: { width: 390, height: 844 } })
    const kofi = await phone.newPage()
    await kofi.goto('/join')
    await kofi.getByLabel('Code of the invitation').fill('0000 0000 0000')
    await kofi.getByRole('button', { name: 'Go on' }).click()
    await expect(kofi.getByText('This code leads nowhere')).toBeVisible()
    await kofi.getByLabel('Code of the invitation').fill(code.toLowerCase().replaceAll('-', ' '))
    await kofi.getByRole('button', { name: 'Go on' }).click()
    await kofi.getByLabel('Your name').fill('Köfi  Ménsah')
    await kofi.getByLabel('E-mail').fill(`kofi.${mark}@example.test`)
    await kofi.getByLabel('Choose a password').fill('lantern-on-the-reef')
    await kofi.getByRole('button', { name: 'Show' }).click()
    await expect(kofi.getByLabel('Choose a password')).toHaveAttribute('type', 'text')
    await kofi.getByRole('button', { name: 'Join' }).click()
    await expect(kofi.getByRole('heading', { name: 'Programmes' })).toBeVisible()
    await page.reload()
    await expect(page.getByText('Köfi Ménsah')).toBeVisible()
    await expect(page.getByText('1 person has come by it')).toBeVisible()
    await page.getByRole('button', { name: 'Take back the invitation of a link for 2 people' }).click()
    await expect(page.getByText('1 person has come by it')).toHaveCount(0)
    await kofi.goto('/join')
    await kofi.getByLabel('Code of the invitation').fill(code)
    await kofi.getByRole('button', { name: 'Go on' }).click()
    await expect(kofi.getByText('This code leads nowhere')).toBeVisible()
    await phone.close()
  })
  await page.close()
})
