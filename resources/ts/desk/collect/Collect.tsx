import Box from '@mui/material/Box'
import Link from '@mui/material/Link'
import Table from '@mui/material/Table'
import TableBody from '@mui/material/TableBody'
import TableCell from '@mui/material/TableCell'
import TableHead from '@mui/material/TableHead'
import TableRow from '@mui/material/TableRow'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import { Address } from '../people/Address'
import { Invite } from '../people/Invite'
import { Leave } from '../people/Leave'
import { CrewsNow } from './CrewsNow'
import { useProgramme } from '../ProgrammePage'
import { groupsOf, peopleOf } from '../queries/programmes'

/** Who goes out, what their phones last said, and the address of the field app. */
export function Collect() {
  const programme = useProgramme()
  const [error, setError] = useState<unknown>(null)
  const people = useQuery({ ...peopleOf(programme.id), refetchInterval: 10_000 })
  const groups = useQuery(groupsOf(programme.id))
  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', md: '1fr 380px' },
        alignItems: 'start',
      }}>
      <Box sx={{ display: 'grid', gap: 4, minWidth: 0 }}>
        <CrewsNow people={people.data?.people ?? []} />
        <Sheet
          title={t('collect.people')}
          action={
            <Link component={RouterLink} to={`/desk/p/${programme.id}/people`}>
              {t('people.open')}
            </Link>
          }>
          <Problems error={error ?? people.error} />
          <Box sx={{ overflowX: 'auto' }}>
            <Table size="small">
              <TableHead>
                <TableRow>
                  {(['collect.name', 'collect.crew', 'collect.heard', 'collect.waiting'] as const).map(
                    (k) => (
                      <TableCell key={k} sx={{ fontWeight: 650 }}>
                        {t(k)}
                      </TableCell>
                    ),
                  )}
                  <TableCell />
                </TableRow>
              </TableHead>
              <TableBody>
                {people.data?.people.map((p) => (
                  <TableRow key={p.id}>
                    <TableCell>
                      <b>{p.name}</b>
                      <Box
                        component="span"
                        sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
                        {p.email}
                      </Box>
                    </TableCell>
                    <TableCell>
                      {p.role === 'crew' ? p.crew : <Pill tone="well">{t(`role.${p.role}`)}</Pill>}
                    </TableCell>
                    <TableCell>
                      {p.last_heard_at ? ago(p.last_heard_at) : p.role === 'crew' ? t('collect.never') : ''}
                      {p.place && (
                        <Box
                          component="span"
                          sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
                          {t('trail.place', { ago: ago(p.place.at) })}
                          {p.battery !== null && `, ${t('trail.battery', { n: p.battery })}`}
                        </Box>
                      )}
                    </TableCell>
                    <TableCell>
                      {p.waiting > 0 ? (
                        <Pill tone="warn">{t('collect.tosend', { n: p.waiting })}</Pill>
                      ) : p.last_heard_at ? (
                        t('collect.allsent')
                      ) : (
                        ''
                      )}
                    </TableCell>
                    <TableCell align="right">
                      <Leave
                        person={p}
                        onDone={(e) => {
                          setError(e)
                          void people.refetch()
                        }}
                      />
                    </TableCell>
                  </TableRow>
                ))}
                {people.data?.invitations.map((i) => (
                  <TableRow key={i.id}>
                    <TableCell>
                      {i.name}
                      <Box
                        component="span"
                        sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
                        {i.email}
                      </Box>
                    </TableCell>
                    <TableCell colSpan={4}>
                      <Pill tone="soft">{t('collect.invited')}</Pill>
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Box>
        </Sheet>
      </Box>
      <Box sx={{ display: 'grid', gap: 4 }}>
        <Invite
          programme={programme.id}
          crews={people.data?.crews.map((c) => c.name) ?? []}
          groups={groups.data ?? []}
        />
        <Sheet title={t('collect.app')}>
          <Address address={`${location.origin}/field`} hint={t('collect.app.hint')} />
        </Sheet>
      </Box>
    </Box>
  )
}
