import { useEffect, useRef, useState } from 'react'
import { ApiError, sentences } from '../../shared/api'
import { readImport, saveImportSettings } from '../queries/imports'
import type { Import, Review, Settings } from './import'

const AGAIN_MS = 700
/** After which a save that nobody answered is tried again. */
const LOST_MS = 3000

/** As which rows, and in which coordinate system, a file was read. */
export const readAs = ({ source, settings }: Import) =>
  `${source?.table ?? ''}-${settings?.head_row ?? 1}-${source?.given ?? ''}`

/**
 * What is decided about a file, kept at once and answered with what would land. A coordinate system that is taken has
 * the file read again, and what is chosen meanwhile holds when it has been read.
 *
 * @param begun settings that were chosen while it was being read
 * @param onChanged is told the import where it is no longer one to look at, or was read another way, with the settings
 *   that are still to be kept
 */
export function useImportSettings(
  found: Import,
  begun: Settings | null,
  onChanged: (next: Import, settings: Settings | null) => void,
) {
  const [settings, setSettings] = useState<Settings>(begun ?? found.settings!)
  const [review, setReview] = useState<Review | null>(null)
  const [said, setSaid] = useState<string[]>(found.problems?.map((p) => p.message) ?? [])
  const [busy, setBusy] = useState(true)
  const asked = useRef(0)
  const last = useRef<Promise<unknown>>(Promise.resolve())

  useEffect(() => {
    const mine = ++asked.current
    const current = () => mine === asked.current
    let later = 0
    // Others have other columns, and what was chosen for these means nothing there.
    const sameRows =
      settings.table === found.settings!.table && settings.head_row === found.settings!.head_row
    const save = async () => {
      // One after the other: an older one that came later would be what is kept.
      await last.current
      if (!current()) return
      try {
        const saving = saveImportSettings(found.id, settings)
        last.current = saving.catch(() => null)
        const next = await saving
        if (!current()) return
        if (next.state !== 'review') return onChanged(next, null)
        if (readAs(next) !== readAs(found)) return onChanged(next, settings)
        setReview(next.review ?? null)
        setSaid([])
        setBusy(false)
      } catch (e) {
        if (!current()) return
        if (!isOtherwiseBusy(e)) {
          setSaid(sentences(e))
          setBusy(false)
          if (isLost(e)) later = window.setTimeout(() => void save(), LOST_MS)
          return
        }
        const now = await readImport(found.id).catch(() => null)
        if (!current()) return
        if (now) onChanged(now, sameRows ? settings : null)
        later = window.setTimeout(() => void save(), AGAIN_MS)
      }
    }
    setBusy(true)
    later = window.setTimeout(() => void save(), 250)
    return () => {
      clearTimeout(later)
      asked.current++
    }
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [JSON.stringify(settings)])

  return { settings, setSettings, review, said, busy }
}

/** It is being read again, or something else was done with it meanwhile. */
const isOtherwiseBusy = (e: unknown) =>
  e instanceof ApiError && e.problems.some((p) => p.code === 'intake_state')

/** It was not refused: nobody was there to be asked. */
const isLost = (e: unknown) =>
  !(e instanceof ApiError) || e.status === 0 || e.status === 429 || e.status >= 500
