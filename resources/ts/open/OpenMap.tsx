import Box from '@mui/material/Box'
import { useParams } from 'react-router'
import { MapReading } from '../shared/map/MapReading'
import { ClosedThing } from './Closed'
import { OpenHead } from './OpenHead'

/** A shared map: anyone with the link, no account. */
export function OpenMap() {
  const { token } = useParams()
  const base = `/open/maps/${token}`
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <MapReading
        key={token}
        base={base}
        address={base}
        photo={(id, size) => `/api/v1${base}/photos/${id}/${size}`}
        head={(view) => <OpenHead title={view.title} programme={view.programme} />}
        gone={<ClosedThing />}
      />
    </Box>
  )
}
