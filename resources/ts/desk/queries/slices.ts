import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api, Slice } from '../../shared/types'
import { keys } from './keys'

/** Rules on the records of a layer. */
export const askableOf = (layer: number) =>
  queryOptions({
    queryKey: keys.askable(layer),
    queryFn: () => api<Api['Askable']>('GET', `/layers/${layer}/askable`),
    // Fields, crews and areas may have become others meanwhile.
    staleTime: 0,
  })

export const slicesOf = (layer: number) =>
  queryOptions({
    queryKey: keys.slices(layer),
    queryFn: () => api<Slice[]>('GET', `/layers/${layer}/slices`),
  })

/** @param filter as JSON; null while the rule is not complete */
export const sliceTrial = (layer: number, filter: string | null) =>
  queryOptions({
    queryKey: keys.sliceTrial(layer, filter),
    queryFn: () =>
      api<Api['SliceTrial']>('POST', `/layers/${layer}/slices/try`, { filter: JSON.parse(filter ?? 'null') }),
    enabled: filter !== null,
    // Without a network it fails and says so, instead of waiting behind a count of before.
    networkMode: 'always',
    retry: false,
    staleTime: 0,
  })

type Asked = { name: string | null; filter: object; was?: Pick<Slice, 'name' | 'filter'> }

/** Without a name it is called by what it says. */
export const makeSlice = (layer: number, slice: Asked) => api<Slice>('POST', `/layers/${layer}/slices`, slice)

export const changeSlice = (layer: number, id: number, slice: Asked) =>
  api<Slice>('PUT', `/layers/${layer}/slices/${id}`, slice)

export const deleteSlice = (layer: number, id: number) => api('DELETE', `/layers/${layer}/slices/${id}`)
