// What a server answers a second to screens that ask again and again, four clients at once, nothing having changed:
// a board at the desk and behind its link, a map behind its link, and who is signed in. Browsers send the tag they
// have, so do these, and they are told by the short way (App\Http\Polls\ShortWay). The raw limit is GET /health, which
// goes through the same server, the same PHP and one query.
//   node tests/bench/polls.mjs http://127.0.0.1:8620
import http from 'node:http'
import { request } from 'playwright'

const [url = 'http://127.0.0.1:8420'] = process.argv.slice(2)
const CLIENTS = 4
const SECONDS = 2
const ROUNDS = 5

const desk = await request.newContext({ baseURL: url })
const signedIn = await desk.post('/api/v1/session', {
  data: { email: 'mara@example.test', password: 'halcyon-cays' },
})
if (!signedIn.ok()) throw new Error(`sign-in answered ${signedIn.status()}`)
const cookie = (await desk.storageState()).cookies.map((c) => `${c.name}=${c.value}`).join('; ')
const api = async (path) => {
  const answer = await desk.get(`/api/v1${path}`)
  if (!answer.ok()) throw new Error(`${path} answered ${answer.status()}`)
  return answer.json()
}
const programme = (await api('/programmes')).find((p) => p.title === 'Nest Patrol')
const linked = (list) => list.find((thing) => thing.address !== null)
const board = linked(await api(`/programmes/${programme.id}/boards`))
const map = linked(await api(`/programmes/${programme.id}/maps`))
const token = (thing) => thing.address.split('/').pop()
const asked = [
  ['GET /health', '/health', false],
  ['a board at the desk', `/api/v1/boards/${board.id}/answers`, true],
  ['the board behind its link', `/api/v1/open/boards/${token(board)}`, false],
  ['a map behind its link', `/api/v1/open/maps/${token(map)}`, false],
  ['GET /me', '/api/v1/me', true],
]

const agent = new http.Agent({ keepAlive: true, maxSockets: CLIENTS })
const get = (path, headers) =>
  new Promise((done, failed) => {
    http
      .get(url + path, { agent, headers }, (answer) => {
        answer.resume()
        answer.on('end', () => done({ status: answer.statusCode, tag: answer.headers.etag }))
      })
      .on('error', failed)
  })

const rate = async ([, path, person]) => {
  const headers = { 'Pin-Yard-Language': 'en', ...(person ? { cookie } : {}) }
  const first = await get(path, headers)
  if (first.tag) headers['if-none-match'] = first.tag
  const until = performance.now() + SECONDS * 1_000
  const began = performance.now()
  let count = 0
  const client = async () => {
    while (performance.now() < until) {
      const { status } = await get(path, headers)
      if (status !== 200 && status !== 304) throw new Error(`${path} answered ${status}`)
      count++
    }
  }
  await Promise.all(Array.from({ length: CLIENTS }, client))
  return (count / (performance.now() - began)) * 1_000
}
const median = (of) => of.toSorted((a, b) => a - b)[of.length >> 1]

// In turn, so that a machine that is busier for a while is so for all of them.
const rates = asked.map(() => [])
for (let round = 0; round < ROUNDS; round++) {
  for (const [i, one] of asked.entries()) rates[i].push(await rate(one))
}
const raw = median(rates[0])
console.log(`Polls, ${CLIENTS} clients at once, unchanged`.padEnd(62), 'a second'.padStart(12))
for (const [i, [what]] of asked.entries()) {
  const own = median(rates[i])
  console.log(
    what.padEnd(62),
    own.toFixed(0).padStart(12),
    i === 0 ? '' : `${(own / raw).toFixed(2)} of /health`,
  )
}
agent.destroy()
await desk.dispose()
