// How quickly the field app opens and searches without signal, with 20,000 records on the phone; run by
// bin/bench.
//   node tests/bench/opening.mjs http://127.0.0.1:8620
// Times are of this machine's Chromium with software drawing, as it is and slowed four times by Chromium
// itself.
// The raw limit beside them is a loop of fifty million additions in the same slowed page.
import { chromium, request } from 'playwright'
import { existsSync, writeFileSync } from 'node:fs'

const [url = 'http://127.0.0.1:8420', profile] = process.argv.slice(2)
const RECORDS = 20_000
const TIMES = 3
const SLOWED = [1, 4]
const seconds = (ms) => `${(ms / 1000).toFixed(2)} s`
const middle = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]

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
// A layer with a form of 200 fields: every fifth depends on another, every tenth is calculated from two
// others.
const FIELDS = 200
const office = await request.newContext({ baseURL: url })
const token = async () => ({
  'X-XSRF-TOKEN': decodeURIComponent(
    (await office.storageState()).cookies.find((c) => c.name === 'XSRF-TOKEN')?.value ?? '',
  ),
  Accept: 'application/json',
})
await office.get('/api/v1/me')
await office.post('/api/v1/session', {
  data: { email: 'mara@example.test', password: 'halcyon-cays' },
  headers: await token(),
})
const programme = (await (await office.get('/api/v1/programmes')).json()).find(
  (p) => p.name === 'Nest Patrol',
).id
const kinds = [
  'whole_number',
  'short_text',
  'yes_no',
  'date',
  'one_choice',
  'decimal',
  'whole_number',
  'long_text',
  'several_choices',
  'calculated',
]
const fields = Array.from({ length: FIELDS }, (_, i) => {
  const kind = kinds[i % kinds.length]
  return {
    key: `f${i}`,
    label: `Field ${i}`,
    kind,
    ...(/_choices?$/.test(kind)
      ? { choices: ['a', 'b', 'c'].map((c) => ({ code: c, label: `Choice ${c}` })) }
      : {}),
    ...(kind === 'calculated' ? { formula: `f${i - 9} + f${i - 3}` } : {}),
    ...(i % 5 === 3 ? { show_when: `f${i - (i % 10 === 3 ? 3 : 2)} > 0` } : {}),
  }
})
const made = await office.post(`/api/v1/programmes/${programme}/layers`, {
  data: {
    title: 'Long form',
    geometry: 'point',
    fields,
    photos: { allowed: false },
    rights: { crew: { add: true, see: 'all', change: 'own', delete: 'none' } },
  },
  headers: await token(),
})
if (made.status() !== 201 && !(await made.text()).includes('taken')) throw new Error(await made.text())

const first = await context.newPage()
await first.goto('/field')
await first.getByLabel('E-mail').fill('ines@example.test')
await first.getByLabel('Password').fill('halcyon-cays')
await first.getByRole('button', { name: 'Sign in' }).click()
await first.getByRole('button', { name: 'Get this pack' }).click()
await first.getByRole('button', { name: /^Add to/ }).waitFor()
await first.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
await first.waitForTimeout(5_000)
const there = await first.evaluate(async (wanted) => {
  const open = indexedDB.open('pin-yard')
  await new Promise((done) => {
    open.onsuccess = done
  })
  const read = open.result.transaction('records').objectStore('records').getAll()
  await new Promise((done) => {
    read.onsuccess = done
  })
  const tx = open.result.transaction('records', 'readwrite')
  const store = tx.objectStore('records')
  const points = read.result.filter((r) => !r.shape)
  for (let i = read.result.length; i < wanted; i++) {
    const like = points[i % points.length]
    store.put({
      ...like,
      id: crypto.randomUUID(),
      lon: like.lon + (i % 141) / 5000,
      lat: like.lat - (i % 139) / 5000,
      name: `${like.name} ${i}`,
    })
  }
  await new Promise((done) => {
    tx.oncomplete = done
  })
  const count = open.result.transaction('records').objectStore('records').count()
  await new Promise((done) => {
    count.onsuccess = done
  })
  return count.result
}, RECORDS)
await first.close()
await context.setOffline(true)

console.log(`\nfield app, offline, ${there} records on the phone (middle of ${TIMES})`)
for (const slowed of SLOWED) {
  const took = { strip: [], add: [], near: [], search: [], form: [], letter: [], raw: [] }
  for (let n = 0; n < TIMES; n++) {
    const page = await context.newPage()
    const cdp = await context.newCDPSession(page)
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: slowed })
    if (profile && n === 0) {
      await cdp.send('Profiler.enable')
      await cdp.send('Profiler.setSamplingInterval', { interval: 500 })
      await cdp.send('Profiler.start')
    }
    await page.addInitScript(() => {
      // Asked of the page itself at each frame: a question from outside would come too late.
      window.seen = {}
      const look = () => {
        const strip = document.querySelector('[data-testid=strip]')?.textContent?.trim() ?? ''
        if (!window.seen.strip && strip) window.seen.strip = performance.now()
        const button = [...document.querySelectorAll('button')].find((b) =>
          b.textContent?.startsWith('Add to'),
        )
        if (!window.seen.add && button && !button.disabled) window.seen.add = performance.now()
        if (!window.seen.near && /Nearest/.test(document.body?.textContent ?? ''))
          window.seen.near = performance.now()
        if (!window.seen.near) requestAnimationFrame(look)
      }
      requestAnimationFrame(look)
    })
    await page.goto('/field')
    await page.waitForFunction(() => window.seen.near, null, { timeout: 60_000 })
    const seen = await page.evaluate(() => window.seen)
    if (profile && n === 0)
      writeFileSync(`${profile}-${slowed}.json`, JSON.stringify((await cdp.send('Profiler.stop')).profile))
    await page.waitForTimeout(2_000 * slowed)
    await page.getByRole('button', { name: 'List' }).click()
    const box = page
      .getByRole('searchbox')
      .or(page.getByLabel(/search|find/i))
      .first()
    await box.click()
    await page.waitForTimeout(1_000 * slowed)
    const search = await page.evaluate(async () => {
      const input = document.activeElement
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
      const times = []
      for (const text of ['n', 'n1', 'n12', 'n1']) {
        const begun = performance.now()
        set.call(input, text)
        input.dispatchEvent(new Event('input', { bubbles: true }))
        // Answered when the frame that holds the answer has been drawn.
        await new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
        times.push(performance.now() - begun)
        await new Promise((done) => setTimeout(done, 700))
      }
      return times
    })
    await page.goto('/field')
    await page.getByLabel('Layer', { exact: true }).selectOption({ label: 'Long form' })
    await page.getByRole('button', { name: 'Add to Long form here' }).waitFor()
    await page.waitForTimeout(6_000)
    const form = await page.evaluate(async () => {
      const begun = performance.now()
      ;[...document.querySelectorAll('button')]
        .find((b) => b.textContent?.startsWith('Add to Long form'))
        .click()
      const frame = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
      while (!document.querySelector('form input, main input')) await frame()
      await frame()
      return performance.now() - begun
    })
    await page.getByLabel('Field 1', { exact: true }).click()
    await page.waitForTimeout(500 * slowed)
    const letter = await page.evaluate(async () => {
      const input = document.activeElement
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
      const times = []
      for (let n = 1; n <= 6; n++) {
        const before = performance.now()
        set.call(input, 'x'.repeat(n))
        input.dispatchEvent(new Event('input', { bubbles: true }))
        await new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
        times.push(performance.now() - before)
        await new Promise((done) => setTimeout(done, 300))
      }
      return times
    })
    took.form.push(form)
    took.letter.push(Math.max(...letter))
    const raw = await page.evaluate(() => {
      const begun = performance.now()
      let sum = 0
      for (let i = 0; i < 50_000_000; i++) sum += i
      return sum > 0 ? performance.now() - begun : 0
    })
    took.strip.push(seen.strip)
    took.add.push(seen.add)
    took.near.push(seen.near)
    took.search.push(Math.max(...search))
    took.raw.push(raw)
    await page.close()
  }
  if (profile) console.log(JSON.stringify(took, (k, v) => (typeof v === 'number' ? Math.round(v) : v)))
  const raw = middle(took.raw)
  const line = (what, of) =>
    console.log(
      `  ${what.padEnd(44)} ${seconds(middle(of)).padStart(8)}   ${(middle(of) / raw).toFixed(2)}x of the loop`,
    )
  console.log(slowed === 1 ? ' as it is' : ` slowed ${slowed} times`)
  console.log(`  ${'fifty million additions'.padEnd(44)} ${seconds(raw).padStart(8)}`)
  line('until the strip says what has not been sent', took.strip)
  line('until a record can be added', took.add)
  line('until the nearest record is named', took.near)
  line('a letter typed in the search, the slowest', took.search)
  line(`a form of ${FIELDS} fields opens`, took.form)
  line('a letter typed in it, the slowest', took.letter)
}
await browser.close()
