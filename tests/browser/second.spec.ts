import { createHmac } from 'node:crypto'
import { expect, test } from './test'
import { apiAs } from './yard'

/** The code of an authenticator app (RFC 6238), made here and not by what is tested. */
function codeOf(secret: string, later = 0): string {
  const bits = [...secret.replace(/\s/g, '')]
    .map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0'))
    .join('')
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => parseInt(b, 2)))
  const step = Buffer.alloc(8)
  step.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + later))
  const hash = createHmac('sha1', key).update(step).digest()
  const at = (hash[19] ?? 0) & 15
  return String((hash.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

test('a second factor is set up, asked for at the next sign-in, and left out again', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(120_000)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const mark = Math.random().toString(36).slice(2, 8)
  const programme = (await (
    await api.post('/programmes', { name: `Second ${mark}`, time_zone: 'UTC', area: [-1, -1, 1, 1] })
  ).json()) as { id: number }
  // Of whom one is demanded is worked out whenever somebody comes to coordinate: several at once must not stand in each other's way.
  const several = await Promise.all(
    [1, 2, 3, 4, 5, 6, 7, 8].map((i) =>
      api.post('/programmes', { name: `Second ${mark} ${i}`, time_zone: 'UTC', area: [-1, -1, 1, 1] }),
    ),
  )
  expect(several.map((r) => r.status())).toEqual(Array(8).fill(201))
  const email = `kim.${mark}@example.test`
  const invited = (await (
    await api.post(`/programmes/${programme.id}/people`, { name: 'Kim Aro', email, role: 'guest' })
  ).json()) as { address: string }
  const page = await (await browser.newContext()).newPage()
  await page.goto(invited.address)
  await page.getByLabel('Password').fill('lantern-on-the-reef')
  await page.getByRole('button', { name: 'Join' }).click()
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible()

  await page.goto('/desk/me')
  const sheet = page.locator('section').filter({ hasText: 'Second factor' })
  await sheet.getByLabel('Current password').fill('not-this-one')
  await sheet.getByRole('button', { name: 'Set it up' }).click()
  await expect(sheet.getByRole('alert')).toBeVisible()
  await sheet.getByLabel('Current password').fill('lantern-on-the-reef')
  await sheet.getByRole('button', { name: 'Set it up' }).click()
  const secret = (await sheet.getByTestId('secret').innerText()).trim()
  await sheet.getByLabel('The six digits').fill('000000')
  await sheet.getByRole('button', { name: 'Switch it on' }).click()
  await expect(sheet.getByRole('alert')).toContainText('not the code of now')
  await sheet.getByLabel('The six digits').fill(codeOf(secret))
  await sheet.getByRole('button', { name: 'Switch it on' }).dblclick()
  await expect(sheet.getByText('Write these down, on paper')).toBeVisible()
  const written = await sheet.getByRole('status').getByRole('listitem').allInnerTexts()
  expect(written).toHaveLength(10)

  const other = await (await browser.newContext()).newPage()
  await other.goto('/desk')
  await other.getByLabel('E-mail').fill(email)
  await other.getByLabel('Password').fill('lantern-on-the-reef')
  await other.getByRole('button', { name: 'Sign in' }).click()
  await other.getByLabel('Code').fill('123')
  await other.getByRole('button', { name: 'Sign in' }).click()
  await expect(other.getByRole('alert')).toContainText('not the code of now')
  // That of the next half minute, for the one of now was taken when it was set up.
  await other.getByLabel('Code').fill(codeOf(secret, 1))
  await other.getByRole('button', { name: 'Sign in' }).click()
  await expect(other.getByRole('heading', { name: 'Programmes' })).toBeVisible()

  // The field app asks for it, too, and takes one that was written down.
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await phone.goto('/field')
  await phone.getByLabel('E-mail').fill(email)
  await phone.getByLabel('Password').fill('lantern-on-the-reef')
  await phone.getByRole('button', { name: 'Sign in' }).click()
  await phone.getByLabel('Code').fill(written[0]!)
  await phone.getByRole('button', { name: 'Sign in' }).click()
  await expect(phone.getByLabel('Code')).toHaveCount(0)

  await page.reload()
  await sheet.getByLabel('Current password').fill('lantern-on-the-reef')
  await sheet.getByRole('button', { name: 'Do without it again' }).click()
  await expect(sheet.getByText('off', { exact: true })).toBeVisible()

  // Another name, and another address, which is one's own when its mail was opened.
  const own = page.locator('section').filter({ hasText: 'Name and address' })
  await own.getByLabel('What you are called').fill('Kim  Ārø')
  await own.getByRole('button', { name: 'Save the name' }).dblclick()
  await expect(own.getByText('From now on you are called so.')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Kim Ārø' })).toBeVisible()
  const next = `kim.new.${mark}@example.test`
  await own.getByLabel('New mail address').fill(next)
  await own.getByLabel('Current password').fill('lantern-on-the-reef')
  await page.context().setOffline(true)
  await own.getByRole('button', { name: 'Mail the link' }).click()
  await expect(own.getByRole('alert')).toBeVisible()
  await page.context().setOffline(false)
  await own.getByRole('button', { name: 'Mail the link' }).dblclick()
  await expect(own.getByText(`A link is on its way to ${next}`)).toBeVisible()
  let link = ''
  await expect(async () => {
    const mails = await api.get<{ to: string; text: string }[]>('/mail-box')
    link = /\/address\/\w+/.exec(mails.find((m) => m.to === next)?.text ?? '')?.[0] ?? ''
    expect(link).not.toBe('')
  }).toPass()
  await page.goto(link)
  await page.getByRole('button', { name: 'Use this address' }).click()
  await expect(page.getByText('From now on you sign in with this address.')).toBeVisible()
  await page.goto('/desk/me')
  await expect(page.getByText(`You sign in with ${next}.`)).toBeVisible()
  await page.goto(link)
  await expect(page.getByText('This link was used already')).toBeVisible()
})
