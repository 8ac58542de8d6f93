import { useState, type KeyboardEvent } from 'react'

const MOST = 50

/** Something that is changed step by step, with the steps back and forth again. */
export function useUndo<T>(first: () => T, onPut: () => void) {
  const [now, setNow] = useState<T>(first)
  const [past, setPast] = useState<T[]>([])
  const [ahead, setAhead] = useState<T[]>([])
  const put = (next: T) => {
    setPast((p) => [...p.slice(1 - MOST), now])
    setAhead([])
    setNow(next)
    onPut()
  }
  const undo = () => {
    const last = past.at(-1)
    if (last === undefined) return
    setNow(last)
    setPast(past.slice(0, -1))
    setAhead([...ahead, now])
  }
  const redo = () => {
    const next = ahead.at(-1)
    if (next === undefined) return
    setNow(next)
    setAhead(ahead.slice(0, -1))
    setPast([...past, now])
  }
  const startOver = (from: T) => {
    setNow(from)
    setPast([])
    setAhead([])
  }
  const byKeys = (e: KeyboardEvent<HTMLElement>) => {
    // Inside an input the browser's own undo is the one that people expect.
    const typing = (e.target as HTMLElement).closest(
      'input:not([type=checkbox]):not([type=radio]), textarea, select',
    )
    if (typing || !(e.ctrlKey || e.metaKey)) return
    if (e.key.toLowerCase() === 'y' || (e.key.toLowerCase() === 'z' && e.shiftKey)) redo()
    else if (e.key.toLowerCase() === 'z') undo()
    else return
    e.preventDefault()
  }
  return { now, put, undo, redo, startOver, byKeys, canUndo: past.length > 0, canRedo: ahead.length > 0 }
}
