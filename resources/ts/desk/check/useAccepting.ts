import { useRef, useState } from 'react'
import type { Api, RecordRow } from '../../shared/types'
import { sayAccepted } from '../queries/records'

type Named = Pick<RecordRow, 'id' | 'version'>

/**
 * Accepting records of the layer that is looked at. Records are accepted as they were last shown, so one that somebody
 * changed meanwhile is left out.
 */
export function useAccepting(layer: number | undefined, shown: RecordRow[], after: () => Promise<void>) {
  const [busy, setBusy] = useState(false)
  const [done, setDone] = useState<Api['Acceptance'] | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  // Also those of other pages: what is ticked stays so from page to page.
  const versions = useRef(new Map<string, number>())
  for (const record of shown) versions.current.set(record.id, record.version)

  const say = async (body: object): Promise<boolean> => {
    if (layer === undefined || busy) return false
    setBusy(true)
    setFailed(null)
    try {
      setDone(await sayAccepted(layer, body))
      await after()
      return true
    } catch (e) {
      setFailed(e)
      return false
    } finally {
      setBusy(false)
    }
  }
  return {
    busy,
    done,
    failed,
    close: () => setDone(null),
    accept: (records: Named[]) =>
      say({ accepted: true, records: records.map(({ id, version }) => ({ id, version })) }),
    acceptIds: (ids: string[]) =>
      say({
        accepted: true,
        records: ids.map((id) => ({ id, version: versions.current.get(id) ?? 0 })),
      }),
    acceptAll: (asOf: string, slice: number | null) => say({ accepted: true, as_of: asOf, slice }),
    takeBack: (record: Named) =>
      say({ accepted: false, records: [{ id: record.id, version: record.version }] }),
    undo: () => (done?.at ? say({ accepted: false, at: done.at }) : Promise.resolve(false)),
  }
}
