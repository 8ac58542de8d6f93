import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api, RecordRow, RecordVersion } from '../../shared/types'
import { keys } from './keys'

/** Records as Check looks at them. */
export const recordPageOf = (layer: number | undefined, page: { number: number; after: string | null }) =>
  queryOptions({
    queryKey: keys.recordPage(layer ?? 0, page),
    queryFn: () =>
      api<Api['RecordPage']>(
        'GET',
        `/layers/${layer}/records${page.after === null ? '' : `?after=${page.after}`}`,
      ),
    enabled: layer !== undefined,
  })

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

/** With the visits that one has heard of, so that somebody's visit meanwhile is not lost with it. */
export const deleteRecord = (layer: number, record: { id: string; visits?: number | undefined }) =>
  api(
    'DELETE',
    `/layers/${layer}/records/${record.id}${record.visits === undefined ? '' : `?visits=${record.visits}`}`,
  )

export const restoreRecord = (layer: number, record: string) =>
  api<RecordRow>('POST', `/layers/${layer}/records/${record}/restore`, {})

export const undoFill = (layer: number, fill: number) =>
  api<Api['Fill']>('DELETE', `/layers/${layer}/fills/${fill}`)
