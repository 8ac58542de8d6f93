import { Upload } from 'tus-js-client'
import { csrfHeaders } from './api'
import type { Picked } from './form/files'

const CHUNK = 1_048_576

/**
 * Sends the bytes of a file that was announced (tus 1.0), from the desk: there is signal, so it is simply
 * tried.
 */
export function sendFile(file: Picked, onProgress?: (share: number) => void): Promise<void> {
  return new Promise((done, failed) => {
    new Upload(file.blob, {
      endpoint: '/api/v1/uploads',
      chunkSize: CHUNK,
      metadata: { attachment: file.id },
      retryDelays: [500, 1500, 4000],
      storeFingerprintForResuming: false,
      onBeforeRequest: (request) => {
        for (const [name, value] of Object.entries(csrfHeaders())) request.setHeader(name, value)
      },
      onProgress: (sent, all) => onProgress?.(all ? sent / all : 0),
      onSuccess: () => done(),
      onError: failed,
    }).start()
  })
}
