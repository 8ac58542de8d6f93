import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api, RecordRow, RecordVersion } from '../../shared/types'
import { keys } from './keys'

/**
 * Records as Check looks at them.
 *
 * @param narrowed by slice, filter, flag
 */
export const recordPageOf = (
  layer: number | undefined,
  page: { number: number; after: string | null },
  narrowed: Record<string, string>,
) =>
  queryOptions({
    queryKey: keys.recordPage(layer ?? 0, page, narrowed),
    queryFn: () => {
      const asked = new URLSearchParams({
        ...(page.after === null ? {} : { after: page.after }),
        ...narrowed,
      }).toString()
      return api<Api['RecordPage']>('GET', `/layers/${layer}/records${asked && `?${asked}`}`)
    },
    enabled: layer !== undefined,
  })

/** What records of a layer are flagged for. */
export const flagsOf = (layer: number) =>
  queryOptions({
    queryKey: keys.flags(layer),
    queryFn: () => api<Api['LayerFlags']>('GET', `/layers/${layer}/flags`),
    // Without a network it says so, instead of opening empty.
    networkMode: 'always',
    retry: 1,
  })

export const sayFlags = (layer: number, rules: Api['FlagRules']) =>
  api<Api['LayerFlags']>('PUT', `/layers/${layer}/flags`, { rules })

export const visitsTo = (layer: number, record: { id: string; visits?: number | undefined }) =>
  queryOptions({
    queryKey: keys.visits(record.id, record.visits),
    queryFn: () => api<Api['VisitsOfRecord']>('GET', `/layers/${layer}/records/${record.id}/visits`),
  })

export const historyOf = (layer: number, record: { id: string; version: number }) =>
  queryOptions({
    queryKey: keys.history(record.id, record.version),
    queryFn: () => api<RecordVersion[]>('GET', `/layers/${layer}/records/${record.id}/history`),
  })

export const conflictsOf = (programme: number, settled: boolean) =>
  queryOptions({
    queryKey: keys.conflicts(programme, settled),
    queryFn: () =>
      api<Api['Conflicts']>('GET', `/programmes/${programme}/disputes${settled ? '?settled=1' : ''}`),
  })

export const conflictsOfRecord = (programme: number, record: { id: string; version: number }) =>
  queryOptions({
    queryKey: keys.conflictsOf(record.id, record.version),
    queryFn: () => api<Api['Conflicts']>('GET', `/programmes/${programme}/disputes?record=${record.id}`),
  })

export const formatsOf = (layer: number) =>
  queryOptions({
    queryKey: keys.formats(layer),
    queryFn: () => api<Api['Format'][]>('GET', `/layers/${layer}/formats`),
  })

export const importsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.imports(programme),
    queryFn: () => api<Api['ImportLine'][]>('GET', `/programmes/${programme}/imports`),
  })

export const readRecord = (layer: number, record: string) =>
  api<RecordRow>('GET', `/layers/${layer}/records/${record}`)

export const recordOf = (layer: number, record: string) =>
  queryOptions({
    queryKey: keys.record(layer, record),
    queryFn: () => readRecord(layer, record),
  })

/** With the visits that one has heard of, so that somebody's visit meanwhile is not lost with it. */
export const deleteRecord = (layer: number, record: { id: string; visits?: number | undefined }) =>
  api(
    'DELETE',
    `/layers/${layer}/records/${record.id}${record.visits === undefined ? '' : `?visits=${record.visits}`}`,
  )

/** As it was in an earlier version, or as it was when it was deleted. */
export const restoreRecord = (layer: number, record: string, version?: number) =>
  api<RecordRow>(
    'POST',
    `/layers/${layer}/records/${record}/restore`,
    version === undefined ? {} : { version },
  )

export const undoFill = (layer: number, fill: number) =>
  api<Api['Fill']>('DELETE', `/layers/${layer}/fills/${fill}`)

export const deleteFile = (file: string) => api<RecordRow>('DELETE', `/attachments/${file}`)

export const restoreFile = (file: string) => api<RecordRow>('POST', `/attachments/${file}/restore`)

export const announceFiles = (layer: number, record: string, body: object) =>
  api<RecordRow>('POST', `/layers/${layer}/records/${record}/files`, body)

export const makeExport = (layer: number, body: object) =>
  api<Api['Export']>('POST', `/layers/${layer}/exports`, body)

export const readExport = (id: number) => api<Api['Export']>('GET', `/exports/${id}`)

export const deleteExport = (id: number) => api('DELETE', `/exports/${id}`)

export const sayPlace = (text: string) => api<{ said: string }>('POST', '/places/read', { text })

export const sayAccepted = (layer: number, body: object) =>
  api<Api['Acceptance']>('POST', `/layers/${layer}/accepted`, body)

export const settleConflict = (conflict: number, body: object) => api('POST', `/disputes/${conflict}`, body)

export const previewFill = (layer: number, body: object) =>
  api<Api['FillPreview']>('POST', `/layers/${layer}/fills/preview`, body)

export const makeFill = (layer: number, body: object) =>
  api<Api['Fill']>('POST', `/layers/${layer}/fills`, body)

export const readFill = (layer: number, fill: number) =>
  api<Api['Fill']>('GET', `/layers/${layer}/fills/${fill}`)

export const askBack = (layer: number, record: string, body: object) =>
  api('POST', `/layers/${layer}/records/${record}/asked`, body)

export const askedAbout = (layer: number, record: string) =>
  api<Api['AskedRow'][]>('GET', `/layers/${layer}/records/${record}/asked`)

export const askedIn = (programme: number) => api<Api['AskedRow'][]>('GET', `/programmes/${programme}/asked`)

export const closeQuestion = (id: number) => api('DELETE', `/asked/${id}`)

export const makeRecord = (layer: number, body: object) =>
  api<RecordRow>('POST', `/layers/${layer}/records`, body)

export const changeRecord = (layer: number, record: string, body: object) =>
  api<RecordRow>('PATCH', `/layers/${layer}/records/${record}`, body)
