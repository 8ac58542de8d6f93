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

/** Where a mailed link leads: a new password is chosen, once. */
export function Reset() {
  const { token } = useParams()
  const link = useQuery({
    queryKey: ['reset', token],
    queryFn: () => api('GET', `/password/${token}`).then(() => true),
    staleTime: Infinity,
    retry: false,
  })
  const [password, setPassword] = useState('')
  const [done, setDone] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const choose = (e: FormEvent) => {
    e.preventDefault()
    api('POST', `/password/${token}`, { password }).then(() => setDone(true), setError)
  }
  if (link.isPending) return null
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Paper
        variant="outlined"
        component="form"
        onSubmit={choose}
        sx={{ width: '100%', maxWidth: 420, p: 6, display: 'grid', gap: 4 }}>
        <Typography variant="h1">{t('reset.title')}</Typography>
        <Typography role={done ? 'status' : undefined}>
          {t(done ? 'reset.done' : link.error ? 'reset.old' : 'reset.lead')}
        </Typography>
        {!done && !link.error && (
          <TextInput
            label={t('join.password')}
            hint={t('join.hint')}
            type="password"
            value={password}
            onChange={setPassword}
            needed
            autoFocus
            inputProps={{ autoComplete: 'new-password', minLength: 12 }}
          />
        )}
        <Problems error={error} />
        {!done && !link.error && (
          <Button type="submit" size="large" disabled={password.length < 12}>
            {t('reset.go')}
          </Button>
        )}
        {(done || link.error) && (
          <Button href={done ? '/desk' : '/forgot'}>{t(done ? 'signin.go' : 'forgot.go')}</Button>
        )}
      </Paper>
    </Box>
  )
}
