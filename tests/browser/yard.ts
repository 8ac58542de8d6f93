import {
  expect,
  type APIRequestContext,
  type Browser,
  type BrowserContext,
  type Page,
  type PlaywrightWorkerArgs,
} from '@playwright/test'
import { createHash } from 'node:crypto'
import { v7 as uuid } from 'uuid'

export const COORDINATOR = 'mara@example.test'
export const CREW = 'ines@example.test'
export const PASSWORD = 'halcyon-cays'

/** A spot on a beach of Great Halcyon. */
export const BEACH = { longitude: -11.6512, latitude: -14.1668, accuracy: 4 }
export const PHONE = {
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  geolocation: BEACH,
  permissions: ['geolocation'],
}

export async function signIn(page: Page, email = COORDINATOR, at = '/desk') {
  await page.goto(at)
  await page.getByLabel('E-mail').fill(email)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
}

/** The desk of a coordinator who is signed in; how one signs in has tests of its own. */
export async function desk(browser: Browser): Promise<Page> {
  const context = await browser.newContext()
  const signedIn = await context.request.post('/api/v1/session', {
    data: { email: COORDINATOR, password: PASSWORD },
  })
  expect(signedIn.status()).toBe(200)
  const page = await context.newPage()
  await page.goto('/desk')
  await expect(page.getByRole('heading', { name: 'Programmes' })).toBeVisible()
  return page
}

/** A phone with the demo's pack on it. */
export async function phoneWithPack(context: BrowserContext): Promise<Page> {
  const page = await context.newPage()
  await signIn(page, CREW, '/field')
  await page.getByRole('button', { name: 'Get this pack' }).click()
  // Other tests add layers to the demo, and any of them may be the first.
  await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Nests' })
  await expect(page.getByRole('button', { name: /Add to Nests/ })).toBeEnabled()
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  await expect.poll(() => page.evaluate(async () => (await caches.keys()).length)).toBeGreaterThan(0)
  return page
}

/** Fills in a nest of the demo as far as it must be, and saves it. */
export async function addNest(page: Page, code: string) {
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill(code)
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await page.getByRole('button', { name: /Add to Nests/ }).waitFor()
}

/** Talks to the API as a signed-in person, with the token that changing requests need. */
export async function apiAs(request: APIRequestContext, email = COORDINATOR) {
  const headers = async () => {
    const cookie = (await request.storageState()).cookies.find((c) => c.name === 'XSRF-TOKEN')
    return { 'X-XSRF-TOKEN': decodeURIComponent(cookie?.value ?? ''), Accept: 'application/json' }
  }
  await request.get('/api/v1/me')
  const signedIn = await request.post('/api/v1/session', {
    data: { email, password: PASSWORD },
    headers: await headers(),
  })
  expect(signedIn.status()).toBe(200)
  return {
    headers,
    cookies: async () => (await request.storageState()).cookies.map((c) => `${c.name}=${c.value}`).join('; '),
    get: async <T>(path: string) => (await (await request.get(`/api/v1${path}`)).json()) as T,
    post: async (path: string, data: unknown) =>
      request.post(`/api/v1${path}`, { data, headers: await headers() }),
    put: async (path: string, data: unknown) =>
      request.put(`/api/v1${path}`, { data, headers: await headers() }),
  }
}

/** A programme that no other test uses, and its coordinator's way of making more in it. */
export async function ownProgramme(
  playwright: PlaywrightWorkerArgs['playwright'],
  baseURL: string | undefined,
  name: string,
) {
  const request = await playwright.request.newContext(baseURL === undefined ? {} : { baseURL })
  const api = await apiAs(request)
  const made = async <T = { id: number }>(path: string, body: object) =>
    (await (await api.post(path, body)).json()) as T
  const mark = uuid().slice(-6)
  const programme = await made('/programmes', {
    name: `${name} ${mark}`,
    time_zone: 'UTC',
    area: [-11.7, -14.3, -11.5, -14.1],
  })
  return { request, api, made, mark, programme }
}

export const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex')

/** An operation that adds a nest to the demo's layer. */
export const nestOperation = (layer: number, code: string, photos: unknown[] = []) => ({
  op: uuid(),
  kind: 'add',
  seq: Date.now(),
  layer,
  design: 1,
  record: uuid(),
  captured_at: new Date().toISOString(),
  values: { nest_code: code, status: 'incubating', species: 'CC' },
  geometry: { type: 'Point', coordinates: [BEACH.longitude, BEACH.latitude] },
  fix: null,
  photos,
})

type Line = { id: number; name: string; title: string }

/** Number of the demo's programme and of its layer. */
export async function nestPatrol(api: Awaited<ReturnType<typeof apiAs>>) {
  const programme = (await api.get<Line[]>('/programmes')).find((p) => p.name === 'Nest Patrol')!.id
  const layer = (await api.get<Line[]>(`/programmes/${programme}/layers`)).find(
    (l) => l.title === 'Nests',
  )!.id
  return { programme, layer }
}

type Shown = { id: number; title: string; address: string }
/** The map and the board that the demo shows to anyone; other tests make more of both. */
export async function shownByDemo(api: Awaited<ReturnType<typeof apiAs>>, programme: number) {
  const maps = await api.get<Shown[]>(`/programmes/${programme}/maps`)
  const boards = await api.get<Shown[]>(`/programmes/${programme}/boards`)
  return {
    map: maps.find((m) => m.title === 'The season so far')!,
    board: boards.find((b) => b.title === 'Dawn board')!,
  }
}
