import type { Page } from '@playwright/test'
import { v7 as uuid } from 'uuid'
import { expect, test } from './test'
import { apiAs, COORDINATOR, CREW, desk, nestOperation, nestPatrol, PHONE, phoneWithPack } from './yard'

type Outcomes = { outcomes: { outcome: string; version: number }[] }
type Row = { version: number; lon: number; lat: number; values: Record<string, unknown> }

test.use(PHONE)

/** A code that no other try has left behind. */
const code = (name: string) => `${name}-${Date.now() % 100_000}`

const strip = (page: Page) => page.getByTestId('strip')

/** A nest that the crew member of the demo has made. */
async function nest(playwright: typeof import('playwright-core'), baseURL: string, code: string) {
  const crew = await apiAs(await playwright.request.newContext({ baseURL }), CREW)
  const head = await apiAs(await playwright.request.newContext({ baseURL }), COORDINATOR)
  const { programme, layer } = await nestPatrol(head)
  const operation = nestOperation(layer, code)
  const device = uuid()
  const send = async (...operations: unknown[]) =>
    (await (await crew.post('/sync', { device, operations, cursors: {} })).json()) as Outcomes
  expect((await send(operation)).outcomes[0]!.outcome).toBe('applied')
  const row = () => head.get<Row>(`/layers/${layer}/records/${operation.record}`)
  return { crew, head, programme, layer, record: operation.record, send, row }
}

/** Finds a record in the list and opens it. */
async function open(page: Page, code: string) {
  await page.getByRole('button', { name: 'List' }).click()
  await page.getByLabel('Find a record').fill(code)
  await page.getByRole('button', { name: new RegExp(code) }).click()
  await page.getByRole('heading', { name: code }).waitFor()
}

test('a record is changed and moved without signal, survives a killed app, and arrives', async ({
  context,
  playwright,
  baseURL,
}) => {
  const name = code('CH-1')
  const n = await nest(playwright, baseURL!, name)
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await open(page, name)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'Opened' }).click()
  await page.getByRole('button', { name: 'Move it' }).click()
  await page.getByRole('button', { name: 'Type it' }).click()
  await page.getByLabel('Latitude and longitude, or UTM').fill('north of the jetty')
  await page.getByRole('button', { name: 'Put it there' }).click()
  await expect(page.getByText('This is no place that can be read.')).toBeVisible()
  await page.getByLabel('Latitude and longitude, or UTM').fill('14°10′00″S 11°39′00″W')
  await page.getByRole('button', { name: 'Put it there' }).click()
  await expect(page.getByText('-14.16667, -11.65000')).toBeVisible()
  // The app is killed in the middle of it: the draft is there.
  await page.reload()
  await expect(page.getByText('-14.16667, -11.65000')).toBeVisible()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await expect(page.getByText('on this phone, not sent yet')).toBeVisible()
  await expect(strip(page)).toContainText('1')
  await page.reload()
  await expect(page.getByText('Opened')).toBeVisible()
  expect((await n.row()).version).toBe(1)
  await context.setOffline(false)
  await expect(strip(page)).toContainText(/all sent/i, { timeout: 60_000 })
  const row = await n.row()
  expect(row.values.status).toBe('opened')
  expect([row.lat, row.lon, row.version]).toEqual([-14.1666667, -11.65, 2])
  await expect(page.getByText('on this phone, not sent yet')).toHaveCount(0)
})

test('two who change the same: the phone is told, the desk decides, the phone hears of it', async ({
  browser,
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const name = code('CH-2')
  const n = await nest(playwright, baseURL!, name)
  const page = await phoneWithPack(context)
  await open(page, name)
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'Opened' }).click()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await expect(page.getByText('on this phone, not sent yet')).toBeVisible()
  // Meanwhile somebody else changes the same, and something beside it.
  const other = await n.send({
    ...nestOperation(n.layer, ''),
    kind: 'change',
    record: n.record,
    base: 1,
    values: { status: 'lost' },
    was: { status: 'incubating' },
    geometry: null,
  })
  expect(other.outcomes[0]!.outcome).toBe('applied')
  await context.setOffline(false)
  await strip(page).click()
  await expect(page.getByText(`${name}: somebody else changed the same (Status)`)).toBeVisible({
    timeout: 60_000,
  })
  await page.getByRole('button', { name: 'Read' }).click()
  await expect(page.getByText(/somebody else changed the same/)).toHaveCount(0)
  expect((await n.row()).values.status).toBe('lost')

  const check = await desk(browser)
  await check.goto(`/desk/p/${n.programme}/check`)
  await expect(async () => {
    await check.getByRole('link', { name: 'Decide', exact: true }).click()
    await expect(check).toHaveURL(/check\/decide/, { timeout: 5_000 })
  }).toPass()
  await check.getByRole('button', { name }).click()
  await expect(check.getByRole('radio', { name: 'Status: Lost' })).toBeChecked()
  await check.getByRole('radio', { name: 'Status: Opened' }).check()
  await check.getByRole('button', { name: 'Keep what is marked' }).click()
  await expect(check.getByText(`${name}: decided. The phones hear of it.`)).toBeVisible()
  expect((await n.row()).values.status).toBe('opened')
  await check.getByRole('button', { name: 'Decided' }).click()
  await expect(check.getByText(/Decided by/)).toBeVisible()
  await page.getByRole('button', { name: 'Send now' }).click()
  await page.goto(`/field/record/${n.record}`)
  await expect(page.getByText('Opened')).toBeVisible()
})

test('a record is deleted without signal, brought back, and deleted for good', async ({
  context,
  playwright,
  baseURL,
}) => {
  const name = code('CH-3')
  const n = await nest(playwright, baseURL!, name)
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await open(page, name)
  await page.getByRole('button', { name: 'Delete' }).click()
  await expect(page.getByText('Deleted on this phone.')).toBeVisible()
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('button', { name: 'Delete' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete' }).click()
  await expect(page.getByText('Deleted on this phone.')).toBeVisible()
  await expect(strip(page)).toContainText('3 to send')
  await page.goto('/field/list')
  await page.getByLabel('Find a record').fill(name)
  await expect(page.getByText('0 records')).toBeVisible()
  await context.setOffline(false)
  await expect(strip(page)).toContainText(/all sent/i, { timeout: 60_000 })
  expect(await n.row()).toMatchObject({ status: 404 })
})

test('a refused change is mended, or given up and is again what the server says', async ({
  context,
  playwright,
  baseURL,
}) => {
  const name = code('CH-4')
  const n = await nest(playwright, baseURL!, name)
  const page = await phoneWithPack(context)
  await open(page, name)
  // A server that takes nothing of it: the first answer is bent on its way.
  let bent = 0
  await page.route('**/api/v1/sync', async (route) => {
    const packed = route.request().headers()['content-encoding'] === 'gzip'
    const sent = packed ? null : (route.request().postDataJSON() as { operations: { op: string }[] })
    if (bent > 0 || !sent?.operations.length) return route.continue()
    bent++
    await route.fulfill({
      json: {
        server_time: new Date().toISOString(),
        outcomes: [
          {
            op: sent.operations[0]!.op,
            outcome: 'refused',
            problems: [{ code: 'x', field: null, message: 'Not today.' }],
          },
        ],
        news: {},
        lost: [],
      },
    })
  })
  await page.getByRole('button', { name: 'Change', exact: true }).click()
  await page.getByRole('button', { name: 'Opened' }).click()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await expect(strip(page)).toContainText('1 not taken')
  await strip(page).click()
  await expect(page.getByText('Not today.')).toBeVisible()
  await page.getByRole('button', { name: 'Give it up' }).click()
  await expect(page.getByText('Everything has arrived.')).toBeVisible()
  await page.goto(`/field/record/${n.record}`)
  await expect(page.getByText('Incubating')).toBeVisible()
  expect((await n.row()).version).toBe(1)
})
