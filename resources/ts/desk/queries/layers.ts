import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api, Layer, LayerLine, Slice } from '../../shared/types'
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

export const slicesOf = (layer: number) =>
  queryOptions({
    queryKey: keys.slices(layer),
    queryFn: () => api<Slice[]>('GET', `/layers/${layer}/slices`),
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
