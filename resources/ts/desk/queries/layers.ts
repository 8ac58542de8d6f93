import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api, Layer, LayerLine } from '../../shared/types'
import { keys } from './keys'

/** Layers with their designs, and what designs are made with. */
export const layersOf = (programme: number) =>
  queryOptions({
    queryKey: keys.layers(programme),
    queryFn: () => api<LayerLine[]>('GET', `/programmes/${programme}/layers`),
  })

/** Not asked for while no layer is named. */
export const layerOf = (layer: number | null | undefined) =>
  queryOptions({
    queryKey: keys.layer(layer ?? 0),
    queryFn: () => api<Layer>('GET', `/layers/${layer}`),
    enabled: layer != null,
  })

export const layersById = (programme: number, ids: number[]) =>
  queryOptions({
    queryKey: keys.layersById(programme, ids),
    queryFn: () => Promise.all(ids.map((id) => api<Layer>('GET', `/layers/${id}`))),
  })

export const listsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.lists(programme),
    queryFn: () => api<Api['SharedList'][]>('GET', `/programmes/${programme}/lists`),
  })

export const marksOf = (programme: number) =>
  queryOptions({
    queryKey: keys.marks(programme),
    queryFn: () => api<Api['OwnMark'][]>('GET', `/programmes/${programme}/marks`),
    staleTime: 60_000,
  })

export const formulaFunctions = () =>
  queryOptions({
    queryKey: keys.functions,
    queryFn: () => api<Api['FormulaFunctions']>('GET', '/formulas/functions'),
    staleTime: Infinity,
  })

export const starterDesigns = () =>
  queryOptions({
    queryKey: keys.starters,
    queryFn: () => api<Api['Starter'][]>('GET', '/starters'),
    staleTime: Infinity,
  })

export const tryFormula = (layer: number, body: object) =>
  api<Api['FormulaTrial']>('POST', `/layers/${layer}/formulas/try`, body)

export const reviewDesign = (layer: number, body: object) =>
  api<Api['DesignReview']>('POST', `/layers/${layer}/design/review`, body)

export const saveDesign = (layer: number, body: object) => api<Layer>('PUT', `/layers/${layer}/design`, body)

export const makeLayer = (programme: number, body: object) =>
  api<Layer>('POST', `/programmes/${programme}/layers`, body)

export const readLayer = (layer: number) => api<Layer>('GET', `/layers/${layer}`)

export const checkDesign = (layer: number | null, body: object) =>
  api<Api['DesignChecked']>('POST', `/designs/check${layer === null ? '' : `?layer=${layer}`}`, body)

export const makeList = (programme: number, body: object) =>
  api<Api['SharedList']>('POST', `/programmes/${programme}/lists`, body)

export const reviewList = (list: number, body: object) =>
  api<{ missed: Api['MissedChoice'][] }>('POST', `/lists/${list}/review`, body)

export const saveList = (list: number, body: object) => api<Api['SharedList']>('PUT', `/lists/${list}`, body)

export const deleteList = (list: number) => api('DELETE', `/lists/${list}`)
