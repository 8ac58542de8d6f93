import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { groupsOf } from '../queries/programmes'

/** To whoever does not coordinate: the groups that one is in, and with whom, where that may be seen. */
export function MyGroups() {
  const programme = useProgramme()
  const groups = useQuery(groupsOf(programme.id))
  if (!groups.data?.length) return null
  return (
    <Typography color="text.secondary" sx={{ overflowWrap: 'anywhere' }}>
      {groups.data
        .map((g) =>
          g.people
            ? t('publish.mine.with', { group: g.name, names: g.people.map((p) => p.name).join(', ') })
            : t('publish.mine', { group: g.name }),
        )
        .join(' ')}
    </Typography>
  )
}
