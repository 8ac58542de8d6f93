import { api } from '../../shared/api'
import type { Api } from '../../shared/types'

/** What is done with files that are brought in. */

export const readImport = (id: number) => api<Api['Import']>('GET', `/imports/${id}`)

export const cancelImport = (id: number) => api<Api['Import']>('POST', `/imports/${id}/cancel`)

export const saveImportSettings = (id: number, body: object) =>
  api<Api['Import']>('PUT', `/imports/${id}/settings`, body)

export const settingsInto = (id: number, layer: number | string, body: object) =>
  api<Api['ImportSettings']>('POST', `/imports/${id}/into/${layer}`, body)

export const landImport = (id: number) => api<Api['Import']>('POST', `/imports/${id}/land`)

export const undoImport = (id: number) =>
  api<Api['Undone'] & { import: Api['Import'] }>('POST', `/imports/${id}/undo`)

export const mendRow = (id: number, row: number, body: object) =>
  api('PATCH', `/imports/${id}/waiting/${row}`, body)

export const waitingRows = (id: number, page: number) =>
  api<Api['WaitingRow'][]>('GET', `/imports/${id}/waiting?page=${page}`)

export const findPlaces = (programme: number, text: string) =>
  api<Api['Candidate'][]>('GET', `/programmes/${programme}/places?q=${encodeURIComponent(text)}`)

export const addPlaces = (programme: number, body: object) =>
  api<{ places: number }>('POST', `/programmes/${programme}/places`, body)

export const announceImport = (programme: number, body: object) =>
  api<Api['ImportLine']>('POST', `/programmes/${programme}/imports`, body)

/** Reference systems that its coordinates could be in. */
export const systemsFor = (id: number, code: string | null) =>
  api<Api['ReferenceSystem'][]>(
    'GET',
    `/imports/${id}/systems${code ? `?code=${encodeURIComponent(code)}` : ''}`,
  )

/** Tries rows again that could not be placed; all of them without their numbers. */
export const retryRows = (id: number, rows: number[] | null, match?: number) =>
  api<{ landed: number; waiting: number; import: Api['Import'] }>('POST', `/imports/${id}/retry`, {
    rows,
    ...(match ? { match } : {}),
  })
