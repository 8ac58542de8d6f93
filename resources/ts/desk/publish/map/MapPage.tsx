import Box from '@mui/material/Box'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { Link as RouterLink, useParams } from 'react-router'
import { MapReading } from '../../../shared/map/MapReading'
import { t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'

/** A map of the programme as whoever does not make maps reads it. */
export function MapPage() {
  const { map } = useParams()
  const programme = useProgramme()
  return (
    <Box sx={{ flex: 1, minHeight: 0 }}>
      <MapReading
        key={map}
        base={`/maps/${map}`}
        address={`/maps/${map}/view`}
        photo={(id, size) => `/api/v1/attachments/${id}/${size}`}
        head={(view) => (
          <Box sx={{ px: { xs: 3, md: 5 }, py: 2, flex: 'none' }}>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('publish.maps')}
              </Link>
            </Typography>
            <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
              {view.title}
            </Typography>
          </Box>
        )}
        gone={<Typography sx={{ p: 5 }}>{t('failure.not_found')}</Typography>}
      />
    </Box>
  )
}
