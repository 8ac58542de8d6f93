import { expect, test } from './test'
import { apiAs, desk } from './yard'

/* Rules on records: built line by line at the desk, used and changed wherever one works. */

test('a slice is built, counted, used in a list, a file and on a board, and changed there', async ({
  browser,
  request,
}) => {
  const api = await apiAs(request)
  const made = async (path: string, body: object) =>
    (await (await api.post(path, body)).json()) as { id: number }
  const programme = await made('/programmes', {
    name: `Slices ${Math.random().toString(36).slice(2, 8)}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  const layer = await made(`/programmes/${programme.id}/layers`, {
    title: 'Trees',
    geometry: 'point',
    fields: [
      { key: 'name', label: 'Name', kind: 'short_text' },
      { key: 'girth', label: 'Girth', kind: 'decimal', unit: 'cm' },
      {
        key: 'kind',
        label: 'Kind',
        kind: 'one_choice',
        choices: [
          { code: 'o', label: 'Oak' },
          { code: 'b', label: 'Birke (süß)' },
        ],
      },
    ],
  })
  const tree = (name: string, girth: number | null, kind: string, lon: number) =>
    api.post(`/layers/${layer.id}/records`, {
      values: { name, girth, kind },
      geometry: { type: 'Point', coordinates: [lon, -14.2] },
    })
  await tree('Thick oak', 180.5, 'o', -11.65)
  await tree('Thin oak', 20, 'o', -11.65)
  await tree('Thick birch', 150, 'b', -11.55)
  await tree('Unmeasured', null, 'b', -11.55)

  const page = await desk(browser)
  await page.goto(`/desk/p/${programme.id}/check`)
  await page.getByLabel('Which of them').selectOption({ label: 'A new slice…' })
  const dialog = page.getByRole('dialog')
  const line = (n: number) => ({
    subject: dialog.getByLabel('What it is about').nth(n),
    test: dialog.getByLabel('Comparison').nth(n),
    drop: dialog.getByRole('button', { name: 'Take this condition out' }).nth(n),
  })
  await line(0).subject.selectOption({ label: 'Girth' })
  await line(0).test.selectOption({ label: 'is at least' })
  await expect(dialog.getByRole('status')).toContainText('1 condition still needs a value')
  await expect(dialog.getByRole('button', { name: 'Save this slice' })).toBeDisabled()
  await dialog.getByLabel('Value', { exact: true }).fill('100,5')
  await expect(dialog.getByRole('status')).toContainText('2 records of 4')

  // A group in the group, and a place that is typed.
  await dialog.getByRole('button', { name: 'Add a group' }).click()
  await line(1).subject.selectOption({ label: 'Girth' })
  await line(1).test.selectOption({ label: 'is missing' })
  await dialog
    .getByLabel('How the conditions go together')
    .nth(1)
    .selectOption({ label: 'None of these is true' })
  await expect(dialog.getByRole('status')).toContainText('2 records of 4')
  await dialog.getByRole('button', { name: 'Add a condition' }).last().click()
  await line(2).subject.selectOption({ label: 'Place' })
  await line(2).test.selectOption({ label: 'lies within' })
  await dialog.getByLabel('Of this place').fill('nowhere')
  await expect(dialog.getByText('This is not a place')).toBeVisible()
  await dialog.getByLabel('Of this place').fill('-14.2, -11.65')
  await dialog.getByLabel('Metres').fill('200')
  await expect(dialog.getByRole('status')).toContainText('1 record of 4')
  await expect(dialog.getByLabel('Name')).toHaveAttribute(
    'placeholder',
    'Girth at least 100.5 cm, not Girth missing, Within 200 m of -14.2, -11.65',
  )

  // Escape asks first, and nothing is lost by it.
  await page.keyboard.press('Escape')
  await expect(dialog.getByText('Drop what you have built here?')).toBeVisible()
  await dialog.getByRole('button', { name: 'Go on' }).click()
  await line(2).drop.click()
  await expect(dialog.getByRole('status')).toContainText('2 records of 4')
  await dialog.getByRole('button', { name: 'Save this slice' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(page.getByText('2 records, newest first')).toBeVisible()
  await expect(page.getByRole('gridcell', { name: 'Thick birch' })).toBeVisible()
  await expect(page.getByRole('gridcell', { name: 'Thin oak' })).toHaveCount(0)

  // What the list shows is what a file begins with.
  await page.getByRole('button', { name: 'Take out' }).click()
  await page.getByLabel('Format').selectOption('csv')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Write the file' }).click(),
  ])
  const text = (await (await file.createReadStream()).toArray()).join('')
  expect(text).toContain('Thick oak')
  expect(text).not.toContain('Thin oak')
  await page.keyboard.press('Escape')

  // Changed where it is used: by words of another script, and only those of a crew that there is.
  await page.getByRole('button', { name: 'Change this slice' }).click()
  await line(0).subject.selectOption({ label: 'Kind' })
  await line(0).test.selectOption({ label: 'is one of' })
  await dialog.getByRole('combobox', { name: 'Value' }).click()
  await page.locator('[role=listbox] li', { hasText: 'Birke (süß)' }).click()
  await page.keyboard.press('Escape')
  await expect(
    dialog.getByLabel('What it is about').first().locator('option', { hasText: 'Crew' }),
  ).toHaveCount(0)
  await expect(dialog.getByLabel('Name')).toHaveAttribute('placeholder', /^Kind: Birke \(süß\)/)
  await dialog.getByRole('button', { name: 'Save this slice' }).click()
  await expect(page.getByText('1 record, newest first')).toBeVisible()

  // On a board it counts the same, and it cannot be deleted from under it.
  await page.goto(`/desk/p/${programme.id}/publish`)
  await page.getByRole('button', { name: 'New board' }).click()
  await page.getByRole('button', { name: 'Add a tile' }).click()
  const called = 'Kind: Birke (süß), not Girth missing'
  const records = async (label: string) => {
    await page
      .getByRole('button', { name: /: change$/ })
      .nth(2)
      .click()
    await page.getByLabel('Of which records').selectOption({ label })
    await page.keyboard.press('Escape')
  }
  await records(called)
  await expect(page.getByRole('heading', { name: called })).toBeVisible()
  // A tile that is there goes by another slice when that is said.
  const tile = page.getByRole('region', { name: called })
  await expect(tile).toContainText('1')
  await records('Everything')
  await expect(tile).toContainText('4')
  await records(called)
  await expect(tile).toContainText('1')
  await expect(page.getByText('Saved')).toBeVisible()
  await page.goto(`/desk/p/${programme.id}/check`)
  await page.getByLabel('Which of them').selectOption({ label: called })
  await page.getByRole('button', { name: 'Change this slice' }).click()
  await dialog.getByRole('button', { name: 'Delete', exact: true }).click()
  await dialog.getByRole('button', { name: 'Delete for good' }).click()
  await expect(dialog.getByRole('alert')).toContainText('This slice is still used by')
  await dialog.getByRole('button', { name: 'Cancel' }).click()
  await expect(dialog).toHaveCount(0)
})
