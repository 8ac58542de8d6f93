import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { reachOf } from '../queries/publish'

/** Layers of a map or a board that somebody whom it is shown to does not see, with the ways out. */
export function Reach({ thing, onLeave }: { thing: string; onLeave: (layer: number) => void }) {
  const programme = useProgramme()
  const { data } = useQuery(reachOf(thing))
  if (!data?.length) return null
  return (
    <Box role="status" sx={{ mt: 3, display: 'grid', gap: 3 }}>
      {data.map((l) => (
        <Box key={l.id} sx={{ borderLeft: `4px solid ${paint.buoy}`, pl: 3 }}>
          <Typography variant="body2">
            {l.link && t('reach.link', { layer: l.title })}{' '}
            {l.people > 0 && t('reach.people', { layer: l.title, n: l.people })}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 1.5 }}>
            <Button size="small" variant="outlined" onClick={() => onLeave(l.id)}>
              {t('reach.leave', { layer: l.title })}
            </Button>
            {programme.role === 'coordinator' && (
              <Button
                size="small"
                component={RouterLink}
                to={`/desk/p/${programme.id}/publish/seen?layer=${l.id}${l.link ? '&audience=link' : ''}`}>
                {t('reach.open')}
              </Button>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  )
}
