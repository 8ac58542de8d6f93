import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from './test'
import { apiAs, desk, nestPatrol } from './yard'

/** Files brought in and taken out at the desk, as a coordinator does it. GDAL and exiftool make the files. */

const folder = () => mkdtempSync(join(tmpdir(), 'bring-'))
const packed = (to: string, files: string[]) =>
  execFileSync('php', [
    '-r',
    '$z = new ZipArchive; $z->open($argv[1], ZipArchive::CREATE);' +
      ' foreach (array_slice($argv, 2) as $f) $z->addFile($f, basename($f)); $z->close();',
    to,
    ...files,
  ])

async function sound(page: Page, what: string) {
  await expect(async () => {
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
      .analyze()
    expect(
      violations.map((v) => `${what}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`),
    ).toEqual([])
  }).toPass({ timeout: 60_000, intervals: [500] })
}

test('a table with addresses and coordinates mixed is looked at, landed, mended and taken back', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const page = await desk(browser)
  const { programme } = await nestPatrol(
    await apiAs(await playwright.request.newContext({ baseURL: baseURL! })),
  )
  await page.goto(`/desk/p/${programme}/build`)
  await page.getByRole('link', { name: 'Bring in' }).click()
  await page.getByLabel('Bring in a file').last().setInputFiles('database/demo/files/old_lights_survey.csv')
  await expect(page.getByRole('heading', { name: 'Check it before it lands' })).toBeVisible({
    timeout: 60_000,
  })
  await expect(page.getByText('9 lost signs put back')).toBeVisible()
  // 03/05 may be two days, so it is asked, and nothing can land before.
  await expect(page.getByRole('button', { name: /^Land/ })).toBeDisabled()
  await page.getByRole('button', { name: 'May 3, 2026' }).click()
  await expect(page.getByText(/rows will wait for you/)).toBeVisible()
  await page.getByRole('combobox', { name: 'What Lux holds' }).selectOption('short_text')
  await expect(page.getByText('56 rows are ready')).toBeVisible()
  await sound(page, 'the review')
  await page.getByLabel('Title of the layer').fill('Lights by the sea')
  // A landing that did not get there is said, and tried again; one whose answer was lost has landed all the same.
  const landing = page.getByRole('button', { name: 'Land 56 rows as a new layer' })
  await page.route('**/land', (route) => route.abort(), { times: 1 })
  await landing.click()
  await expect(page.getByRole('alert').filter({ hasText: /cannot be reached/ })).toBeVisible()
  await page.route('**/land', (route) => route.fetch().then(() => route.abort()), { times: 1 })
  await landing.click()
  await expect(page.getByRole('heading', { name: 'Landed in Lights by the sea' })).toBeVisible({
    timeout: 60_000,
  })
  await sound(page, 'the result')
  // One place is corrected in its cell, one searched, one pointed to.
  const table = page.getByRole('table', { name: 'Rows that wait' })
  const rows = table.locator('tbody tr')
  await expect(rows).toHaveCount(4)
  await rows
    .nth(0)
    .getByLabel(/Where$/)
    .fill('-14.2, -11.6')
  await rows
    .nth(0)
    .getByLabel(/Where$/)
    .press('Tab')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(rows).toHaveCount(3)
  await rows.nth(0).getByRole('button').click()
  await page.getByLabel('Search a place').fill('Over Hill')
  await page.route('**/places?q=*', (route) => route.abort(), { times: 1 })
  await page.getByRole('button', { name: 'Find' }).click()
  await expect(page.getByRole('alert').filter({ hasText: /cannot be reached/ })).toBeVisible()
  await page.getByRole('button', { name: 'Find' }).click()
  await page.getByRole('button', { name: 'Take', exact: true }).first().click()
  await expect(rows).toHaveCount(2)
  await rows.nth(0).getByRole('button').click()
  await page.getByTestId('map').click({ position: { x: 150, y: 200 } })
  await expect(rows).toHaveCount(1)
  await page.getByRole('button', { name: 'Take it all back' }).click()
  await expect(page.getByText('59 records were taken back.')).toBeVisible()
  await expect(page.getByText('lies in the bin')).toBeVisible()
})

test('a zipped shapefile in a national grid becomes areas, coloured on a map, and records say in which they lie', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const at = folder()
  const square = (name: string, use: string, w: number, s: number) => ({
    type: 'Feature',
    properties: { name, use },
    geometry: {
      type: 'Polygon',
      coordinates: [
        [
          [w, s],
          [w + 0.05, s],
          [w + 0.05, s + 0.05],
          [w, s + 0.05],
          [w, s],
        ],
      ],
    },
  })
  writeFileSync(
    join(at, 'a.geojson'),
    JSON.stringify({
      type: 'FeatureCollection',
      features: ['Upper', 'Middle', 'Lower', 'Outer'].map((n, i) =>
        square(n, ['field', 'wood', 'field', 'mere'][i]!, -1.5 + (i % 2) * 0.06, 52 + (i >> 1) * 0.06),
      ),
    }),
  )
  execFileSync('ogr2ogr', [
    '-f',
    'ESRI Shapefile',
    '-t_srs',
    'EPSG:27700',
    join(at, 'parcels.shp'),
    join(at, 'a.geojson'),
  ])
  // As open-data sites give them now and then: without the .prj.
  packed(
    join(at, 'parcels.zip'),
    ['shp', 'shx', 'dbf'].map((e) => join(at, `parcels.${e}`)),
  )
  const page = await desk(browser)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { id: programme } = (await (
    await api.post('/programmes', {
      name: `Parcels ${Date.now() % 1e6}`,
      time_zone: 'Europe/London',
      area: [-1.6, 51.9, -1.3, 52.2],
    })
  ).json()) as { id: number }
  const { id: trees } = (await (
    await api.post(`/programmes/${programme}/layers`, {
      title: 'Trees',
      geometry: 'point',
      name_field: 'code',
      fields: [{ key: 'code', label: 'Code', kind: 'short_text' }],
    })
  ).json()) as { id: number }
  await api.post(`/layers/${trees}/records`, {
    values: { code: 'T1' },
    geometry: { type: 'Point', coordinates: [-1.48, 52.02] },
  })
  await page.goto(`/desk/p/${programme}/build`)
  await expect(page.getByRole('link', { name: 'Bring in' })).toBeVisible()
  // Dropped anywhere on the page.
  const data = await page.evaluateHandle(
    (base64) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
      const transfer = new DataTransfer()
      transfer.items.add(new File([bytes], 'parcels.zip'))
      return transfer
    },
    readFileSync(join(at, 'parcels.zip')).toString('base64'),
  )
  await page.dispatchEvent('body', 'dragenter', { dataTransfer: data })
  await expect(page.getByText('Let go to bring it in')).toBeVisible()
  await page.dispatchEvent('body', 'drop', { dataTransfer: data })
  await expect(page.getByRole('heading', { name: 'Check it before it lands' })).toBeVisible({
    timeout: 60_000,
  })
  await expect(page.getByText('British National Grid')).toBeVisible({ timeout: 60_000 })
  // The file is read again, and what is chosen meanwhile holds.
  await page.route('**/settings', async (route) => {
    const answer = await route.fetch()
    await new Promise((later) => setTimeout(later, 1_500))
    await route.fulfill({ response: answer })
  })
  const taken = page.waitForRequest('**/settings')
  await page.getByRole('button', { name: 'Take it' }).first().click()
  await expect(page.getByText('Read as EPSG:27700 and turned into longitude and latitude.')).toBeVisible()
  await taken
  const use = page.getByRole('combobox', { name: 'What use holds' })
  await use.selectOption('one_choice')
  await expect(page.getByText('4 rows are ready')).toBeVisible()
  await expect(use).toHaveValue('one_choice')
  await page.unroute('**/settings')
  await page.getByRole('button', { name: 'Land 4 rows as a new layer' }).click()
  await expect(page.getByRole('heading', { name: 'Landed in Parcels' })).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Let them carry it' }).click()
  await expect(page.getByText('Records of Trees now say in which area they lie.')).toBeVisible()
  const { records } = await api.get<{ records: { values: Record<string, string> }[] }>(
    `/layers/${trees}/records`,
  )
  expect(Object.values(records[0]!.values)).toContain('Upper')
  const layers = await api.get<{ id: number; title: string }[]>(`/programmes/${programme}/layers`)
  const { id: map } = (await (
    await api.post(`/programmes/${programme}/maps`, {
      title: 'Parcels',
      layer: layers.find((l) => l.title === 'Parcels')!.id,
    })
  ).json()) as { id: number }
  await page.goto(`/desk/p/${programme}/publish/map/${map}`)
  await expect(page.getByText('wood').first()).toBeVisible()
  await expect(page.getByText('field').first()).toBeVisible()
  // In three colours of one's own.
  for (const [use, colour] of [
    ['field', '#E3C565'],
    ['wood', '#2E6B3F'],
    ['mere', '#3F7CAC'],
  ]) {
    await page.getByRole('button', { name: `${use} change its mark` }).click()
    await page.getByLabel('A colour of your own').fill(colour!.toLowerCase())
    await page.keyboard.press('Escape')
  }
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const { layers: coloured } = await api.get<{ layers: { look: { classes: { colour: string }[] } }[] }>(
    `/maps/${map}`,
  )
  expect(coloured[0]!.look.classes.map((c) => c.colour.toUpperCase()).sort()).toEqual([
    '#2E6B3F',
    '#3F7CAC',
    '#E3C565',
  ])
  // Then by the trees in them, with a table beside the map, by name.
  await page.getByLabel('Marks by').selectOption({ label: 'Records of another layer' })
  await expect(page.getByRole('region', { name: 'Layers' })).toContainText('by Trees')
  await page.getByLabel('Show a table of what is on the map').check()
  const rows = page.getByRole('region', { name: 'Parcels as a table' }).locator('tbody tr')
  await expect(rows.locator('td:first-child')).toHaveText(['Lower', 'Middle', 'Outer', 'Upper'])
  await expect(rows.nth(3)).toContainText('1')
})

test('a zip of photos lands on the map, one without a place is put there, and all go out again', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const at = folder()
  for (const [name, place] of [
    ['gate', [-14.15, -11.65]],
    ['well', [-14.16, -11.66]],
    ['barn', null],
  ] as const) {
    execFileSync('php', [
      '-r',
      '$i = imagecreatetruecolor(320, 240); imagefill($i, 0, 0, crc32($argv[1]) & 0xFFFFFF); imagejpeg($i, $argv[1]);',
      join(at, `${name}.jpg`),
    ])
    execFileSync('exiftool', [
      '-q',
      '-overwrite_original',
      '-DateTimeOriginal=2025:05:03 06:30:00',
      ...(place
        ? [
            `-GPSLatitude=${-place[0]}`,
            '-GPSLatitudeRef=S',
            `-GPSLongitude=${-place[1]}`,
            '-GPSLongitudeRef=W',
          ]
        : []),
      join(at, `${name}.jpg`),
    ])
  }
  packed(
    join(at, 'photos.zip'),
    ['gate', 'well', 'barn'].map((n) => join(at, `${n}.jpg`)),
  )
  const page = await desk(browser)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { id: programme } = (await (
    await api.post('/programmes', {
      name: `Photos ${Date.now() % 1e6}`,
      time_zone: 'UTC',
      area: [-11.7, -14.2, -11.6, -14.1],
    })
  ).json()) as { id: number }
  await page.goto(`/desk/p/${programme}/build/bring`)
  await page.getByLabel('Bring in a file').last().setInputFiles(join(at, 'photos.zip'))
  await expect(page.getByText('2 rows are ready')).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: /^Land/ }).click()
  await expect(page.getByRole('heading', { name: 'Landed in Photos' })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByRole('img', { name: 'barn.jpg' })).toBeVisible()
  await page
    .getByRole('table', { name: 'Rows that wait' })
    .locator('tbody tr')
    .first()
    .getByRole('button')
    .click()
  await page.getByTestId('map').click({ position: { x: 200, y: 200 } })
  await expect(page.getByText('All rows are in. Nothing waits.')).toBeVisible()
  await page.getByRole('link', { name: 'See the records' }).click()
  await page.getByRole('button', { name: 'Take out' }).click()
  await page.getByLabel('Format').selectOption('photos')
  const saved = page.waitForEvent('download', { timeout: 60_000 })
  await page.getByRole('button', { name: 'Write the file' }).click()
  const file = await (await saved).path()
  expect(
    execFileSync('php', [
      '-r',
      '$z = new ZipArchive; $z->open($argv[1]); for ($i = 0; $i < $z->numFiles; $i++) echo $z->getNameIndex($i), " ";',
      file,
    ])
      .toString()
      .split(' ')
      .sort()
      .join(' ')
      .trim(),
  ).toBe('barn-1.jpg gate-1.jpg index.csv well-1.jpg')
  await page.getByLabel('Format').selectOption('shp')
  await expect(page.getByText(/cut to ten letters/)).toBeVisible()
  await sound(page, 'taking out')
})

test('a file whose sending was cut by the network goes on from where it stood', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const page = await desk(browser)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { id: programme } = (await (
    await api.post('/programmes', {
      name: `Cut ${Date.now() % 1e6}`,
      time_zone: 'UTC',
      area: [-11.7, -14.2, -11.6, -14.1],
    })
  ).json()) as { id: number }
  const at = join(folder(), 'long.csv')
  // Three pieces of 8 MB; the second meets no network, and neither does any after it.
  writeFileSync(
    at,
    'code,lat,lon,remark\n' +
      Array.from({ length: 200_000 }, (_, i) => `C-${i},-14.15,-11.65,${'x'.repeat(80)}\n`).join(''),
  )
  let pieces = 0
  await page.route('**/api/v1/imports/*/files/*', (route) =>
    ++pieces === 2
      ? page
          .context()
          .setOffline(true)
          .then(() => route.abort())
      : route.continue(),
  )
  await page.goto(`/desk/p/${programme}/build/bring`)
  await page.getByLabel('Bring in a file').last().setInputFiles(at)
  await expect(page.getByRole('alert')).toContainText('cannot be reached', { timeout: 60_000 })
  await page.unroute('**/api/v1/imports/*/files/*')
  await page.context().setOffline(false)
  await page.reload()
  await page.getByRole('link', { name: 'long.csv' }).click()
  await expect(page.getByText('Not all of it has arrived.')).toBeVisible()
  await page
    .getByLabel('Choose it again and go on')
    .last()
    .setInputFiles({ name: 'other.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b') })
  await expect(page.getByText('That is another file.')).toBeVisible()
  await page.getByLabel('Choose it again and go on').last().setInputFiles(at)
  await expect(page.getByRole('heading', { name: 'Check it before it lands' })).toBeVisible({
    timeout: 90_000,
  })
  await expect(page.getByText('200,000 rows').first()).toBeVisible()
})

test('a newer list changes the records of a layer by its key, and what contradicts waits for a person', async ({
  browser,
  playwright,
  baseURL,
}) => {
  test.setTimeout(180_000)
  const page = await desk(browser)
  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { id } = (await (
    await api.post('/programmes', {
      name: `Posts ${Date.now()}`,
      time_zone: 'Atlantic/St_Helena',
      area: [-12, -15, -11, -14],
    })
  ).json()) as { id: number }
  const bring = async (name: string, rows: string[]) => {
    await page.goto(`/desk/p/${id}/build/bring`)
    await page
      .getByLabel('Bring in a file')
      .last()
      .setInputFiles({
        name,
        mimeType: 'text/csv',
        buffer: Buffer.from(['Post,State,Lat,Lon', ...rows].join('\n')),
      })
    await expect(page.getByRole('heading', { name: 'Check it before it lands' })).toBeVisible({
      timeout: 60_000,
    })
  }
  await bring('posts.csv', [
    'P-1,whole,-14.2,-11.6',
    'P-2,whole,-14.3,-11.5',
    'P-3,leaning,-14.25,-11.55',
    'P-4,whole,-14.21,-11.52',
    'P-5,leaning,-14.22,-11.53',
  ])
  await page.getByLabel('Title of the layer').fill('Posts')
  await page.getByRole('button', { name: 'Land 5 rows as a new layer' }).click()
  await expect(page.getByRole('heading', { name: 'Landed in Posts' })).toBeVisible({ timeout: 60_000 })
  await bring('newer.csv', [
    'P-1,leaning,-14.2,-11.6',
    'P-2,whole,-14.3,-11.5',
    'P-3,whole,-14.25,-11.55',
    'P-3,leaning,-14.25,-11.55',
    'P-9,whole,-14.4,-11.4',
  ])
  await page.getByLabel('It becomes').selectOption({ label: 'rows of Posts' })
  await expect(page.getByRole('button', { name: 'Land 5 rows' })).toBeEnabled()
  await page
    .getByLabel('Rows that are there already')
    .selectOption({ label: 'Change those with the same key' })
  for (const [told, n] of [
    ['changed', 2],
    ['new', 1],
    ['the same', 1],
    ['in conflict', 1],
  ] as const)
    await expect(page.getByText(`${n} ${told}`, { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Change or add 3 records' }).click()
  await expect(page.getByRole('heading', { name: 'Landed in Posts' })).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText('2 changed', { exact: true })).toBeVisible()
  await expect(page.getByText('1 wait for you', { exact: true })).toBeVisible()
  const rows = page.getByRole('table', { name: 'Rows that wait' }).locator('tbody tr')
  await expect(rows).toHaveCount(1)
  await expect(rows).toContainText('came in row 4 already')
  const states = async () => {
    const layer = (await api.get<{ id: number; title: string }[]>(`/programmes/${id}/layers`)).find(
      (l) => l.title === 'Posts',
    )!.id
    return Object.fromEntries(
      (
        await api.get<{ records: { name: string; values: { state: string } }[] }>(`/layers/${layer}/records`)
      ).records
        .map((r) => [r.name, r.values.state])
        .sort(),
    )
  }
  expect(await states()).toEqual({
    'P-1': 'leaning',
    'P-2': 'whole',
    'P-3': 'whole',
    'P-4': 'whole',
    'P-5': 'leaning',
    'P-9': 'whole',
  })
  // Whoever tries it again means it.
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(rows).toHaveCount(0)
  expect((await states())['P-3']).toBe('leaning')
  await page.getByRole('button', { name: 'Take it all back' }).click()
  await expect.poll(async () => Object.keys(await states())).toEqual(['P-1', 'P-2', 'P-3', 'P-4', 'P-5'])
  expect(await states()).toMatchObject({ 'P-1': 'whole', 'P-3': 'leaning' })
})
