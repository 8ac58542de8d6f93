import { queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Api } from '../../shared/types'
import { keys } from './keys'

/** Alerts of a programme, and what they told whoever is signed in. */
export type Alert = Api['AlertDoc']
export type AlertInput = Pick<Alert, 'name' | 'rule' | 'to' | 'by_mail' | 'on_phones' | 'rest'>

export const alertsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.alerts(programme),
    queryFn: () => api<Alert[]>('GET', `/programmes/${programme}/alerts`),
  })

export const myNotices = () =>
  queryOptions({
    queryKey: keys.notices,
    queryFn: () => api<Api['Notices']>('GET', '/notices'),
    refetchInterval: 15_000,
  })

/** How it stands now with what an alert would be for, in words. */
export const alertTrialOf = (programme: number, rule: Alert['rule']) =>
  queryOptions({
    queryKey: keys.alertTrial(programme, JSON.stringify(rule)),
    queryFn: () => api<Api['AlertStanding']>('POST', `/programmes/${programme}/alerts/try`, { rule }),
    networkMode: 'always',
    retry: false,
    staleTime: 5_000,
  })

export const makeAlert = (programme: number, body: AlertInput) =>
  api<Alert>('POST', `/programmes/${programme}/alerts`, body)

export const saveAlert = (alert: number, body: AlertInput) => api<Alert>('PUT', `/alerts/${alert}`, body)

export const pauseAlert = (alert: number, paused: boolean) =>
  api<Alert>('PATCH', `/alerts/${alert}`, { paused })

export const deleteAlert = (alert: number) => api('DELETE', `/alerts/${alert}`)

export const readNotices = (ids: number[]) => api<Api['Notices']>('POST', '/notices/read', { ids })
