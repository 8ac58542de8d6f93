import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Table from '@mui/material/Table'
import TableBody from '@mui/material/TableBody'
import TableCell from '@mui/material/TableCell'
import TableHead from '@mui/material/TableHead'
import TableRow from '@mui/material/TableRow'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { QRCodeSVG } from 'qrcode.react'
import { useState, type FormEvent } from 'react'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import type { Api, Role } from '../../shared/types'
import { CrewsNow } from './CrewsNow'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { invitePerson, peopleOf, removePerson } from '../queries/programmes'

export type Person = Api['Person']

/** Who goes out, what their phones last said, and the address of the field app. */
export function Collect() {
  const programme = useProgramme()
  const [error, setError] = useState<unknown>(null)
  const people = useQuery({ ...peopleOf(programme.id), refetchInterval: 10_000 })
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
        <Sheet title={t('collect.people')}>
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
                      {p.role === 'coordinator' ? <Pill tone="well">{t('role.coordinator')}</Pill> : p.crew}
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
                  <TableRow key={i.email}>
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
        <Invite programme={programme.id} crews={people.data?.crews.map((c) => c.name) ?? []} />
        <Sheet title={t('collect.app')}>
          <Address address={`${location.origin}/field`} hint={t('collect.app.hint')} />
        </Sheet>
      </Box>
    </Box>
  )
}

/** Takes a person out of the programme, after a second word: the phone gives up its copy. */
function Leave({ person, onDone }: { person: Person; onDone: (error: unknown) => void }) {
  const programme = useProgramme()
  const [sure, setSure] = useState(false)
  if (!sure)
    return (
      <Button
        size="small"
        variant="text"
        color="inherit"
        aria-label={t('collect.leave.of', { name: person.name })}
        onClick={() => setSure(true)}>
        {t('collect.leave')}
      </Button>
    )
  return (
    <Box
      sx={{ display: 'grid', gap: 1.5, justifyItems: 'end', maxWidth: 240, ml: 'auto', textAlign: 'right' }}>
      <Typography variant="body2">{t('collect.leave.what', { name: person.name })}</Typography>
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Button size="small" variant="outlined" color="inherit" onClick={() => setSure(false)}>
          {t('collect.leave.keep')}
        </Button>
        <Button
          size="small"
          color="error"
          onClick={() =>
            removePerson(programme.id, person.id)
              .then(() => onDone(null))
              .catch(onDone)
          }>
          {t('collect.leave.sure')}
        </Button>
      </Box>
    </Box>
  )
}

function Invite({ programme, crews }: { programme: number; crews: string[] }) {
  const client = useQueryClient()
  const blank = { name: '', email: '', role: 'crew' as Role, crew: '' }
  const [draft, setDraft] = useState(blank)
  const [address, setAddress] = useState<string | null>(null)
  const [error, setError] = useState<unknown>(null)
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    setError(null)
    try {
      const made = await invitePerson(programme, draft)
      setAddress(location.origin + made.address)
      setDraft(blank)
      await client.invalidateQueries({ queryKey: keys.people(programme) })
    } catch (caught) {
      setError(caught)
    }
  }
  return (
    <Sheet title={t('collect.invite')}>
      <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 3 }}>
        <TextInput
          label={t('collect.name')}
          value={draft.name}
          onChange={(name) => setDraft({ ...draft, name })}
          needed
        />
        <TextInput
          label={t('signin.email')}
          type="email"
          value={draft.email}
          onChange={(email) => setDraft({ ...draft, email })}
          needed
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
          <Labelled label={t('collect.role')}>
            {({ id }) => (
              <NativeSelect
                id={id}
                fullWidth
                input={<OutlinedInput />}
                value={draft.role}
                onChange={(e) => setDraft({ ...draft, role: e.target.value as Role })}>
                <option value="crew">{t('role.crew')}</option>
                <option value="coordinator">{t('role.coordinator')}</option>
              </NativeSelect>
            )}
          </Labelled>
          <TextInput
            label={t('collect.crew')}
            value={draft.crew}
            onChange={(crew) => setDraft({ ...draft, crew })}
            inputProps={{ list: 'crews' }}
          />
          <datalist id="crews">
            {crews.map((c) => (
              <option key={c} value={c} />
            ))}
          </datalist>
        </Box>
        <Problems error={error} />
        <Button type="submit" disabled={!draft.name || !draft.email}>
          {t('collect.invite.go')}
        </Button>
        {address && <Address address={address} hint={t('collect.invite.hint')} />}
      </Box>
    </Sheet>
  )
}

/** An address to hand on: as text to copy, and as a QR code. */
export function Address({ address, hint }: { address: string; hint: string }) {
  const [copied, setCopied] = useState(false)
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 4, alignItems: 'start' }}>
      <Box sx={{ bgcolor: '#fff', p: 2, border: '1px solid #D8CFBC', borderRadius: 1.5, lineHeight: 0 }}>
        <QRCodeSVG value={address} size={112} title={address} />
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
          {hint}
        </Typography>
        <Box
          component="code"
          data-testid="address"
          sx={{ display: 'block', fontSize: '0.8rem', wordBreak: 'break-all', mb: 2 }}>
          {address}
        </Box>
        <Button
          size="small"
          variant="outlined"
          onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
          {t(copied ? 'copied' : 'copy')}
        </Button>
      </Box>
    </Box>
  )
}
