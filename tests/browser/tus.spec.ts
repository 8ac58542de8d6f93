import { randomBytes } from 'node:crypto'
import http from 'node:http'
import { Upload } from 'tus-js-client'
import { v7 as uuid } from 'uuid'
import { expect, test } from './test'
import { apiAs, CREW, nestOperation, nestPatrol, sha256 } from './yard'

// Source: tus 1.0.0; the client is tus-js-client 4 with its own resumption.
test('a photo that was cut at half goes on from there, and arrives as it was', async ({
  request,
  browser,
  baseURL,
}) => {
  const api = await apiAs(request, CREW)
  const { layer } = await nestPatrol(api)
  const page = await browser.newPage()
  // Drawn on a canvas: a picture of the screen is not to be had everywhere.
  const drawn = await page.evaluate(() => {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = 320
    canvas.getContext('2d')!.fillRect(20, 20, 200, 120)
    return canvas.toDataURL('image/jpeg').split(',')[1]!
  })
  const picture = Buffer.from(drawn, 'base64')
  await page.close()
  // Bytes behind the end of a JPEG are allowed and ignored; they make it large enough to be cut.
  const bytes = Buffer.concat([picture, randomBytes(3_000_000)])
  const photo = {
    id: uuid(),
    name: 'large.jpg',
    type: 'image/jpeg',
    bytes: bytes.length,
    sha256: sha256(bytes),
  }
  const answer = await api.post('/sync', {
    device: uuid(),
    operations: [nestOperation(layer, 'TUS-1', [photo])],
    cursors: {},
  })
  expect(((await answer.json()) as { outcomes: { outcome: string }[] }).outcomes[0]?.outcome).toBe('applied')

  const options = {
    endpoint: `${baseURL}/api/v1/uploads`,
    metadata: { attachment: photo.id },
    chunkSize: Infinity,
    retryDelays: [],
    headers: { ...(await api.headers()), Cookie: await api.cookies() },
  }
  const made = await request.post('/api/v1/uploads', {
    headers: {
      ...(await api.headers()),
      'Tus-Resumable': '1.0.0',
      'Upload-Length': String(bytes.length),
      'Upload-Metadata': `attachment ${Buffer.from(photo.id).toString('base64')}`,
    },
  })
  expect(made.status()).toBe(201)
  const url = new URL(made.headers()['location']!, baseURL).toString()
  // One single request for the whole file, and the wire is cut when half of it has gone out.
  const half = Math.floor(bytes.length / 2)
  await new Promise<void>((done) => {
    const wire = http.request(url, {
      method: 'PATCH',
      headers: {
        ...options.headers,
        'Tus-Resumable': '1.0.0',
        'Upload-Offset': '0',
        'Content-Type': 'application/offset+octet-stream',
        'Content-Length': bytes.length,
      },
    })
    wire.on('error', () => done())
    wire.write(bytes.subarray(0, half), () => setTimeout(() => wire.destroy(new Error('cut')), 150))
  })
  const head = async () => Number((await request.head(url)).headers()['upload-offset'])
  // What the server had read before the cut is kept; at most its last buffer of 64 kB may be missing.
  await expect.poll(head).toBeGreaterThan(half - 65_536)
  const kept = await head()
  expect(kept).toBeLessThanOrEqual(half)

  const sentAgain = await new Promise<number>((done, failed) => {
    let first: number | null = null
    new Upload(bytes, {
      ...options,
      uploadUrl: url,
      onError: failed,
      onProgress: (sent) => {
        first ??= sent
      },
      onSuccess: () => done(first ?? -1),
    }).start()
  })
  expect(sentAgain).toBeGreaterThanOrEqual(kept)
  const original = await request.get(`/api/v1/attachments/${photo.id}/original`)
  expect(sha256(await original.body())).toBe(photo.sha256)
})
