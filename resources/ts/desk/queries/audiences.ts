import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api } from '../../shared/types'
import { keys } from './keys'

/** Who sees what of a programme. */
export type SeenLayer = Api['SeenLayer']
export type AudienceRule = Api['AudienceRule']
export type SeenRule = Api['SeenRule']
export type AudienceOf = Api['AudienceOf']
export type ShownThing = Api['ShownThing']
export type Audiences = Api['Audiences']

export const audiencesOf = (programme: number) =>
  queryOptions({
    queryKey: keys.audiences(programme),
    queryFn: () => api<Api['Audiences']>('GET', `/programmes/${programme}/audiences`),
    // Designs, slices and things may have become others meanwhile.
    staleTime: 0,
  })

export type Work = keyof Api['WorkSeen']

/** Whether an audience is told of all people at work. */
export const sayWork = (programme: number, audience: string, what: Work, told: boolean) =>
  api('PUT', `/programmes/${programme}/work-seen/${audience}`, { what, told })

/** What becomes of one place: in cells of so many metres, or by the areas of a layer. */
export const placeTold = (layer: number, by: { metres: number } | { areas: number }) => {
  const asked = 'metres' in by ? `metres=${by.metres}` : `areas=${by.areas}`
  return queryOptions({
    queryKey: keys.placeTold(layer, asked),
    queryFn: () => api<Api['PlaceTold']>('GET', `/layers/${layer}/blurred?${asked}`),
    networkMode: 'always',
    retry: false,
  })
}

/**
 * @param rule null: what goes without saying
 * @param was what it began from: where that is not so any more it is refused
 */
export const saveRule = (layer: number, audience: string, rule: AudienceRule | null, was: AudienceRule) =>
  api<SeenLayer>('PUT', `/layers/${layer}/seen-by/${audience}`, { rule, was })
