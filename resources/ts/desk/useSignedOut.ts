import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { ApiError } from '../shared/api'
import { keys } from './queries/keys'

/**
 * Whoever was signed out elsewhere, or whose session is over, hears of it by whatever the desk asks next: then it asks who
 * is signed in, and signing in takes the place of what would only say that one is not.
 */
export function useSignedOut() {
  const client = useQueryClient()
  useEffect(
    () =>
      client.getQueryCache().subscribe((event) => {
        if (event.type !== 'updated' || event.action.type !== 'error') return
        const { error } = event.action
        if (error instanceof ApiError && error.status === 401 && event.query.queryHash !== ME)
          void client.invalidateQueries({ queryKey: keys.me })
      }),
    [client],
  )
}

const ME = JSON.stringify(keys.me)
