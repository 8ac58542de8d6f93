import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useParams } from 'react-router'
import { api } from '../shared/api'
import { TextInput } from '../shared/parts/Labelled'
import { Problems } from '../shared/parts/Problems'
import { t } from '../shared/texts'
import type { Api } from '../shared/types'
import { Closed } from './Closed'

type Invitation = Api['InvitationView']

/** Where an invitation leads: choose a password, and go where the role works. */
export function Join() {
  const { token } = useParams()
  const invitation = useQuery({
    queryKey: ['join', token],
    queryFn: () => api<Invitation>('GET', `/join/${token}`),
    staleTime: Infinity,
  })
  const [password, setPassword] = useState('')
  const [error, setError] = useState<unknown>(null)
  if (invitation.error) return <Closed />
  if (!invitation.data) return null
  const { programme, name, email, role } = invitation.data
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    try {
      await api('POST', `/join/${token}`, { password })
      // Straight to the work: who has just joined is signed in, whatever gates this phone knows.
      location.assign(role === 'crew' ? '/field?signin' : '/desk')
    } catch (caught) {
      setError(caught)
    }
  }
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Paper
        variant="outlined"
        component="form"
        onSubmit={submit}
        sx={{ width: '100%', maxWidth: 420, p: 6, display: 'grid', gap: 4 }}>
        <Typography variant="h1">{t('join.title', { programme })}</Typography>
        <Typography>{t('join.lead', { name, email, role: t(`role.${role}`) })}</Typography>
        <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
        <TextInput
          label={t('join.password')}
          hint={`${t('join.hint')} ${t('join.has')}`}
          type="password"
          value={password}
          onChange={setPassword}
          needed
          autoFocus
          inputProps={{ autoComplete: 'new-password', minLength: 12 }}
        />
        <Problems error={error} />
        <Button type="submit" size="large" disabled={password.length < 12}>
          {t('join.go')}
        </Button>
      </Paper>
    </Box>
  )
}
