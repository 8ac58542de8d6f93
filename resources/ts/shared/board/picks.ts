import type { Crew } from './crews'
import { createContext, useCallback, useContext, useMemo, useState } from 'react'

/**
 * What was picked, by tile; what is looked for in lists; and the record that is shown, by the tile that it was tapped in.
 * They stand in the address, so that a link leads here.
 */
export type Picks = {
  pick: Record<string, string>
  find: Record<string, string>
  show: Record<string, string>
}

export const NONE: Picks = { pick: {}, find: {}, show: {} }
const KINDS = ['pick', 'find', 'show'] as const
const NAMED = /^(pick|find|show)\./

/** As the server is asked; nothing where nothing was picked. */
export function asQuery(picks: Picks): string {
  const query = new URLSearchParams()
  // Which record is shown is no question: the map has it.
  for (const [kind, values] of [['pick', picks.pick] as const, ['find', picks.find] as const])
    if (Object.keys(values).length)
      query.set(kind, JSON.stringify(Object.fromEntries(Object.entries(values).sort())))
  return query.toString()
}

/** What was picked, of a day (as `dayQuery` asks for it). */
export const askedOn = (day: string, picks: Picks): string => [day, asQuery(picks)].filter(Boolean).join('&')

function fromAddress(search: string): Picks {
  const picks: Picks = { pick: {}, find: {}, show: {} }
  for (const [name, value] of new URLSearchParams(search)) {
    const [kind, ...tile] = name.split('.')
    const known = KINDS.find((k) => k === kind)
    if (known && tile.length) picks[known][tile.join('.')] = value
  }
  return picks
}

function toAddress(picks: Picks, search: string): string {
  const query = new URLSearchParams(search)
  for (const name of Array.from(query.keys())) if (NAMED.test(name)) query.delete(name)
  for (const [kind, values] of Object.entries(picks))
    for (const [tile, value] of Object.entries(values)) query.set(`${kind}.${tile}`, value)
  const text = query.toString()
  return text ? `?${text}` : ''
}

export type Picking = {
  picks: Picks
  mayPick: boolean
  /** Picks a part of a tile; the same part once more, or null, lets it go. */
  pick: (tile: string, part: string | null) => void
  find: (tile: string, text: string) => void
  /** Shows a record on maps and in details; the same once more, or null, lets it go. */
  show: (tile: string, record: string | null) => void
  /** Whether there is a tile that tells of the record that is shown. */
  details?: boolean
  /** Who is out, where a tile tells of it; maps draw them. */
  crews?: Crew[]
  /** Whether there is a map. */
  maps?: boolean
  reset: () => void
}

export const PickingContext = createContext<Picking>({
  picks: NONE,
  mayPick: false,
  pick: () => undefined,
  find: () => undefined,
  show: () => undefined,
  reset: () => undefined,
})
export const usePicking = () => useContext(PickingContext)

/** The picks of a page, kept in its address. */
export function usePicksInAddress(mayPick: boolean): Picking {
  const [picks, setPicks] = useState<Picks>(() => fromAddress(location.search))
  const put = useCallback((change: (before: Picks) => Picks) => {
    setPicks((before) => {
      const next = change(before)
      history.replaceState(
        history.state,
        '',
        `${location.pathname}${toAddress(next, location.search)}${location.hash}`,
      )
      return next
    })
  }, [])
  return useMemo(
    () => ({
      picks,
      mayPick,
      pick: (tile, part) =>
        put((before) => {
          const { [tile]: was, ...others } = before.pick
          return { ...before, pick: part === null || part === was ? others : { ...others, [tile]: part } }
        }),
      find: (tile, text) =>
        put((before) => {
          const { [tile]: _, ...others } = before.find
          return { ...before, find: text ? { ...others, [tile]: text } : others }
        }),
      show: (tile, record) =>
        put((before) => ({
          ...before,
          show: record === null || before.show[tile] === record ? {} : { [tile]: record },
        })),
      reset: () => put(() => NONE),
    }),
    [picks, mayPick, put],
  )
}
