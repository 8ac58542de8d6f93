import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useEffect, useState, type FormEvent } from 'react'
import { paint } from '../paint'
import { api, ApiError } from '../api'
import { t } from '../texts'
import type { Me } from '../types'
import { TextInput } from './Labelled'
import { PegMark } from './PegMark'
import { Problems } from './Problems'

type About = { demo: { coordinator: string; crew: string; password: string } | null }

/** The sign-in page of the desk and of the field app. */
export function SignIn({ onDone, title, lead }: { onDone: (me: Me) => void; title: string; lead: string }) {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  // Asked for once the server says that this account has a second factor.
  const [code, setCode] = useState<string | null>(null)
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  // The accounts of the demo are known to everybody, and said; beside real data there are none.
  const [demo, setDemo] = useState<About['demo']>(null)
  useEffect(() => {
    api<About>('GET', '/about').then(
      (about) => setDemo(about.demo),
      () => undefined,
    )
  }, [])
  const submit = async (e: FormEvent) => {
    e.preventDefault()
    setBusy(true)
    setError(null)
    try {
      await primeToken()
      onDone(await api<Me>('POST', '/session', { email, password, ...(code === null ? {} : { code }) }))
    } catch (caught) {
      const asked = caught instanceof ApiError && caught.problems[0]?.code === 'second_needed'
      if (asked && code === null) setCode('')
      setError(asked && code === null ? null : caught)
      setBusy(false)
    }
  }
  return (
    <Box
      component="main"
      sx={{
        minHeight: '100%',
        display: 'grid',
        placeItems: 'center',
        p: 4,
        background: `linear-gradient(${paint.sea} 0 42%, ${paint.beach} 42% 44%, ${paint.page} 44%)`,
      }}>
      <Paper
        variant="outlined"
        component="form"
        onSubmit={submit}
        sx={{
          width: '100%',
          maxWidth: 400,
          p: { xs: 5, sm: 7 },
          display: 'grid',
          gap: 4,
          position: 'relative',
        }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
          <PegMark head="diamond" colour={paint.flag} size={40} />
          <Typography variant="h1" sx={{ fontStretch: '112%' }}>
            {title}
          </Typography>
        </Box>
        <Typography color="text.secondary">{lead}</Typography>
        <TextInput
          label={t('signin.email')}
          type="email"
          value={email}
          onChange={setEmail}
          needed
          autoFocus
          inputProps={{ autoComplete: 'username' }}
        />
        <TextInput
          label={t('signin.password')}
          type="password"
          value={password}
          onChange={setPassword}
          needed
          inputProps={{ autoComplete: 'current-password' }}
        />
        {code !== null && (
          <TextInput
            label={t('signin.code')}
            hint={t('signin.code.hint')}
            value={code}
            onChange={setCode}
            needed
            autoFocus
            inputProps={{ autoComplete: 'one-time-code', maxLength: 40 }}
          />
        )}
        <Problems error={error} />
        <Button type="submit" size="large" disabled={busy || !email || !password || code === ''}>
          {t('signin.go')}
        </Button>
        <Button variant="text" color="inherit" href="/forgot" sx={{ justifySelf: 'start', px: 0 }}>
          {t('signin.forgot')}
        </Button>
        <Button variant="text" color="inherit" href="/join" sx={{ justifySelf: 'start', px: 0, mt: -3 }}>
          {t('signin.invited')}
        </Button>
        {/* Beneath the card: it comes late, and must not push a button away from under a finger. */}
        {demo && (
          <Typography
            variant="body2"
            color="text.secondary"
            sx={{
              overflowWrap: 'anywhere',
              whiteSpace: 'pre-line',
              position: 'absolute',
              top: '100%',
              left: 0,
              right: 0,
              pt: 4,
              px: { xs: 5, sm: 7 },
              pb: 4,
            }}>
            {t('signin.demo', demo)}
          </Typography>
        )}
      </Paper>
    </Box>
  )
}

/**
 * The first answer of the server brings the token that a changing request needs; being signed out is fine.
 */
export const primeToken = () => api('GET', '/me').catch(() => undefined)
