import type { Page } from '@playwright/test'
import { expect, test } from './test'
import { apiAs, COORDINATOR, desk, nestPatrol, signIn, shownByDemo } from './yard'

/** A programme of its own for a test, with a layer if fields are given; answers with its number. */
async function freshProgramme(page: Page, fields?: object[]) {
  return page.evaluate(async (given) => {
    const token = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? '')
    const post = async (path: string, body: unknown) =>
      (
        await fetch(`/api/v1${path}`, {
          method: 'POST',
          body: JSON.stringify(body),
          headers: { 'Content-Type': 'application/json', Accept: 'application/json', 'X-XSRF-TOKEN': token },
        })
      ).json() as Promise<{ id: number }>
    const programme = await post('/programmes', {
      name: `Test ${Math.random().toString(36).slice(2, 8)}`,
      time_zone: 'UTC',
      area: [-11.7, -14.3, -11.5, -14.1],
    })
    const layer = given
      ? await post(`/programmes/${programme.id}/layers`, { title: 'Posts', geometry: 'point', fields: given })
      : null
    return { programme: programme.id, layer: layer?.id ?? 0 }
  }, fields)
}

const KIND = {
  key: 'kind',
  label: 'Kind',
  kind: 'one_choice',
  required: true,
  choices: [
    { code: 'a', label: 'Oak' },
    { code: 'b', label: 'Elm' },
  ],
}
const CODE = { key: 'code', label: 'Code', kind: 'short_text', required: true }

test.describe('the designer', () => {
  test('takes rows pasted from a spreadsheet as choices, and finds doubled ones', async ({ browser }) => {
    const page = await desk(browser)
    const { programme } = await freshProgramme(page)
    await page.goto(`/desk/p/${programme}/build/new`)
    await page.getByLabel('Title').fill('Trees')
    await page.getByRole('button', { name: 'Next: fields' }).click()
    await page.getByRole('button', { name: 'Add a field' }).click()
    await page.getByRole('menuitem', { name: 'One choice' }).click()
    await page.getByLabel('Label', { exact: true }).fill('Kind')
    await page.getByLabel('Label of choice 1').evaluate((input) => {
      const data = new DataTransfer()
      data.setData('text', 'OK\tOak\r\nEL\tElm\r\nOK\tOak again\r\n')
      input.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      )
    })
    await expect(page.getByLabel('Code of choice 2')).toHaveValue('EL')
    await expect(page.getByRole('alert')).toContainText('Choices 1 and 3 have the same code. Change one.')
    await page.getByLabel('Code of choice 3').fill('O2')
    await expect(page.getByRole('alert')).toHaveCount(0)
    await expect(page.getByRole('group', { name: 'The form on a phone' }).locator('button')).toHaveText([
      'Oak',
      'Elm',
      'Oak again',
      'Save on this phone',
    ])
  })

  test('can be undone step by step, and fields can be moved', async ({ browser }) => {
    const page = await desk(browser)
    const { programme, layer } = await freshProgramme(page, [CODE, KIND])
    await page.goto(`/desk/p/${programme}/build/${layer}`)
    const labels = page.locator('ol > li b')
    await expect(labels).toHaveText(['Code', 'Kind'])
    await page.getByRole('button', { name: 'Move Kind up' }).click()
    await expect(labels).toHaveText(['Kind', 'Code'])
    await page.getByRole('button', { name: 'Remove Code' }).click()
    await expect(labels).toHaveText(['Kind'])
    await page.getByRole('button', { name: 'Undo' }).click()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(labels).toHaveText(['Code', 'Kind'])
    await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
    await expect(page.getByRole('status').first()).toHaveText('Saved')
  })

  test('retires a choice, and gives the next design to the crews', async ({ browser }) => {
    const page = await desk(browser)
    const { programme, layer } = await freshProgramme(page, [CODE, KIND])
    await page.goto(`/desk/p/${programme}/build/${layer}`)
    await page.getByRole('button', { name: /Kind kind/ }).click()
    await expect(page.getByLabel('Key')).toBeDisabled()
    await page.getByRole('button', { name: 'Retire Elm' }).click()
    await expect(
      page.getByRole('group', { name: 'The form on a phone' }).getByRole('button', { name: 'Elm' }),
    ).toHaveCount(0)
    await page.getByRole('button', { name: 'Give design 2 to the crews' }).click()
    await expect(page.getByText('design 2, in use')).toBeVisible()
  })

  test('brings together what two people changed, and hides nothing of it', async ({ browser }) => {
    const page = await desk(browser)
    const { programme, layer } = await freshProgramme(page, [CODE])
    const other = await desk(browser)
    for (const p of [page, other]) {
      await p.goto(`/desk/p/${programme}/build/${layer}`)
      await p.getByRole('button', { name: /Code code/ }).click()
    }
    await page.getByLabel('Hint under the field').fill('From the first')
    await page.getByRole('button', { name: 'Give design 2 to the crews' }).click()
    await expect(page.getByText('design 2, in use')).toBeVisible()
    await other.getByLabel('Hint under the field').fill('From the second')
    await other.getByRole('button', { name: 'Give design 2 to the crews' }).click()
    const dialog = other.getByRole('dialog')
    await expect(dialog).toContainText('Someone else saved design 2 meanwhile')
    await expect(dialog).toContainText(
      'Both of you changed Code: hint. Theirs stands now; yours was: From the second',
    )
    await dialog.getByRole('button', { name: 'Bring both together' }).click()
    await expect(other.getByLabel('Hint under the field')).toHaveValue('From the first')
    await expect(other.getByText('Both are in the design now.')).toBeVisible()
    await other.getByRole('button', { name: 'Undo' }).click()
    await expect(other.getByLabel('Hint under the field')).toHaveValue('From the second')
    await other.getByRole('button', { name: 'Give design 3 to the crews' }).click()
    await expect(other.getByText('design 3, in use')).toBeVisible()
  })

  test('says what is wrong where it is wrong, and refuses to save it', async ({ browser }) => {
    const page = await desk(browser)
    const { programme } = await freshProgramme(page)
    await page.goto(`/desk/p/${programme}/build/new`)
    await page.getByLabel('Title').fill('Trees')
    await page.getByRole('button', { name: 'Next: fields' }).click()
    await page.getByRole('button', { name: 'Add a field' }).click()
    await page.getByRole('menuitem', { name: 'Whole number' }).click()
    await page.getByLabel('Label', { exact: true }).fill('Girth')
    await page.getByLabel('Lowest').fill('9')
    await page.getByLabel('Highest').fill('1')
    await expect(page.getByText('The lowest (9) is above the highest (1). Swap them?').first()).toBeVisible()
    await page.getByLabel('Key').fill('lat')
    await expect(
      page.getByText('“lat” has a meaning of its own already. Choose another key.').first(),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Make the layer' }).click()
    await expect(page.getByText('not made yet')).toBeVisible()
    await page.getByLabel('Label', { exact: true }).fill('x'.repeat(300))
    await expect(page.getByText('This has 300 characters; 120 is the most.').first()).toBeVisible()
  })
})

test('a map is changed and saves itself, and the public sees the change', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await desk(browser)
  const { programme, layer } = await freshProgramme(page, [CODE, KIND])
  await page.goto(`/desk/p/${programme}/publish`)
  await page.getByRole('button', { name: 'New map' }).click()
  await page.getByLabel('Anyone with the link').check()
  const address = (await page.getByTestId('address').textContent())!
  // Over plain HTTP browsers give pages no clipboard: the words are marked, and copied as keys would.
  await page.evaluate(() => Object.defineProperty(navigator, 'clipboard', { value: undefined }))
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  expect(await page.evaluate(() => getSelection()?.toString())).toBe(address)
  const token = address.split('/').pop()
  const stranger = await playwright.request.newContext({ baseURL: baseURL! })
  const view = async () =>
    (await (await stranger.get(`/api/v1/open/maps/${token}`)).json()) as {
      title: string
      layers: { by: string | null; legend: { head: string; colour: string }[] }[]
    }

  await page.getByLabel('Title').fill('Where the trees are')
  await expect.poll(async () => (await view()).title).toBe('Where the trees are')
  await page.getByRole('button', { name: /Elm/ }).click()
  await page.getByRole('button', { name: 'Cross' }).click()
  await page.getByRole('button', { name: '#7A4B8C' }).click()
  await page.keyboard.press('Escape')
  await expect
    .poll(async () => (await view()).layers[0]!.legend[1])
    .toMatchObject({ head: 'cross', colour: '#7A4B8C' })
  await page.getByLabel('Marks by').selectOption({ label: 'One mark for all' })
  await expect.poll(async () => (await view()).layers[0]!.by).toBeNull()
  await page.reload()
  await expect(page.getByLabel('Title')).toHaveValue('Where the trees are')
  await expect(page.getByLabel('Marks by')).toHaveValue('')
  await page.getByLabel("The programme's people").check()
  await expect.poll(async () => (await stranger.get(`/api/v1/open/maps/${token}`)).status()).toBe(404)
  expect(layer).toBeGreaterThan(0)
})

test('the area of a programme is what the frame holds', async ({ browser }) => {
  const page = await desk(browser)
  const { programme } = await freshProgramme(page)
  await page.goto(`/desk/p/${programme}/plan?part=programme`)
  await page.locator('[data-testid=map][data-ready=true]').waitFor()
  const area = page.getByText(/° W to .*° S to/)
  await expect(area).toHaveText('11.700° W to 11.500° W, 14.300° S to 14.100° S')
  // Looking at it changes nothing; zooming in by hand does.
  await page.getByLabel('What is it for?').fill('To be sure')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await expect(area).toHaveText('11.700° W to 11.500° W, 14.300° S to 14.100° S')
  const map = (await page.getByTestId('map').boundingBox())!
  await page.mouse.move(map.x + map.width / 2, map.y + map.height / 2)
  await page.mouse.wheel(0, -400)
  await expect(area).not.toHaveText('11.700° W to 11.500° W, 14.300° S to 14.100° S')
  await page.getByRole('button', { name: 'Save' }).click()
  const shown = await area.textContent()
  await page.reload()
  await expect(area).toHaveText(shown!)
})

test('on a narrow screen the two halves are flipped between', async ({ browser, playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme, layer } = await nestPatrol(api)
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await signIn(page)
  await page.getByRole('heading', { name: 'Programmes' }).waitFor()
  await page.goto(`/desk/p/${programme}/build/${layer}`)
  await expect(page.getByRole('heading', { name: 'Nests' })).toBeVisible()
  await expect(page.getByRole('group', { name: 'The form on a phone' })).toHaveCount(0)
  await page.getByRole('button', { name: 'See', exact: true }).click()
  await expect(page.getByRole('group', { name: 'The form on a phone' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Nests', exact: true })).toHaveCount(0)
  // Nothing reaches beyond the screen's edge.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
})

test('a shared board and map fit a phone', async ({ browser, playwright, baseURL }) => {
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
  const { programme } = await nestPatrol(api)
  const { map, board } = await shownByDemo(api, programme)
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  for (const [address, heading] of [
    [board.address, 'Dawn board'],
    [map.address, 'The season so far'],
  ] as const) {
    await page.goto(address)
    await expect(page.getByRole('heading', { name: heading })).toBeVisible()
    await page.waitForTimeout(500)
    expect(await page.evaluate(() => document.documentElement.scrollWidth), address).toBeLessThanOrEqual(390)
  }
})

test('a wrong password, a dead link and a foreign programme are told in plain words', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage()
  await page.goto('/desk')
  await page.getByLabel('E-mail').fill('mara@example.test')
  await page.getByLabel('Password').fill('wrong-password')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('alert')).toHaveText('Name and password do not fit together.')
  // Whether there is such an account is told to nobody; that it was heard is.
  await page.goto('/forgot')
  await page.getByLabel('E-mail').fill(`nobody.${Math.random().toString(36).slice(2)}@example.test`)
  await page.getByRole('button', { name: 'Have a link mailed' }).click()
  await expect(page.getByText('a mail is on its way')).toBeVisible()
  await expect(page.getByRole('alert')).toHaveCount(0)
  for (const dead of ['/m/abc', '/b/abc', '/join/abc']) {
    await page.goto(dead)
    await expect(page.getByRole('heading', { name: 'This link leads nowhere' })).toBeVisible()
  }
  await signIn(page, 'ruth@example.test')
  await page.getByRole('heading', { name: 'Programmes' }).waitFor()
  await page.goto('/desk/p/999999/build')
  await expect(page.getByRole('alert')).toHaveText('There is nothing here, or it is not shared with you.')
})

test('Check fits a window 820 pixels wide, and shows what to mend', async ({ browser }) => {
  const page = await desk(browser)
  await page.setViewportSize({ width: 820, height: 900 })
  await page.getByRole('link', { name: /Nest Patrol/ }).click()
  await page.getByRole('link', { name: /^Check/ }).click()
  const add = page.getByRole('button', { name: 'Add a record' })
  await expect(add).toBeInViewport({ ratio: 1 })
  await add.click()
  await expect(page.getByLabel('Place')).toBeInViewport({ ratio: 1 })
  const wide = await page.locator('main').evaluate((main) => main.scrollWidth - main.clientWidth)
  expect(wide).toBe(0)
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('alert').filter({ hasText: /mending/ })).toHaveCount(1)
  // One above the other there is more than a window of it: what is to be mended comes into view.
  await expect(page.locator('[aria-invalid=true]').first()).toBeInViewport()
})
