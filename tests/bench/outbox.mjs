// How long the field app takes to empty an outbox of 500 and one of 5,000 operations, and whether its screen
// answers meanwhile.
//   node tests/bench/outbox.mjs http://127.0.0.1:8620
// The raw limit of the second is the first: ten times as much may take at most twelve times as long.
import { chromium } from 'playwright'
import { existsSync } from 'node:fs'

const [url = 'http://127.0.0.1:8420', ...sizes] = process.argv.slice(2)
const SIZES = sizes.length ? sizes.map(Number) : [500, 5_000]
const browser = await chromium.launch({
  executablePath:
    process.env.PINYARD_CHROMIUM ??
    ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)),
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'],
})
const context = await browser.newContext({
  baseURL: url,
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  reducedMotion: 'reduce',
  geolocation: { longitude: -11.6512, latitude: -14.1668, accuracy: 4 },
  permissions: ['geolocation'],
})
const page = await context.newPage()
await page.goto('/field')
await page.getByLabel('E-mail').fill('ines@example.test')
await page.getByLabel('Password').fill('halcyon-cays')
await page.getByRole('button', { name: 'Sign in' }).click()
await page.getByRole('button', { name: 'Get this pack' }).click()
await page.getByRole('button', { name: /^Add to/ }).waitFor()
await page.waitForTimeout(3_000)
await context.setOffline(true)

/** Puts operations into the outbox as saving does, and their records beside them. */
const fill = (count) =>
  page.evaluate(async (wanted) => {
    const open = indexedDB.open('pin-yard')
    await new Promise((done) => {
      open.onsuccess = done
    })
    const all = (store) =>
      new Promise((done) => {
        const got = open.result.transaction(store).objectStore(store).getAll()
        got.onsuccess = () => done(got.result)
      })
    const nests = (await all('packs')).flatMap((p) => p.layers).find((l) => l.title === 'Nests')
    const v7 = (n) => {
      const hex = (Date.now() + n).toString(16).padStart(12, '0')
      const r = crypto.getRandomValues(new Uint8Array(10))
      r[0] = (r[0] & 0x0f) | 0x70
      r[2] = (r[2] & 0x3f) | 0x80
      const h = [...r].map((b) => b.toString(16).padStart(2, '0')).join('')
      return `${hex.slice(0, 8)}-${hex.slice(8)}-${h.slice(0, 4)}-${h.slice(4, 8)}-${h.slice(8)}`
    }
    const tx = open.result.transaction(['outbox', 'records', 'meta'], 'readwrite')
    const seqs = tx.objectStore('meta').get('seq')
    const before = await new Promise((done) => {
      seqs.onsuccess = () => done(seqs.result?.value ?? 0)
    })
    for (let i = 1; i <= wanted; i++) {
      const record = v7(i)
      const values = { nest_code: `B${before + i}`, status: 'incubating', species: 'CC' }
      const at = new Date().toISOString()
      tx.objectStore('outbox').put({
        seq: before + i,
        op: v7(i),
        name: values.nest_code,
        state: 'waiting',
        problems: [],
        saved_at: at,
        operation: {
          op: v7(i),
          kind: 'add',
          seq: before + i,
          layer: nests.id,
          design: nests.design_version,
          record,
          captured_at: at,
          values,
          geometry: { type: 'Point', coordinates: [-11.6512 + i / 1e6, -14.1668] },
          fix: null,
          photos: [],
        },
      })
      tx.objectStore('records').put({
        id: record,
        layer: nests.id,
        lon: -11.6512 + i / 1e6,
        lat: -14.1668,
        shape: null,
        values,
        collected_at: at,
        author: null,
        mine: true,
        version: 0,
        name: values.nest_code,
        photos: 0,
        told: null,
        local: 'waiting',
      })
    }
    tx.objectStore('meta').put({ key: 'seq', value: before + wanted })
    await new Promise((done) => {
      tx.oncomplete = done
    })
    // The operation's own name and the item's are one.
    const mend = open.result.transaction('outbox', 'readwrite').objectStore('outbox')
    const items = await new Promise((done) => {
      const got = mend.getAll()
      got.onsuccess = () => done(got.result)
    })
    for (const item of items) mend.put({ ...item, op: item.operation.op })
    await new Promise((done) => {
      mend.transaction.oncomplete = done
    })
    open.result.close()
  }, count)

const took = {}
for (const size of SIZES) {
  await fill(size)
  await page.goto('/field/outbox')
  await page
    .getByTestId('strip')
    .getByText(new RegExp(`${size} to send`))
    .waitFor({ timeout: 60_000 })
  await page.evaluate(() => {
    window.longest = 0
    let last = performance.now()
    const tick = () => {
      const now = performance.now()
      window.longest = Math.max(window.longest, now - last - 10)
      last = now
      setTimeout(tick, 10)
    }
    tick()
  })
  const began = Date.now()
  await context.setOffline(false)
  await page.evaluate(
    () =>
      new Promise((done) => {
        const look = () => {
          const open = indexedDB.open('pin-yard')
          open.onsuccess = () => {
            const n = open.result.transaction('outbox').objectStore('outbox').count()
            n.onsuccess = () => {
              open.result.close()
              if (n.result === 0) done()
              else setTimeout(look, 100)
            }
          }
        }
        look()
      }),
  )
  took[size] = Date.now() - began
  console.log(
    `outbox of ${size}: ${(took[size] / 1000).toFixed(1)} s; the screen answers within ${Math.round(await page.evaluate(() => window.longest))} ms (limit 100)`,
  )
  await context.setOffline(true)
}
if (took[500] && took[5_000])
  console.log(`5,000 take ${(took[5_000] / took[500]).toFixed(1)} times as long as 500 (limit 12)`)
await browser.close()
