import { DetailedError, Upload } from 'tus-js-client'
import { api, ApiError, byStatus, csrfHeaders } from '../../shared/api'
import { t } from '../../shared/texts'
import type { Problem } from '../../shared/types'
import { db, type PhonePhoto } from '../db'
import { answerCame, workArrived } from '../sync/signal'
import { fetchStack } from './fetchStack'
import { keepAsMark } from './markPhotos'

const CHUNK = 524_288
/** Sends the photos whose records have arrived, one after the other; each goes on where it was cut off. */
export async function sendPhotos(): Promise<void> {
  const unsent = new Set((await db.outbox.orderBy('operation.record').uniqueKeys()) as string[])
  // One by one: all of them at once may be more than the memory holds.
  for (const id of await db.photos.where('state').equals('waiting').primaryKeys()) {
    const photo = await db.photos.get(id)
    if (photo && !unsent.has(photo.record)) await send(photo)
  }
}

async function send(photo: PhonePhoto, secondTry = false): Promise<void> {
  const error = await upload(photo)
  if (!error) {
    await keepAsMark(photo).catch(() => undefined)
    await db.photos.delete(photo.id)
    return
  }
  const response = error instanceof DetailedError ? error.originalResponse : null
  const status = response?.getStatus() ?? 0
  if (status === 410 && response?.getHeader('Photo-State') === 'stored') {
    // The answer to the last piece was lost: it is there already.
    await db.photos.delete(photo.id)
  } else if (status === 419 && !secondTry) {
    await api('GET', '/me')
    await send(photo, true)
  } else if (status === 422 || status === 413 || status === 410) {
    const told = readProblems(response?.getBody())
    const again = told.some((p) => p.code === 'photo_sha_differs') && !secondTry
    await db.photos.update(
      photo.id,
      again
        ? { upload: null, sent: 0 }
        : { state: 'refused', reason: told[0]?.message ?? t('failure.refused') },
    )
    if (again) await send({ ...photo, upload: null }, true)
  } else {
    // No signal, or the server is away: it waits for the next round.
    throw inWords(error, status, response?.getBody())
  }
}

/** What went wrong, as the application says it: the library's own sentences are for who writes programs. */
function inWords(error: Error, status: number, body: string | undefined): ApiError {
  if (status === 0) return new ApiError(0, 'offline', t('failure.offline'))
  const told = readAnswer(body)
  return new ApiError(status, told.code ?? error.name, told.title ?? byStatus(status), told.problems ?? [])
}

function upload(photo: PhonePhoto): Promise<Error | null> {
  return new Promise((done) => {
    const job = new Upload(photo.blob, {
      endpoint: '/api/v1/uploads',
      ...(typeof XMLHttpRequest === 'undefined' ? { httpStack: fetchStack } : {}),
      uploadUrl: photo.upload,
      chunkSize: CHUNK,
      metadata: { attachment: photo.id },
      // The count begins anew whenever a piece has arrived.
      retryDelays: [500, 1500, 3000],
      storeFingerprintForResuming: false,
      onBeforeRequest: (request) => {
        for (const [name, value] of Object.entries(csrfHeaders())) request.setHeader(name, value)
      },
      onUploadUrlAvailable: () => void db.photos.update(photo.id, { upload: job.url }),
      onChunkComplete: (_, sent) => {
        answerCame()
        workArrived()
        void db.photos.update(photo.id, { sent })
      },
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0
        return navigator.onLine && (status === 0 || status >= 500 || status === 423 || status === 409)
      },
      onSuccess: () => done(null),
      onError: (error) => done(error),
    })
    job.start()
  })
}

type Told = { code?: string; title?: string; problems?: Problem[] }

function readAnswer(body: string | undefined): Told {
  try {
    return (JSON.parse(body || '{}') as Told | null) ?? {}
  } catch {
    return {}
  }
}

const readProblems = (body: string | undefined): Problem[] => readAnswer(body).problems ?? []
