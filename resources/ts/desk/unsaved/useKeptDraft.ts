import { useCallback, useEffect, useRef, useState } from 'react'
import { drop, keep, readKept, type Kept } from './kept'

const SOON_MS = 250

/**
 * Something that is given out only when its person says so, kept in this browser while it is worked on: it is there again after a
 * reload, after looking elsewhere, after Back.
 *
 * @param thing names it, with all that would make it another one
 * @param value as it is now; null where there is nothing to keep
 */
export function useKeptDraft<T>(thing: string, value: T | null) {
  const [taken, setTaken] = useState<Kept<T> | null>(() => readKept<T>(thing))
  const now = useRef({ thing, value })
  now.current = { thing, value }
  const over = useRef(false)
  const [isKept, setKept] = useState(true)
  const put = useCallback(() => {
    if (over.current) return
    const { thing: name, value: v } = now.current
    if (v === null) drop(name)
    else setKept(keep(name, v))
  }, [])
  const text = value === null ? '' : JSON.stringify(value)
  useEffect(() => {
    const timer = setTimeout(put, SOON_MS)
    return () => clearTimeout(timer)
  }, [text, put])
  useEffect(() => {
    window.addEventListener('pagehide', put)
    return () => {
      window.removeEventListener('pagehide', put)
      put()
    }
  }, [put])
  useEffect(() => {
    // Where nothing can be kept, the browser asks before the page goes.
    if (isKept || value === null) return
    const ask = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [isKept, value])
  return {
    /** What was there before, until it is said to be known. */
    taken,
    known: () => setTaken(null),
    /** It is given out, or thrown away: nothing of it is kept from now on. */
    end: () => {
      over.current = true
      drop(now.current.thing)
    },
    isKept,
  }
}
