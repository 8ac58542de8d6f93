import { useEffect, useLayoutEffect, useRef } from 'react'

/** A value as it is when an answer comes, not as it was when something was asked: other things may have been chosen meanwhile. */
export function useLatest<T>(value: T) {
  const latest = useRef(value)
  useLayoutEffect(() => {
    latest.current = value
  })
  return latest
}

/**
 * Of what is chosen in quick succession the last counts, and nothing once whoever asked is gone.
 *
 * @returns begins a question; what that gives says whether its answer still counts
 */
export function useLastAnswer() {
  const turn = useRef(0)
  useEffect(
    () => () => {
      turn.current++
    },
    [],
  )
  return () => {
    const mine = ++turn.current
    return () => mine === turn.current
  }
}
