import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import { asking } from '../../shared/map/mapLayers'
import type { Api, BoardDoc, CardView, GateDoc, MapDoc, MapView, NumberLook, Tally } from '../../shared/types'
import { keys } from './keys'

/** Maps, boards and the gate. What is edited is fetched once: from then on the page itself knows best. */
export const mapsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.maps(programme),
    queryFn: () => api<MapDoc[]>('GET', `/programmes/${programme}/maps`),
  })

export const editedMap = (id: number) =>
  queryOptions({
    queryKey: keys.map(id),
    queryFn: () => api<MapDoc>('GET', `/maps/${id}`),
    staleTime: Infinity,
  })

export const mapViewOf = (id: number, search: string | null = null) =>
  queryOptions({
    queryKey: [...keys.mapView(id), search],
    queryFn: () => api<MapView>('GET', `/maps/${id}/view${asking(search, '?')}`),
    networkMode: 'always',
    refetchOnReconnect: true,
    retry: 1,
  })

/** What whoever makes the map should know of its marks and its weight. */
export const mapAdviceOf = (id: number) =>
  queryOptions({
    queryKey: keys.mapAdvice(id),
    queryFn: () => api<Api['MapAdvice']>('GET', `/maps/${id}/advice`),
  })

/** Layers of a map or a board that somebody whom it is shown to does not see. */
export const reachOf = (thing: string) =>
  queryOptions({
    queryKey: keys.reach(thing),
    queryFn: () => api<Api['LackingLayer'][]>('GET', `${thing}/reach`),
    staleTime: 0,
  })

/** Roles, crews and groups that a map or a board can be shown to. */
export const shownToIn = (programme: number) =>
  queryOptions({
    queryKey: keys.shownTo(programme),
    queryFn: () => api<Api['AudienceOf'][]>('GET', `/programmes/${programme}/shown-to`),
    staleTime: 0,
  })

/** Layers that can be put on a map, by words. */
export const addableTo = (id: number, text: string) =>
  queryOptions({
    queryKey: keys.addable(id, text),
    queryFn: () => api<Api['AddableLayers']>('GET', `/maps/${id}/addable?q=${encodeURIComponent(text)}`),
    placeholderData: (before: Api['AddableLayers'] | undefined) => before,
    networkMode: 'always',
    retry: false,
  })

/** The card of a record on a map, as its audience gets it. */
export const cardOf = (map: number, part: string, record: string) =>
  queryOptions({
    queryKey: keys.mapCard(map, part, record),
    queryFn: () => api<CardView>('GET', `/maps/${map}/layers/${part}/records/${record}`),
  })

export const boardsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.boards(programme),
    queryFn: () => api<BoardDoc[]>('GET', `/programmes/${programme}/boards`),
  })

export const editedBoard = (id: number) =>
  queryOptions({
    queryKey: keys.board(id),
    queryFn: () => api<BoardDoc>('GET', `/boards/${id}`),
    staleTime: Infinity,
  })

/** For each question of a programme the tiles that could answer it. */
export const proposalsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.proposals(programme),
    queryFn: () => api<Api['QuestionProposals'][]>('GET', `/programmes/${programme}/proposals`),
  })

/** What tiles can measure of a layer, and by what its records can be put together. */
export const measurableOf = (layer: number | undefined) =>
  queryOptions({
    queryKey: keys.measurable(layer ?? 0),
    queryFn: () => api<Api['Measurable']>('GET', `/layers/${layer}/measurable`),
    enabled: layer !== undefined,
    staleTime: 10_000,
  })

export const gateOf = (programme: number) =>
  queryOptions({
    queryKey: keys.gate(programme),
    queryFn: () => api<GateDoc>('GET', `/programmes/${programme}/gate`),
  })

export const makeMap = (programme: number, body: object) =>
  api<MapDoc>('POST', `/programmes/${programme}/maps`, body)

export const makeBoard = (programme: number, body: object) =>
  api<BoardDoc>('POST', `/programmes/${programme}/boards`, body)

/** Whether two numbers of the same records go together. */
export const togetherOf = (layer: number, a: string, b: string) =>
  queryOptions({
    queryKey: keys.together(layer, a, b),
    queryFn: () => api<Api['TwoFields']>('GET', `/layers/${layer}/together?a=${a}&b=${b}`),
    staleTime: 10_000,
  })

type Classing = Pick<NumberLook, 'method' | 'scheme'> & { count: number; breaks: number[] | null } & (
    | { field: string }
    | { of: Tally }
    | { cells: { field: string | null; bits: number | null; slice: number | null } }
  )

/** How the numbers of a field, or of the records in areas, lie, and the look that classes of them make. */
export const classesOf = (layer: number, how: Classing) =>
  queryOptions({
    queryKey: keys.classes(layer, JSON.stringify(how)),
    queryFn: () => api<Api['NumberClasses']>('POST', `/layers/${layer}/classes`, how),
    // Without a network it fails and says so, instead of changing the map when it is back.
    networkMode: 'always',
    staleTime: 10_000,
    retry: false,
  })
