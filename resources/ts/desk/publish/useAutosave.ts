import { useEffect, useRef, useState } from 'react'
import { api } from '../../shared/api'

/** Saves a change to a document soon after it was made, one at a time, and says when it is saved. */
export function useAutosave<T extends object>(path: string, saved: T, onSaved: (doc: T) => void) {
  const [doc, setDoc] = useState(saved)
  const [state, setState] = useState<{ busy: boolean; error: unknown }>({ busy: false, error: null })
  const pending = useRef<Partial<T>>({})
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const running = useRef(false)

  const flush = async () => {
    if (running.current || Object.keys(pending.current).length === 0) return
    const change = pending.current
    pending.current = {}
    running.current = true
    setState({ busy: true, error: null })
    try {
      const next = await api<T>('PATCH', path, change)
      onSaved(next)
      // What was changed meanwhile stays as it was typed.
      setDoc({ ...next, ...pending.current })
      setState({ busy: false, error: null })
    } catch (error) {
      setState({ busy: false, error })
    }
    running.current = false
    if (Object.keys(pending.current).length > 0) void flush()
  }
  const change = (part: Partial<T>, now = false) => {
    setDoc((d) => ({ ...d, ...part }))
    pending.current = { ...pending.current, ...part }
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void flush(), now ? 0 : 500)
  }
  useEffect(() => () => void flush(), []) // oxlint-disable-line react-hooks/exhaustive-deps -- what is pending is sent when the page is left
  return { doc, change, ...state }
}
