import { writeFileSync } from 'node:fs'
import { expect, test } from './test'
import { addNest, apiAs, BEACH, COORDINATOR, CREW, nestPatrol, PHONE, phoneWithPack } from './yard'

const code = (what: string) => `${what}${Date.now() % 1_000_000}`

test.describe('the field app', () => {
  test.use(PHONE)

  test('keeps what was saved when the page is closed in the moment after saving', async ({ context }) => {
    const page = await phoneWithPack(context)
    await context.setOffline(true)
    const name = code('CL')
    await addNest(page, name)
    // As soon as the form is gone, the record is saved: the page goes down at once.
    await page.close({ runBeforeUnload: false })
    const again = await context.newPage()
    await again.goto('/field/outbox')
    await expect(again.getByText(name)).toBeVisible()
    await expect(again.getByTestId('strip')).toContainText('1 to send')
  })

  test('keeps a draft when it is killed in the middle of a form', async ({ context }) => {
    const page = await phoneWithPack(context)
    await context.setOffline(true)
    await page.getByRole('button', { name: /Add to Nests/ }).click()
    await page.getByLabel('Nest code').fill('DRAFT-1')
    await page.getByRole('button', { name: 'Hawksbill' }).click()
    const where = page.url()
    await page.close({ runBeforeUnload: false })
    const again = await context.newPage()
    await again.goto(where)
    await expect(again.getByLabel('Nest code')).toHaveValue('DRAFT-1')
    await expect(again.getByRole('button', { name: 'Hawksbill' })).toHaveAttribute('aria-pressed', 'true')
  })

  test('says so when a draft was begun somewhere else, and starts anew if asked', async ({ context }) => {
    const page = await phoneWithPack(context)
    await page.getByRole('button', { name: /Add to Nests/ }).click()
    await page.getByLabel('Nest code').fill('FAR-1')
    await page.getByRole('button', { name: 'Back' }).click()
    await context.setGeolocation({ ...BEACH, latitude: BEACH.latitude + 0.01 })
    await page.waitForTimeout(1500)
    await page.getByRole('button', { name: /Add to Nests/ }).click()
    await expect(page.getByRole('alert')).toContainText('1.1 km from where you are now')
    await expect(page.getByLabel('Nest code')).toHaveValue('FAR-1')
    await page.getByRole('button', { name: 'Start anew here' }).click()
    await expect(page.getByLabel('Nest code')).toHaveValue('')
    await expect(page.getByText((BEACH.latitude + 0.01).toFixed(5))).toBeVisible()
  })

  test('refuses on the phone what the server would refuse', async ({ context }, info) => {
    const page = await phoneWithPack(context)
    await context.setOffline(true)
    await page.getByRole('button', { name: /Add to Nests/ }).click()
    await page.getByLabel('Nest code').fill('BAD-1')
    await page.getByRole('button', { name: 'Incubating' }).click()
    await page.getByLabel('Clutch size').fill('many')
    await page.getByRole('button', { name: 'Save on this phone' }).click()
    const alert = page.getByRole('alert')
    await expect(alert).toContainText('2 things need mending.')
    await expect(alert).toContainText('Species is needed.')
    await expect(alert).toContainText('Clutch size needs a whole number; “many” is none.')
    await page.getByLabel('Clutch size').fill('900')
    await page.getByRole('button', { name: 'Green' }).click()
    await page.getByRole('button', { name: 'Save on this phone' }).click()
    // Unusual is no mistake: it is asked about, once.
    await expect(alert.first()).toContainText('Clutch size: is this right? Say yes or change it.')
    await expect(page.getByText('Most are from 40 to 180 eggs. Is 900 eggs right?')).toBeVisible()
    await page.getByRole('button', { name: 'Change it' }).click()
    await page.getByLabel('Clutch size').fill('90')

    const photo = page.getByLabel('Photos: Photo')
    const huge = info.outputPath('huge.jpg')
    writeFileSync(huge, Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.alloc(40 * 1_048_576)]))
    await photo.setInputFiles(huge)
    await expect(alert).toContainText('“huge.jpg” has 40 MB; 25 MB is the most.')
    await photo.setInputFiles({
      name: 'note.jpg',
      mimeType: 'image/jpeg',
      buffer: Buffer.from('no picture at all'),
    })
    await expect(alert).toContainText('“note.jpg” is not a picture, whatever its name says.')
    await photo.setInputFiles({
      name: 'note.txt',
      mimeType: 'text/plain',
      buffer: Buffer.from('no picture at all'),
    })
    await expect(alert).toContainText('“note.txt” is no picture that can be taken in.')
    await photo.setInputFiles({
      name: 'torn.jpg',
      mimeType: 'image/jpeg',
      buffer: Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3, 4, 5, 6, 7, 8, 9]),
    })
    await expect(alert).toContainText('“torn.jpg” is not a picture')

    const nests = page.url().match(/add\/(\d+)/)![1]
    await page.goto(`/field/add/${nests}?lon=-200&lat=14`)
    await page.getByRole('button', { name: 'Discard' }).click()
    // The draft is gone once the map is back; a page that is left before keeps it.
    await expect(page).toHaveURL(/\/field$/)
    await page.goto(`/field/add/${nests}?lon=-200&lat=14`)
    await page.getByLabel('Nest code').fill('BAD-2')
    await page.getByRole('button', { name: 'Incubating' }).click()
    await page.getByRole('button', { name: 'Green' }).click()
    await page.getByRole('button', { name: 'Save on this phone' }).click()
    await expect(alert).toContainText('lies outside the world')
    await expect(page.getByTestId('strip')).toContainText(/all sent/i)
  })

  test('shows why the server refused, lets it be mended, and sends it then', async ({
    context,
    playwright,
    baseURL,
  }) => {
    const page = await phoneWithPack(context)
    const name = code('MEND')
    // The first answer says no, as a server does whose layer was closed meanwhile; the mended record meets
    // the real one.
    let refusing = true
    await context.route('**/api/v1/sync', async (route) => {
      const body = route.request().postDataJSON() as {
        operations: { op: string; values: { nest_code?: string } }[]
      }
      const mine = body.operations.find((o) => o.values.nest_code === name)
      if (!refusing || !mine) return route.continue()
      refusing = false
      await route.fulfill({
        json: {
          server_time: new Date().toISOString(),
          outcomes: [
            {
              op: mine.op,
              outcome: 'refused',
              problems: [
                { code: 'x', field: 'nest_code', value: name, params: {}, message: 'This code is taken.' },
              ],
            },
          ],
          news: {},
          lost: [],
        },
      })
    })
    await addNest(page, name)
    await expect(page.getByTestId('strip')).toContainText('1 not taken')
    await page.getByTestId('strip').click()
    await expect(page.getByText('This code is taken.')).toBeVisible()
    await page.getByRole('button', { name: 'Mend it' }).click()
    await page.getByLabel('Nest code').fill(`${name}B`)
    await page.getByRole('button', { name: 'Save on this phone' }).click()
    await expect(page.getByTestId('strip')).toContainText(/all sent/i)
    const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }), COORDINATOR)
    const { layer } = await nestPatrol(api)
    const { records } = await api.get<{ records: { values: { nest_code: string } }[] }>(
      `/layers/${layer}/records`,
    )
    expect(records.map((r) => r.values.nest_code).filter((c) => c.startsWith(name))).toEqual([`${name}B`])
  })

  test('loses nothing to a server that fails, hangs up or answers nonsense', async ({ context }) => {
    const page = await phoneWithPack(context)
    const name = code('TRY')
    const troubles = [
      { status: 500, body: 'Internal error' },
      { status: 503, json: { code: 'database_away', title: 'Away.', problems: [] } },
      { status: 413, body: '' },
      { status: 200, body: '{"outcomes": [' },
      // An answer that names someone else's operation settles nothing.
      {
        status: 200,
        json: {
          server_time: new Date().toISOString(),
          outcomes: [{ op: '017f22e2-79b0-7cc3-98c4-dc0c0c07398f', outcome: 'applied' }],
          news: {},
          lost: [],
        },
      },
    ]
    await context.route('**/api/v1/sync', async (route) => {
      const trouble = troubles.shift()
      if (trouble) await route.fulfill(trouble)
      else await route.continue()
    })
    await addNest(page, name)
    await page.getByTestId('strip').click()
    // The phone tries again by itself as well; as long as there is trouble left, the record is still here.
    while (troubles.length > 0) {
      const left = troubles.length
      await expect
        .poll(async () => troubles.length === 0 || (await page.getByText(name).count()) > 0)
        .toBe(true)
      await page
        .getByRole('button', { name: 'Send now' })
        .click({ timeout: 5_000 })
        .catch(() => undefined)
      await expect.poll(() => troubles.length).toBeLessThan(left)
    }
    await page
      .getByRole('button', { name: 'Send now' })
      .click({ timeout: 5_000 })
      .catch(() => undefined)
    await expect(page.getByText('Everything has arrived.')).toBeVisible()
    const api = await apiAs(page.request, CREW)
    const { layer } = await nestPatrol(api)
    const records = await api.get<{ records: { name: string }[] }>(`/layers/${layer}/records`)
    expect(records.records.filter((r) => r.name === name)).toHaveLength(1)
  })

  test('offers a rescue file with everything that has not arrived, which another phone takes in', async ({
    browser,
    context,
  }) => {
    const page = await phoneWithPack(context)
    await context.setOffline(true)
    const name = code('RES')
    await addNest(page, name)
    await page.getByTestId('strip').click()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save a rescue file' }).click(),
    ])
    const stream = await download.createReadStream()
    let text = ''
    for await (const piece of stream) text += String(piece)
    const rescue = JSON.parse(text) as {
      outbox: { operation: { values: { nest_code: string }; geometry: { coordinates: number[] } } }[]
    }
    expect(rescue.outbox.map((o) => o.operation.values.nest_code)).toContain(name)
    expect(rescue.outbox[0]?.operation.geometry.coordinates[0]).toBeCloseTo(BEACH.longitude, 5)
    // The phone is lost; another one of the same person takes the file in, and everything arrives once.
    const other = await phoneWithPack(await browser.newContext(PHONE))
    await other.goto('/field/outbox')
    const bring = async (content: string) =>
      other
        .getByLabel('Take one in')
        .last()
        .setInputFiles({ name: 'rescue.json', mimeType: 'application/json', buffer: Buffer.from(content) })
    await bring('{"outbox": 1}')
    await expect(other.getByText('This is no rescue file.')).toBeVisible()
    await bring(JSON.stringify({ ...rescue, me: { id: 999_999, name: 'Somebody Else' } }))
    await expect(other.getByText('This is the work of Somebody Else.')).toBeVisible()
    await bring(text)
    await expect(other.getByText('1 thing was taken in and will be sent.')).toBeVisible()
    await expect(other.getByTestId('strip')).toContainText(/all sent/i, { timeout: 30_000 })
    await context.setOffline(false)
    await expect(page.getByTestId('strip')).toContainText(/all sent/i, { timeout: 30_000 })
    await other.goto('/field/list')
    await other.getByLabel('Find a record').fill(name)
    await expect(other.getByText('1 record', { exact: true })).toBeVisible()
  })
})
