import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query'
import { api } from '../../shared/api'
import type { Language } from '../../shared/language'
import type { Api, Programme, ProgrammeWithStages } from '../../shared/types'
import { keys } from './keys'

/** Programmes, what is in them, who is in them, and what is asked for whoever is signed in. */
export const allProgrammes = () =>
  queryOptions({
    queryKey: keys.programmes,
    queryFn: () => api<Api['ProgrammeThing'][]>('GET', '/programmes'),
  })

export const programmeOf = (id: number) =>
  queryOptions({
    queryKey: keys.programme(id),
    queryFn: () => api<ProgrammeWithStages>('GET', `/programmes/${id}`),
  })

export const thingsOf = (programme: number, binned: boolean) =>
  queryOptions({
    queryKey: keys.things(programme, binned),
    queryFn: () => api<Api['ThingList']>('GET', `/programmes/${programme}/things${binned ? '?bin=1' : ''}`),
  })

export const binned = () =>
  queryOptions({ queryKey: keys.bin, queryFn: () => api<Api['Thing'][]>('GET', '/bin') })

export const storageOf = (programme: number) =>
  queryOptions({
    queryKey: keys.storage(programme),
    queryFn: () => api<Api['StorageUse']>('GET', `/programmes/${programme}/storage`),
  })

export const foundBy = (text: string) =>
  queryOptions({
    queryKey: keys.search(text),
    queryFn: () => api<Api['FoundThing'][]>('GET', `/search?q=${encodeURIComponent(text)}`),
  })

export const peopleOf = (programme: number) =>
  queryOptions({
    queryKey: keys.people(programme),
    queryFn: () => api<Api['People']>('GET', `/programmes/${programme}/people`),
  })

export const myDevices = () =>
  queryOptions({ queryKey: keys.devices, queryFn: () => api<Api['Device'][]>('GET', '/me/devices') })

export const mailBox = () =>
  queryOptions({ queryKey: keys.mailBox, queryFn: () => api<Api['Mail'][]>('GET', '/mail-box') })

export const aboutYard = () =>
  queryOptions({
    queryKey: keys.about,
    queryFn: () => api<Api['About']>('GET', '/about'),
    staleTime: Infinity,
  })

export const changeProgramme = (programme: number, body: object) =>
  api('PATCH', `/programmes/${programme}`, body)

export const makeProgramme = (body: object) => api<Programme>('POST', '/programmes', body)

export const signOut = () => api('DELETE', '/session')

export const whoAmI = () => api<Api['Me']>('GET', '/me')

export const changePassword = (body: object) => api('PUT', '/me/password', body)

export const renameMe = (name: string) => api('PATCH', '/me', { name })

export const readIn = (language: Language) => api('PATCH', '/me', { language })

export const wantMails = (unwanted_mails: string[]) => api('PATCH', '/me', { unwanted_mails })

export const askAddress = (body: { email: string; password: string }) => api('POST', '/me/address', body)

/** Whether who coordinates must have a second factor. */
export const demandSecond = (programme: number, second_factor: boolean) =>
  api('PATCH', `/programmes/${programme}`, { second_factor })

export const beginSecondFactor = (password: string) =>
  api<Api['SecondBegun']>('POST', '/me/second-factor', { password })

export const confirmSecondFactor = (code: string) =>
  api<Api['SecondCodes']>('PUT', '/me/second-factor', { code })

export const endSecondFactor = (password: string) => api('DELETE', '/me/second-factor', { password })

export const signOutDevice = (device: string) => api('DELETE', `/me/devices/${device}`)

export const removePerson = (programme: number, person: number) =>
  api('DELETE', `/programmes/${programme}/people/${person}`)

export const changePerson = (programme: number, person: number, body: object) =>
  api('PATCH', `/programmes/${programme}/people/${person}`, body)

export const inviteSeveral = (programme: number, body: object) =>
  api<Api['InvitedLine'][]>('POST', `/programmes/${programme}/people/several`, body)

export const inviteMany = (programme: number, body: object) =>
  api<Api['ManyInvited']>('POST', `/programmes/${programme}/invitations`, body)

export const takeBackInvitation = (programme: number, invitation: number) =>
  api('DELETE', `/programmes/${programme}/invitations/${invitation}`)

export const groupsOf = (programme: number) =>
  queryOptions({
    queryKey: keys.groups(programme),
    queryFn: () => api<Api['Group'][]>('GET', `/programmes/${programme}/groups`),
  })

export const auditOf = (programme: number) =>
  infiniteQueryOptions({
    queryKey: keys.audit(programme),
    queryFn: ({ pageParam }) =>
      api<Api['AuditPage']>(
        'GET',
        `/programmes/${programme}/audit${pageParam === null ? '' : `?before=${pageParam}`}`,
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => (last.more ? (last.entries.at(-1)?.id ?? null) : null),
    staleTime: 0,
  })

export const makeGroup = (programme: number, body: object) =>
  api<Api['Group']>('POST', `/programmes/${programme}/groups`, body)

export const changeGroup = (group: number, body: object) =>
  api<Api['Group']>('PATCH', `/groups/${group}`, body)

export const removeGroup = (group: number) => api('DELETE', `/groups/${group}`)

/** Puts a person into a group, or takes them out of it. */
export const putIntoGroup = (group: number, person: number, isIn: boolean) =>
  api<Api['Group']>(isIn ? 'PUT' : 'DELETE', `/groups/${group}/people/${person}`)

export const invitePerson = (programme: number, body: object) =>
  api<{ address: string }>('POST', `/programmes/${programme}/people`, body)

export const makeShelf = (programme: number, body: object) =>
  api('POST', `/programmes/${programme}/shelves`, body)

export const renameShelf = (programme: number, shelf: number, body: object) =>
  api('PATCH', `/programmes/${programme}/shelves/${shelf}`, body)

export const deleteShelf = (programme: number, shelf: number) =>
  api('DELETE', `/programmes/${programme}/shelves/${shelf}`)

export const tidyThings = (body: object) => api<Api['Thing'][]>('POST', '/things', body)
