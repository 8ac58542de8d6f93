import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { sentences } from '../../shared/api'
import { t } from '../../shared/texts'
import { mendRow, readImport, retryRows, undoImport, waitingRows } from '../queries/imports'
import { keys } from '../queries/keys'
import type { Import, WaitingRow } from './import'
import type { Spot } from './RejectedPlace'

export type Mend = (row: WaitingRow, cells: Record<number, string>, place: Spot | null) => Promise<void>
export type Retry = (rows: number[] | null, match?: number) => void

/**
 * Rows of an import that did not land, and what can be done about them. One after the other: rows are tried again only
 * when everything that was typed has been kept.
 */
export function useRejectedRows(found: Import, onChanged: (next: Import) => void) {
  const [page, setPage] = useState(0)
  const [said, setSaid] = useState<string[]>([])
  const [told, setTold] = useState<string | null>(null)
  const [round, setRound] = useState(0)
  const queue = useRef<Promise<unknown>>(Promise.resolve())
  const waiting = useQuery({
    queryKey: keys.rejectedRows(found.id, page, round),
    queryFn: () => waitingRows(found.id, page),
    enabled: found.state === 'done',
    placeholderData: (old, before) => (before?.queryKey[1] === found.id ? old : undefined),
  })

  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const mine = queue.current.then(work)
    queue.current = mine.catch(() => undefined)
    return mine
  }
  const attempt = async (work: () => Promise<void>) => {
    try {
      await inTurn(work)
      setSaid([])
    } catch (e) {
      setSaid(sentences(e))
      // It may have been taken back meanwhile, by somebody else or in another window.
      const now = await readImport(found.id).catch(() => found)
      if (now.state !== found.state) onChanged(now)
    }
    setRound((n) => n + 1)
  }
  const retry = (rows: number[] | null, match?: number) =>
    attempt(async () => {
      const done = await retryRows(found.id, rows, match)
      setTold(t('bring.retried', { n: done.landed, waiting: done.waiting }))
      // The last rows of a page may be gone, and it with them.
      setPage(0)
      onChanged({ ...found, ...done.import })
    })
  const mend: Mend = async (row, cells, place) => {
    try {
      await inTurn(() => mendRow(found.id, row.row, { cells, place }))
    } catch (e) {
      setSaid(sentences(e))
      throw e
    }
    setRound((n) => n + 1)
  }
  /** Puts a row to where it belongs, and lands it. @returns whether it could be put there */
  const settle = async (row: WaitingRow, spot: Spot): Promise<boolean> => {
    try {
      await mend(row, {}, spot)
    } catch {
      return false
    }
    await retry([row.row])
    return true
  }
  const undo = () =>
    attempt(async () => {
      const done = await undoImport(found.id)
      onChanged({ ...found, ...done.import })
    })

  return {
    rows: waiting.data ?? [],
    unread: waiting.error,
    page,
    setPage,
    said,
    told,
    setTold,
    mend,
    retry,
    settle,
    undo,
  }
}
