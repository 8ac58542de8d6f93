import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState, type FormEvent } from 'react'
import { api } from '../shared/api'
import { TextInput } from '../shared/parts/Labelled'
import { Problems } from '../shared/parts/Problems'
import { t } from '../shared/texts'

/** Asks for a link by mail. Whether there is an account is told to nobody. */
export function Forgot() {
  const [email, setEmail] = useState('')
  const [asked, setAsked] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const ask = (e: FormEvent) => {
    e.preventDefault()
    api('POST', '/password/forgot', { email }).then(() => {
      setAsked(true)
      setError(null)
    }, setError)
  }
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Paper
        variant="outlined"
        component="form"
        onSubmit={ask}
        sx={{ width: '100%', maxWidth: 420, p: 6, display: 'grid', gap: 4 }}>
        <Typography variant="h1">{t('forgot.title')}</Typography>
        <Typography role={asked ? 'status' : undefined}>
          {t(asked ? 'forgot.asked' : 'forgot.lead')}
        </Typography>
        {!asked && (
          <TextInput
            label={t('signin.email')}
            type="email"
            value={email}
            onChange={setEmail}
            needed
            autoFocus
            inputProps={{ autoComplete: 'username' }}
          />
        )}
        <Problems error={error} />
        {!asked && (
          <Button type="submit" size="large" disabled={!email.includes('@')}>
            {t('forgot.go')}
          </Button>
        )}
        <Button variant="text" href="/desk">
          {t('forgot.back')}
        </Button>
      </Paper>
    </Box>
  )
}
