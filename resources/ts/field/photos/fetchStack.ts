import type { HttpRequest, HttpResponse, HttpStack } from 'tus-js-client'

/**
 * The requests of tus-js-client by fetch: a service worker knows no XMLHttpRequest, and sends files too while
 * the app is closed.
 */
export const fetchStack: HttpStack = {
  getName: () => 'fetch',
  createRequest(method, url): HttpRequest {
    const headers: Record<string, string> = {}
    const ended = new AbortController()
    return {
      getMethod: () => method,
      getURL: () => url,
      setHeader: (header, value) => {
        headers[header] = value
      },
      getHeader: (header) => headers[header],
      // Fetch tells of no progress within a piece; pieces are small.
      setProgressHandler: () => undefined,
      async send(body: BodyInit | null): Promise<HttpResponse> {
        const response = await fetch(url, {
          method,
          headers,
          body: body ?? null,
          signal: ended.signal,
          credentials: 'same-origin',
        })
        const text = await response.text()
        return {
          getStatus: () => response.status,
          getHeader: (header) => response.headers.get(header) ?? undefined,
          getBody: () => text,
          getUnderlyingObject: () => response,
        }
      },
      abort: () => {
        ended.abort()
        return Promise.resolve()
      },
      getUnderlyingObject: () => ended,
    }
  },
}
