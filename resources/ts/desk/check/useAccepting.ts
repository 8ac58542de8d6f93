import { useEffect, useRef, useState, type Dispatch, type SetStateAction } from 'react'
import type { Api, RecordRow } from '../../shared/types'
import { readRecord, sayAccepted } from '../queries/records'
import type { Narrowing } from './narrowing'

type List = {
  layer: number | undefined
  /** The page that is shown. */
  page: Api['RecordPage'] | undefined
  narrowing: Narrowing
  /** What it is narrowed by beside its slice. */
  filter: object | null
  selected: RecordRow | null
  onSelect: Dispatch<SetStateAction<RecordRow | null>>
  /** Loads the list again. */
  after: () => Promise<void>
}

/**
 * Accepting records of the list that is looked at. They are accepted as they were last shown, so one that somebody
 * changed meanwhile is left out.
 */
export function useAccepting({ layer, page, narrowing, filter, selected, onSelect, after }: List) {
  const [busy, setBusy] = useState(false)
  // With its layer: whoever has gone on to another one still takes back what the notice is of.
  const [last, setLast] = useState<{ of: number; done: Api['Acceptance'] } | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  // Also those of other pages: what is ticked stays so from page to page.
  const versions = useRef(new Map<string, number>())
  useEffect(() => {
    for (const record of page?.records ?? []) versions.current.set(record.id, record.version)
  }, [page])

  // Whoever has picked another record meanwhile goes on looking at that.
  const show = (record: RecordRow) => onSelect((now) => (now?.id === selected?.id ? record : now))

  /** @param next what to look at afterwards, where that is another record */
  const say = async (body: object, next: RecordRow | null = null, of = layer): Promise<boolean> => {
    if (of === undefined || busy) return false
    setBusy(true)
    setFailed(null)
    try {
      // It is done with the answer; that the list is loaded again holds up nobody.
      setLast({ of, done: await sayAccepted(of, body).finally(() => setBusy(false)) })
      if (next) show(next)
      await after()
      if (!next && selected && of === layer) show(await readRecord(of, selected.id))
      return true
    } catch (e) {
      setFailed(e)
      return false
    }
  }
  const named = (record: RecordRow) => [{ id: record.id, version: record.version }]
  return {
    busy,
    done: last?.done ?? null,
    failed,
    close: () => setLast(null),
    /** Of those that wait one goes on to the next. */
    one: (record: RecordRow) => {
      const rows = page?.records ?? []
      const at = rows.findIndex((r) => r.id === record.id)
      const next = narrowing.list !== 'all' ? (rows[at + 1] ?? rows[at - 1] ?? null) : null
      return say({ accepted: true, records: named(record) }, next)
    },
    ticked: (ids: string[]) =>
      say({ accepted: true, records: ids.map((id) => ({ id, version: versions.current.get(id) ?? 0 })) }),
    all: () =>
      say({
        accepted: true,
        as_of: page?.as_of,
        slice: narrowing.slice,
        filter,
        flag: narrowing.list === 'flagged' ? narrowing.reason : null,
      }),
    takeBack: (record: RecordRow) => say({ accepted: false, records: named(record) }),
    undo: () =>
      last?.done.at ? say({ accepted: false, at: last.done.at }, null, last.of) : Promise.resolve(false),
  }
}
