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
  const [who, setWho] = useState({ name: '', email: '' })
  const [password, setPassword] = useState('')
  const [error, setError] = useState<unknown>(null)
  if (invitation.error) return <Closed />
  if (!invitation.data) return null
  const { programme, name, email, role, many } = invitation.data
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    try {
      await api('POST', `/join/${token}`, { password, ...(many ? who : {}) })
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
        <Typography>
          {many
            ? t('join.lead.many', { role: t(`role.${role}`) })
            : t('join.lead', { name, email, role: t(`role.${role}`) })}
        </Typography>
        {many ? (
          <>
            <TextInput
              label={t('join.name')}
              value={who.name}
              onChange={(v) => setWho({ ...who, name: v })}
              needed
              autoFocus
              inputProps={{ autoComplete: 'name', maxLength: 120 }}
            />
            <TextInput
              label={t('signin.email')}
              type="email"
              value={who.email}
              onChange={(v) => setWho({ ...who, email: v })}
              needed
              inputProps={{ autoComplete: 'username', maxLength: 190 }}
            />
          </>
        ) : (
          <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
        )}
        <TextInput
          label={t('join.password')}
          hint={`${t('join.hint')} ${t('join.has')}`}
          type="password"
          value={password}
          onChange={setPassword}
          needed
          autoFocus={!many}
          inputProps={{ autoComplete: 'new-password', minLength: 12 }}
        />
        <Problems error={error} />
        <Button
          type="submit"
          size="large"
          disabled={password.length < 12 || (many && (!who.name.trim() || !who.email))}>
          {t('join.go')}
        </Button>
      </Paper>
    </Box>
  )
}
