import { useEffect, useRef, useState } from 'react'
import { apiIfChanged } from '../api'
import type { BoardAnswers } from '../types'

const EVERY_MS = 4_000

/**
 * A board's answers, asked for again every few seconds; an unchanged board costs the server next to nothing. While
 * another pick is on its way the answers of before stay.
 *
 * @param query what was picked, as the server is asked
 */
export function useBoard(
  path: string,
  query = '',
): {
  board: BoardAnswers | null
  /** What that answers: the picks of a moment ago may still be on their way. */
  query: string
  error: unknown
  /** When the server last said that this is how things stand. */
  asOf: string | null
  refresh: () => void
} {
  const [answer, setAnswer] = useState<{ board: BoardAnswers; query: string } | null>(null)
  const [error, setError] = useState<unknown>(null)
  const [asOf, setAsOf] = useState<string | null>(null)
  const [round, setRound] = useState(0)
  const tag = useRef<string | null>(null)
  useEffect(() => {
    let stopped = false
    tag.current = null
    const ask = async () => {
      try {
        const news = await apiIfChanged<BoardAnswers>(query ? `${path}?${query}` : path, tag.current)
        if (stopped) return
        setError(null)
        setAsOf(new Date().toISOString())
        if (news) {
          tag.current = news.tag
          setAnswer({ board: news.body, query })
        }
      } catch (e) {
        if (!stopped) setError(e)
      }
    }
    void ask()
    const timer = setInterval(() => document.visibilityState === 'visible' && void ask(), EVERY_MS)
    return () => {
      stopped = true
      clearInterval(timer)
    }
  }, [path, query, round])
  return {
    board: answer?.board ?? null,
    query: answer?.query ?? '',
    error,
    asOf,
    refresh: () => setRound((n) => n + 1),
  }
}
