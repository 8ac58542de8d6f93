import { spokenLanguage, t, type TextKey } from './texts'
import type { Problem } from './types'

/** A request that the server did not accept, or that did not reach it (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly problems: Problem[] = [],
    /** Seconds that the server asks to wait. */
    readonly retryAfter: number | null = null,
  ) {
    super(message)
  }
}

const BASE = '/api/v1'

let given: string | null = null
/** A worker has no cookies of a page; whoever runs requests in one gives it the token. */
export const giveToken = (token: string | null) => {
  given = token
}

function csrfToken(): string {
  if (typeof document === 'undefined') return given === null ? '' : decodeURIComponent(given)
  const found = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)
  return found?.[1] ? decodeURIComponent(found[1]) : ''
}

let bearer: number | null = null
/**
 * Whose phone this is: every request of the field app says so, and the server refuses one for somebody else's
 * session.
 */
export const nameBearer = (person: number | null) => {
  bearer = person
}

const bearerHeader = (): Record<string, string> =>
  bearer === null ? {} : { 'Pin-Yard-Person': String(bearer) }

let lookingAs: string | null = null
/** From now on everything is asked for as an audience gets it; null: as oneself. */
export const lookAs = (audience: string | null) => {
  lookingAs = audience
}

const ownHeaders = (): Record<string, string> => ({
  // Answers have sentences in them, which stand among those of this page.
  'Pin-Yard-Language': spokenLanguage(),
  ...bearerHeader(),
  ...(lookingAs === null ? {} : { 'Pin-Yard-Seen-As': lookingAs }),
})

/** Headers that every changing request needs; the uploads use them too. */
export const csrfHeaders = (): Record<string, string> => ({ 'X-XSRF-TOKEN': csrfToken(), ...ownHeaders() })

let changed = 0
/** When this page last had the server change something (ms since 1970), as far as it knows: what came before may be old. */
export const lastChanged = () => changed

async function send(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
  cache: RequestCache = method === 'GET' ? 'no-cache' : 'no-store',
): Promise<Response> {
  const init: RequestInit = {
    method,
    credentials: 'same-origin',
    headers: { Accept: 'application/json', ...ownHeaders(), ...headers },
    cache,
  }
  if (method !== 'GET')
    init.headers = { ...init.headers, 'Content-Type': 'application/json', ...csrfHeaders() }
  if (body !== undefined) init.body = JSON.stringify(body)
  try {
    return await fetch(BASE + path, init)
  } catch {
    throw new ApiError(0, 'offline', t('failure.offline'))
  } finally {
    // Also where no answer came: it may have been done.
    if (method !== 'GET') changed = Date.now()
  }
}

async function failure(response: Response): Promise<ApiError> {
  const told = (await response.json().catch(() => null)) as {
    code?: string
    title?: string
    problems?: Problem[]
  } | null
  return new ApiError(
    response.status,
    told?.code ?? 'failed',
    told?.title ?? byStatus(response.status),
    told?.problems ?? [],
    wait(response),
  )
}

const BY_STATUS: Record<number, TextKey> = {
  401: 'failure.sign_in',
  403: 'failure.forbidden',
  404: 'failure.not_found',
  408: 'failure.slow',
  413: 'failure.too_large',
  419: 'failure.page_expired',
  429: 'failure.too_many_tries',
  502: 'failure.slow',
  503: 'failure.slow',
  504: 'failure.slow',
  507: 'failure.disk_full',
}

/** What to say of an answer that says nothing itself: something on the way gave it, not the application. */
export const byStatus = (status: number): string => t(BY_STATUS[status] ?? 'failure.failed')

function wait(response: Response): number | null {
  const seconds = Number(response.headers.get('Retry-After') ?? NaN)
  return Number.isFinite(seconds) && seconds >= 0 ? Math.min(seconds, 600) : null
}

/** Calls the API; answers with its JSON. */
export async function api<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response = await send(method, path, body)
  if (response.status === 419) {
    // The session was renewed since the page was loaded (a phone may come back after days): fetch its token,
    // once.
    await send('GET', '/me')
    response = await send(method, path, body)
  }
  if (!response.ok) throw await failure(response)
  // Some answers say nothing but that they were heard (202, 204).
  const text = response.status === 204 ? '' : await response.text()
  return (text === '' ? undefined : JSON.parse(text)) as T
}

/** What an address with a version in it answers: the same each time, so the browser may have it already. */
export async function apiNamed<T>(path: string): Promise<T> {
  const response = await send('GET', path, undefined, {}, 'default')
  if (!response.ok) throw await failure(response)
  return (await response.json()) as T
}

/** From this size on a body is worth compressing. */
const WORTH_PACKING = 2_048

/** Posts something that may be large, compressed where the browser can, and gives up after a while. */
export async function apiPacked<T>(path: string, body: unknown, patienceMs: number): Promise<T> {
  const text = JSON.stringify(body)
  const pack = text.length > WORTH_PACKING && 'CompressionStream' in globalThis
  const bytes: BodyInit = pack
    ? await new Response(new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'))).arrayBuffer()
    : text
  const post = async () => {
    try {
      return await fetch(BASE + path, {
        method: 'POST',
        credentials: 'same-origin',
        cache: 'no-store',
        body: bytes,
        signal: AbortSignal.timeout(patienceMs),
        headers: {
          Accept: 'application/json',
          'Content-Type': 'application/json',
          ...(pack ? { 'Content-Encoding': 'gzip' } : {}),
          ...csrfHeaders(),
        },
      })
    } catch (e) {
      throw e instanceof DOMException && e.name === 'TimeoutError'
        ? new ApiError(0, 'slow', t('failure.slow'))
        : new ApiError(0, 'offline', t('failure.offline'))
    }
  }
  let response = await post()
  if (response.status === 419) {
    await send('GET', '/me')
    response = await post()
  }
  if (!response.ok) throw await failure(response)
  try {
    return (await response.json()) as T
  } catch {
    // An answer that was cut off in the middle is none.
    throw new ApiError(0, 'slow', t('failure.slow'))
  }
}

/** Fetches a file; null where it is not there, or not for whoever asks. */
export async function apiFile(path: string): Promise<Blob | null> {
  const response = await send('GET', path, undefined, {}, 'default')
  if (response.ok) return response.blob()
  if (response.status === 403 || response.status === 404 || response.status === 415) return null
  throw await failure(response)
}

/** Sends a form with files; answers with its JSON. */
export async function apiForm<T>(path: string, form: FormData): Promise<T> {
  const post = () =>
    fetch(BASE + path, {
      method: 'POST',
      credentials: 'same-origin',
      headers: { Accept: 'application/json', ...csrfHeaders() },
      body: form,
      cache: 'no-store',
    })
  let response: Response
  try {
    response = await post()
    if (response.status === 419) {
      await send('GET', '/me')
      response = await post()
    }
  } catch {
    throw new ApiError(0, 'offline', t('failure.offline'))
  } finally {
    changed = Date.now()
  }
  if (!response.ok) throw await failure(response)
  return (await response.json()) as T
}

/** Asks again for something that may not have changed; undefined means it has not. */
export async function apiIfChanged<T>(
  path: string,
  tag: string | null,
): Promise<{ body: T; tag: string | null } | undefined> {
  const response = await send('GET', path, undefined, tag ? { 'If-None-Match': tag } : {})
  if (response.status === 304) return undefined
  if (!response.ok) throw await failure(response)
  return { body: (await response.json()) as T, tag: response.headers.get('ETag') }
}

/** What to show of any error: the sentences of its problems, or its own. */
export function sentences(error: unknown): string[] {
  if (error instanceof ApiError)
    return error.problems.length ? error.problems.map((p) => p.message) : [error.message]
  // It never got as far as the server.
  return [t('failure.page')]
}
