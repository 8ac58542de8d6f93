import { expect, test } from './test'
import { BEACH, desk, PHONE, signIn } from './yard'

/**
 * From the first question to crews that are ready, and through a design that changes while a phone is out.
 */
test('from a question to a ready programme', async ({ browser }, info) => {
  test.setTimeout(240_000)
  const page = await desk(browser)
  await page.getByRole('link', { name: 'New programme' }).click()
  await page.getByLabel('Name').fill(`Tree Round ${info.workerIndex}${Date.now() % 100_000}`)
  await page.getByText('This is the area').waitFor()
  await page.getByRole('button', { name: 'Start the programme' }).click()
  await page.getByRole('link', { name: /^Plan/ }).click()

  await test.step('a question is written down, and nothing can answer it yet', async () => {
    await page.getByRole('button', { name: 'Add a question' }).click()
    await page.getByLabel('Question 1', { exact: true }).fill('Which trees need work soon?')
    await expect(page.getByRole('status')).toHaveText('Saved')
    await expect(page.getByText('no field yet')).toBeVisible()
    await expect(page.getByText('There is no layer yet.')).toBeVisible()
  })
  await test.step('a layer is begun from a starter design', async () => {
    await page.getByRole('link', { name: 'Open the layer' }).click()
    await page.getByRole('button', { name: 'Begin from' }).click()
    await page.getByRole('menuitem', { name: /^Trees/ }).click()
    const phone = page.getByRole('group', { name: 'The form on a phone' })
    await expect(phone.getByLabel('What must be done')).toHaveCount(0)
    await phone
      .getByRole('group', { name: 'Must something be done soon?' })
      .getByRole('button', { name: 'Yes' })
      .click()
    await expect(phone.getByRole('group', { name: 'What must be done' })).toBeVisible()
    await phone.getByLabel('Girth at chest height').fill('94.2')
    await expect(phone.getByRole('status', { name: 'Diameter' })).toHaveText('30.0 cm')
    await page.getByRole('button', { name: 'Make the layer' }).click()
    await expect(page.getByText('design 1, in use')).toBeVisible()
  })
  await test.step('the question is tied to the field that answers it', async () => {
    await page.getByRole('link', { name: /^Plan/ }).click()
    await page.getByLabel('Tie a field to question 1').selectOption({ label: 'What must be done' })
    await expect(page.getByText('no tile yet', { exact: true }).first()).toBeVisible()
    await expect(page.getByRole('status')).toHaveText('Saved')
  })
  await test.step('what the ready check misses is put right by its own buttons', async () => {
    await page.getByRole('link', { name: 'Try it' }).click()
    await page.getByLabel('Place').fill('14°10\'00"S 11°39\'04"W')
    await page.getByLabel('Place').press('Enter')
    await expect(page.getByText('Read as degrees and minutes: -14.16667, -11.65111')).toBeVisible()
    await page.getByLabel('Tree number').fill('42')
    await page.getByRole('button', { name: 'Good' }).click()
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(
      page.getByText('Tree number is written as T-#### (# a digit, @ a letter, * either); “42” is not.'),
    ).toBeVisible()
    await page.getByLabel('Tree number').fill('T-0042')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'T-0042' })).toBeVisible()
    await page.getByRole('button', { name: 'Delete' }).click()
    await expect(page.getByText('Deleted “T-0042”.')).toBeVisible()
    await page.getByRole('link', { name: /^Publish/ }).click()
    await page.getByRole('button', { name: 'New map' }).click()
    await page.getByLabel('Anyone with the link').waitFor()
    await page.getByRole('link', { name: /^Collect/ }).click()
    await page.getByRole('heading', { name: 'People and their phones' }).waitFor()
    await page.getByRole('link', { name: /^Plan/ }).click()
    await expect(page.getByText('Nobody is invited yet.')).toBeVisible()
    await expect(page.getByText('nobody has tried the form yet')).toHaveCount(0)
    await expect(page.getByText('there is no map of it yet')).toHaveCount(0)
  })
  await test.step('the design sheet has it all, to print and as a file', async () => {
    await page.getByRole('button', { name: 'Design sheet' }).click()
    await expect(page.getByRole('table')).toContainText('= round(girth / 3.14159265, 1)')
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'As a table (CSV)' }).click(),
    ])
    expect(file.suggestedFilename()).toMatch(/-designs\.csv$/)
  })
})

test('a design changes in mid-season while a phone is out with the older one', async ({ browser }) => {
  test.setTimeout(240_000)
  const page = await desk(browser)
  // A layer that the demo's crew member gets too: in the demo's programme.
  await page.getByRole('link', { name: /Nest Patrol/ }).click()
  await page.getByRole('link', { name: /^Build/ }).click()
  await page.getByRole('link', { name: 'New layer' }).waitFor()
  const title = `Lights ${Date.now() % 100_000}`
  const made = await page.evaluate(async (name) => {
    const token = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1] ?? '')
    const programme = Number(/\/p\/(\d+)/.exec(location.pathname)![1])
    const answer = await fetch(`/api/v1/programmes/${programme}/layers`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json', 'X-XSRF-TOKEN': token },
      body: JSON.stringify({
        title: name,
        geometry: 'point',
        fields: [
          { key: 'lamp', label: 'Lamp', kind: 'short_text', required: true },
          { key: 'height', label: 'Height', kind: 'short_text' },
          {
            key: 'colour',
            label: 'Colour',
            kind: 'one_choice',
            choices: [
              { code: 'white', label: 'White' },
              { code: 'amber', label: 'Amber' },
            ],
          },
        ],
      }),
    })
    return { programme, layer: ((await answer.json()) as { id: number }).id }
  }, title)

  const context = await browser.newContext(PHONE)
  const phone = await context.newPage()
  await signIn(phone, 'ines@example.test', '/field')
  await phone.getByRole('button', { name: 'Get this pack' }).first().click()
  await phone.getByRole('button', { name: /Add to/ }).waitFor()
  await phone.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await context.setOffline(true)
  const collect = async (lamp: string, height: string) => {
    await phone.goto(`/field/add/${made.layer}?lon=${BEACH.longitude}&lat=${BEACH.latitude}`)
    await phone.getByLabel('Lamp').fill(lamp)
    await phone.getByLabel('Height').fill(height)
    await phone.getByRole('button', { name: 'White' }).click()
    await phone.getByRole('button', { name: 'Save on this phone' }).click()
    await phone.getByRole('button', { name: /Add to/ }).waitFor()
  }
  await collect('L-1', '4')
  await collect('L-2', 'about 5')

  await test.step('the desk turns a text into a number and takes a choice away', async () => {
    await page.goto(`/desk/p/${made.programme}/check?layer=${made.layer}&add=1`)
    // What is typed is taken at once, however long the server needs to say how it was understood.
    await page.route('**/api/v1/places/read', (route) => setTimeout(() => void route.abort(), 20_000))
    await page.getByLabel('Place').fill('-14.17, -11.65')
    await page.getByLabel('Place').press('Enter')
    await page.getByLabel('Lamp').fill('L-0')
    await page.getByLabel('Height').fill('7')
    await page.getByRole('button', { name: 'White' }).click()
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'L-0' })).toBeVisible()
    await page.goto(`/desk/p/${made.programme}/build/${made.layer}`)
    await page.getByRole('button', { name: /Colour colour/ }).click()
    await page.getByRole('button', { name: 'Remove White' }).click()
    await page.getByRole('button', { name: 'Remove Height' }).click()
    await page.getByRole('button', { name: 'Add a field' }).click()
    await page.getByRole('menuitem', { name: /^Decimal/ }).click()
    await page.getByLabel('Label', { exact: true }).fill('Height')
    await page.getByRole('button', { name: 'Give design 2 to the crews' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('1 value becomes the new kind.')
    await expect(dialog).toContainText('1 record carries “White”.')
    await expect(dialog.getByRole('button', { name: 'Give design 2 to the crews' })).toBeDisabled()
    await dialog.getByLabel('Its records get').selectOption({ label: 'Amber' })
    await dialog.getByRole('button', { name: 'Give design 2 to the crews' }).click()
    await expect(page.getByText('design 2, in use')).toBeVisible()
  })
  await test.step('what the phone sends by the older design arrives whole, or is held for the desk', async () => {
    await context.setOffline(false)
    await expect(phone.getByTestId('strip')).toContainText('All sent, 1 thing for the desk to decide', {
      timeout: 60_000,
    })
    await page.goto(`/desk/p/${made.programme}/check?layer=${made.layer}`)
    const row = (name: string) => page.locator('.MuiDataGrid-row').filter({ hasText: name })
    await expect(row('L-1')).toContainText('Amber')
    await expect(row('L-1')).toContainText('4')
    await expect(row('L-0')).toContainText('7')
    // A height that is no number has no place in the new field: somebody decides, and both phone and desk say
    // so.
    await expect(row('L-2')).toHaveCount(0)
    await phone.getByTestId('strip').click()
    await expect(phone.getByText(/L-2: the desk has it and will decide/)).toBeVisible()
    await page.getByRole('link', { name: 'Decide', exact: true }).click()
    await page.getByRole('button', { name: /L-2/ }).click()
    await expect(page.getByRole('heading', { name: 'Let it in?' })).toBeVisible()
    await expect(
      page.getByText('The layer has been redesigned: Height can no longer hold this value.'),
    ).toBeVisible()
    await expect(page.getByText('about 5')).toBeVisible()
    await page.getByRole('button', { name: 'Let it in as it is' }).click()
    await expect(page.getByText('L-2: let in.')).toBeVisible()
    await page.goto(`/desk/p/${made.programme}/check?layer=${made.layer}`)
    await expect(row('L-2')).toContainText('Amber')
    await row('L-2').click()
    await page.getByRole('button', { name: 'History' }).click()
    await expect(page.getByText('Added')).toBeVisible()
  })
})

test('a record is changed at the desk, its history read, an earlier version taken up', async ({
  browser,
}) => {
  test.setTimeout(120_000)
  const page = await desk(browser)
  await page.getByRole('link', { name: /Nest Patrol/ }).click()
  await page.getByRole('link', { name: /^Check/ }).click()
  await page.getByLabel('Layer').selectOption({ label: 'Nests' })
  await page.locator('.MuiDataGrid-row').filter({ hasText: 'Loggerhead' }).nth(3).click()
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByLabel('Note').fill('Stake renewed')
  await page.getByLabel('Clutch size').fill('12')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Clutch size: is this right? Say yes or change it.')).toBeVisible()
  await page.getByRole('button', { name: 'Yes, 12 eggs' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Stake renewed').first()).toBeVisible()
  await page.getByRole('button', { name: 'History' }).click()
  await expect(page.getByText(/^Note: .*Stake renewed$/)).toBeVisible()
  await page.getByRole('button', { name: 'Take up this version' }).first().click()
  await expect(page.getByText('Stake renewed')).toHaveCount(0)
  await page.getByRole('button', { name: 'Fill a field…' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Field', { exact: true }).selectOption({ label: 'Note' })
  await dialog.getByLabel('Formula').fill('"Stake " ~ nest_cod')
  await expect(dialog.getByText('There is no field “nest_cod”. Do you mean nest_code?')).toBeVisible()
  await dialog.getByLabel('Formula').fill('missing(note) ? "Stake " ~ nest_code : note')
  await expect(dialog.getByRole('table')).toContainText('Stake ')
  await dialog.getByRole('button', { name: /^Fill \d+ records$/ }).click()
  await expect(page.getByText(/\d+ records changed, \d+ left as they were\./)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Undone.')).toBeVisible()
})
