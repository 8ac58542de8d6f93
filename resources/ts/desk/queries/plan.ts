import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Outing } from '../../shared/outing'
import type { Api } from '../../shared/types'
import { keys } from './keys'

/** What a programme plans: questions, outings, what is still missing, the design sheet. */
export const questionsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.questions(programme),
    queryFn: () => api<Api['Question'][]>('GET', `/programmes/${programme}/questions`),
  })

export const readyCheckOf = (programme: number) =>
  queryOptions({
    queryKey: keys.ready(programme),
    queryFn: () => api<Api['ReadyLine'][]>('GET', `/programmes/${programme}/ready`),
  })

export const outingsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.outings(programme),
    queryFn: () => api<Outing[]>('GET', `/programmes/${programme}/outings`),
  })

export const designSheetOf = (programme: number) =>
  queryOptions({
    queryKey: keys.designSheet(programme),
    queryFn: () => api<Api['DesignSheet']>('GET', `/programmes/${programme}/designs.json`),
  })

export const makeOuting = (programme: number, body: object) =>
  api('POST', `/programmes/${programme}/outings`, body)

export const saveOuting = (outing: number, body: object) => api('PUT', `/outings/${outing}`, body)

export const deleteOuting = (outing: number) => api('DELETE', `/outings/${outing}`)

export const saveQuestions = (programme: number, body: object) =>
  api<Api['Question'][]>('PUT', `/programmes/${programme}/questions`, body)

/** Where crews went, from one moment (ISO 8601) to another. */
export const trailsOf = (programme: number, from: string, to: string) =>
  api<GeoJSON.FeatureCollection>(
    'GET',
    `/programmes/${programme}/trails.geojson?${new URLSearchParams({ from, to }).toString()}`,
  )
