import { useCallback, useState } from 'react'

/** A past day of a board, and what stands beside it; kept in the address, so that a link leads here. */
export type Past = {
  /** Year-month-day; null: as it is now. */
  on: string | null
  /** By what had been collected by then, and not by what had arrived. */
  collected: boolean
  /** The board beside it, and the day that it is shown of. */
  beside: { board: number; on: string | null } | null
}

const DAY = /^\d{4}-\d\d-\d\d$/
const dayIn = (text: string | null) => (text && DAY.test(text) ? text : null)

function fromAddress(search: string): Past {
  const query = new URLSearchParams(search)
  const board = Number(query.get('beside'))
  return {
    on: dayIn(query.get('on')),
    collected: query.get('by') === 'collected',
    beside: Number.isInteger(board) && board > 0 ? { board, on: dayIn(query.get('beside_on')) } : null,
  }
}

function toAddress(past: Past, search: string): string {
  const query = new URLSearchParams(search)
  const put = (key: string, value: string | null) => (value ? query.set(key, value) : query.delete(key))
  put('on', past.on)
  put('by', past.collected ? 'collected' : null)
  put('beside', past.beside ? String(past.beside.board) : null)
  put('beside_on', past.beside?.on ?? null)
  const text = query.toString()
  return text ? `?${text}` : ''
}

export function usePastInAddress(): [Past, (change: Partial<Past>) => void] {
  const [past, setPast] = useState<Past>(() => fromAddress(location.search))
  const put = useCallback((change: Partial<Past>) => {
    setPast((before) => {
      const next = { ...before, ...change }
      history.replaceState(
        history.state,
        '',
        `${location.pathname}${toAddress(next, location.search)}${location.hash}`,
      )
      return next
    })
  }, [])
  return [past, put]
}

/** As the server is asked for a day. */
export function dayQuery(on: string | null, collected: boolean): string {
  return on ? new URLSearchParams({ on, ...(collected ? { by: 'collected' } : {}) }).toString() : ''
}

/** The same day of the year before; of the 29th of February the 28th. */
export function yearBefore(day: string): string {
  const [year, month, date] = day.split('-') as [string, string, string]
  return `${String(Number(year) - 1).padStart(4, '0')}-${month}-${month === '02' && date === '29' ? '28' : date}`
}
