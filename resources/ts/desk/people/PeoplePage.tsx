import Box from '@mui/material/Box'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { groupsOf, peopleOf } from '../queries/programmes'
import { Groups } from './Groups'
import { Invitations } from './Invitations'
import { Invite } from './Invite'
import { PersonRow } from './PersonRow'
import { SecondDemand } from './SecondDemand'

/** Who belongs to a programme: what each person is in it, its groups, and who is asked in. */
export function PeoplePage() {
  const programme = useProgramme()
  const client = useQueryClient()
  const people = useQuery(peopleOf(programme.id))
  const groups = useQuery(groupsOf(programme.id))
  const [error, setError] = useState<unknown>(null)
  const done = async (failed: unknown) => {
    setError(failed)
    await Promise.all(
      [
        keys.people(programme.id),
        keys.groups(programme.id),
        keys.audiences(programme.id),
        keys.programme(programme.id),
      ].map((queryKey) => client.invalidateQueries({ queryKey })),
    )
  }
  const crews = people.data?.crews.map((c) => c.name) ?? []
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4 }}>
      <Box>
        <Typography variant="caption" sx={{ fontWeight: 600 }}>
          <Link component={RouterLink} to={`/desk/p/${programme.id}/collect`}>
            {t('stage.collect')}
          </Link>
        </Typography>
        <Typography variant="h1">{t('people.title')}</Typography>
        <Typography color="text.secondary">
          {t('people.lead')}{' '}
          <Link component={RouterLink} to={`/desk/p/${programme.id}/publish/seen`}>
            {t('seen.title')}
          </Link>
          {'. '}
          <Link component={RouterLink} to={`/desk/p/${programme.id}/people/done`}>
            {t('audit.open')}
          </Link>
        </Typography>
      </Box>
      <Problems error={error ?? people.error ?? groups.error} />
      <Box
        sx={{
          display: 'grid',
          gap: 4,
          gridTemplateColumns: { xs: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 400px' },
          alignItems: 'start',
        }}>
        <Box sx={{ display: 'grid', gap: 4, minWidth: 0 }}>
          <Sheet title={t('people.all', { n: people.data?.people.length ?? 0 })}>
            <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
              {people.data?.people.map((p) => (
                <PersonRow key={p.id} person={p} crews={crews} groups={groups.data ?? []} onDone={done} />
              ))}
            </Box>
          </Sheet>
          {(people.data?.invitations.length ?? 0) > 0 && (
            <Invitations
              invitations={people.data?.invitations ?? []}
              groups={groups.data ?? []}
              onDone={done}
            />
          )}
        </Box>
        <Box sx={{ display: 'grid', gap: 4, minWidth: 0 }}>
          <Groups groups={groups.data ?? []} onDone={done} />
          <SecondDemand people={people.data?.people ?? []} onDone={done} />
          <Invite programme={programme.id} crews={crews} groups={groups.data ?? []} />
        </Box>
      </Box>
    </Box>
  )
}
