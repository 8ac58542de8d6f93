import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useParams } from 'react-router'
import { api, ApiError } from '../shared/api'
import { GateSight } from '../shared/parts/GateSight'
import { Problems } from '../shared/parts/Problems'
import type { GateFront } from '../shared/types'
import { ClosedThing } from './Closed'
import { OtherLanguages } from './OtherLanguages'

/** The front door of a programme, for anyone with its link. */
export function OpenGate() {
  const { token } = useParams()
  const front = useQuery({
    queryKey: ['gate', token],
    queryFn: () => api<GateFront>('GET', `/open/gates/${token}`),
  })
  useEffect(() => {
    if (front.data) document.title = front.data.title
  }, [front.data])
  if (front.error instanceof ApiError && front.error.status === 404) return <ClosedThing />
  if (front.error && !front.data)
    return (
      <Box sx={{ p: 4 }}>
        <Problems error={front.error} />
      </Box>
    )
  return front.data ? (
    <GateSight front={front.data} signIn={`/field/gallery?gate=${token}`} corner={<OtherLanguages />} />
  ) : null
}
