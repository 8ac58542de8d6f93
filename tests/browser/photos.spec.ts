import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { carryOver } from '../../resources/ts/field/photos/jpeg'
import { expect, test } from './test'
import { apiAs, BEACH, nestPatrol, PHONE, phoneWithPack } from './yard'

test.use(PHONE)

/**
 * Photos as phones take them: large, lying on their side, full of tags. exiftool, which we did not write,
 * puts the tags in and reads them back.
 */

const TAGS = [
  '-Make=Field Works',
  '-Model=Rain 4',
  '-Orientation#=6',
  '-DateTimeOriginal=2026:05:03 06:30:12',
  '-OffsetTimeOriginal=-01:00',
  '-GPSLatitude=14.1702',
  '-GPSLatitudeRef=S',
  '-GPSLongitude=11.6512',
  '-GPSLongitudeRef=W',
  '-GPSImgDirection=211',
  '-GPSImgDirectionRef=T',
  '-XMP-dc:Title=Turtle track',
  '-IPTC:Caption-Abstract=Track at dawn',
  '-Comment=as taken',
]
const KEPT = [
  'Make',
  'Model',
  'DateTimeOriginal',
  'OffsetTimeOriginal',
  'GPSLatitude',
  'GPSLongitude',
  'GPSImgDirection',
  'Title',
  'Caption-Abstract',
  'Comment',
]

const read = (file: string) =>
  (
    JSON.parse(execFileSync('exiftool', ['-json', '-n', '-a', file]).toString()) as Record<
      string,
      string | number
    >[]
  )[0]!
const folder = () => mkdtempSync(join(tmpdir(), 'pin-yard-'))

/** A picture that is dark on the left third as it is stored. */
function photo(width: number, height: number, tags = TAGS): string {
  const file = join(folder(), 'track.jpg')
  execFileSync('php', [
    '-r',
    '[, $file, $w, $h] = $argv; $i = imagecreatetruecolor((int) $w, (int) $h);' +
      ' for ($y = 0; $y < $h; $y += 8) for ($x = 0; $x < $w; $x += 8)' +
      ' imagefilledrectangle($i, $x, $y, $x + 7, $y + 7,' +
      ' $x < $w / 3 ? 0x202020 + random_int(0, 0x10) : 0xD0C0A0 + random_int(0, 0x1F));' +
      ' imagejpeg($i, $file, 95);',
    file,
    String(width),
    String(height),
  ])
  execFileSync('exiftool', ['-q', '-overwrite_original', ...tags, file])
  return file
}

test('a photo that is drawn anew keeps what it says of itself, and lies upright', () => {
  const at = folder()
  for (const order of ['II', 'MM']) {
    const from = photo(900, 600, [
      `-ExifByteOrder=${order}`,
      '-ExifImageWidth=900',
      '-ExifImageHeight=600',
      ...TAGS,
    ])
    const to = photo(200, 300, ['-Comment=of the one that draws', '-Make=Screen'])
    const out = join(at, `${order}.jpg`)
    writeFileSync(
      out,
      carryOver(new Uint8Array(readFileSync(from)), new Uint8Array(readFileSync(to)), 200, 300),
    )
    const [was, now] = [read(from), read(out)]
    for (const tag of KEPT) expect(now[tag], `${order} ${tag}`).toEqual(was[tag])
    expect(now).toMatchObject({
      Orientation: 1,
      ExifImageWidth: 200,
      ExifImageHeight: 300,
      ImageWidth: 200,
      ImageHeight: 300,
      ExifByteOrder: order,
    })
    expect(execFileSync('exiftool', ['-validate', '-warning', '-a', out]).toString()).not.toMatch(/Error/)
  }
})

test('a photo without tags, or with torn ones, is carried over as far as it goes', () => {
  const to = new Uint8Array(readFileSync(photo(40, 30, ['-Comment=x'])))
  const plain = new Uint8Array(readFileSync(photo(60, 40, ['-all='])))
  expect(carryOver(plain, to, 40, 30).length).toBeGreaterThan(100)
  const tagged = new Uint8Array(readFileSync(photo(60, 40)))
  for (let cut = 2; cut < 400; cut += 31) {
    const out = join(folder(), 'torn.jpg')
    writeFileSync(out, carryOver(tagged.slice(0, cut), to, 40, 30))
    expect(read(out)).toMatchObject({ ImageWidth: 40, ImageHeight: 30 })
  }
  // Lengths and offsets that point beyond the end.
  for (const at of [20, 24, 30, 38, 42]) {
    const bent = tagged.slice()
    bent.fill(0xff, at, at + 4)
    expect(carryOver(bent, to, 40, 30).length).toBeGreaterThan(100)
  }
  expect(() => carryOver(new Uint8Array([1, 2, 3]), to, 1, 1)).toThrow()
})

test('a photo is made smaller on the phone, its place taken, an arrow drawn on a copy, and all arrives with its tags', async ({
  context,
  playwright,
  baseURL,
}) => {
  test.setTimeout(240_000)
  const code = `PH-${Math.random().toString(36).slice(2, 6).toUpperCase()}`
  const page = await phoneWithPack(context)
  await context.setOffline(true)
  await page.getByRole('button', { name: /Add to Nests/ }).click()
  await page.getByLabel('Nest code').fill(code)
  await page.getByRole('button', { name: 'Incubating' }).click()
  await page.getByRole('button', { name: 'Loggerhead' }).click()
  await page.getByLabel('Photos: Photo').setInputFiles(photo(4000, 3000))
  // Typing goes on while the photo is made ready, and is not lost to it.
  await page.getByLabel('Nest code').fill(`${code}x`)
  const far = page.getByText(/The photo was taken 3[78]0 m south of here/)
  await expect(far).toBeVisible()
  await expect(page.getByLabel('Nest code')).toHaveValue(`${code}x`)
  await page.getByRole('button', { name: 'Put it there' }).click()
  await expect(far).toHaveCount(0)
  await expect(page.getByText('-14.17020, -11.65120')).toBeVisible()

  await page.getByRole('button', { name: 'Draw on track.jpg' }).click()
  const picture = page.getByRole('img', { name: 'track.jpg' })
  const box = (await picture.boundingBox())!
  expect(box.height, 'it stands upright').toBeGreaterThan(box.width)
  const keep = page.getByRole('button', { name: 'Add the copy' })
  await expect(keep).toBeDisabled()
  await page.mouse.move(box.x + 40, box.y + 40)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2, { steps: 5 })
  await page.mouse.up()
  await page.getByRole('button', { name: 'Circle' }).click()
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 50, box.y + box.height / 2, { steps: 5 })
  await page.mouse.up()
  // Tapped twice by cold fingers it is one copy.
  await keep.dblclick()
  await expect(page.getByRole('button', { name: 'Draw on track-marked.jpg' })).toHaveCount(1)
  await expect(keep).toHaveCount(0)
  await page.getByRole('button', { name: 'Save on this phone' }).click()
  await context.setOffline(false)

  const api = await apiAs(await playwright.request.newContext({ baseURL: baseURL! }))
  const { layer } = await nestPatrol(api)
  const filter = encodeURIComponent(
    JSON.stringify({ all: [{ field: 'nest_code', test: 'is', value: `${code}x` }] }),
  )
  type Row = { lon: number; lat: number; photos: { id: string; name: string; state: string }[] }
  const arrived = async () =>
    (await api.get<{ records: Row[] }>(`/layers/${layer}/records?filter=${filter}`)).records[0]
  await expect
    .poll(async () => (await arrived())?.photos.filter((p) => p.state === 'stored').length, {
      timeout: 60_000,
    })
    .toBe(2)
  const record = await arrived()
  expect([record!.lon, record!.lat]).toEqual([BEACH.longitude, -14.1702])
  expect(record!.photos.map((p) => [p.name, p.state]).sort()).toEqual([
    ['track-marked.jpg', 'stored'],
    ['track.jpg', 'stored'],
  ])
  const was = read(photo(40, 30))
  for (const { id, name } of record!.photos) {
    const file = join(folder(), name)
    const answer = await page.request.get(`/api/v1/attachments/${id}/original`)
    expect(answer.status()).toBe(200)
    writeFileSync(file, await answer.body())
    const now = read(file)
    for (const tag of KEPT) expect(now[tag], `${name} ${tag}`).toEqual(was[tag])
    expect(now).toMatchObject({ ImageWidth: 1920, ImageHeight: 2560, Orientation: 1 })
  }
})
