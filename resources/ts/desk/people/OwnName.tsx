import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type FormEvent } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { keys } from '../queries/keys'
import { askAddress, renameMe } from '../queries/programmes'

/** Two taps before the answer are one. */
function useOnce() {
  const busy = useRef(false)
  return async (work: () => Promise<void>) => {
    if (busy.current) return
    busy.current = true
    await work()
    busy.current = false
  }
}

/** What one is called, and the mail address that one signs in with. */
export function OwnName({ me }: { me: Me }) {
  return (
    <Sheet title={t('account.name.title')}>
      <Box sx={{ display: 'grid', gap: 5 }}>
        <Name me={me} />
        <Address me={me} />
      </Box>
    </Sheet>
  )
}

function Name({ me }: { me: Me }) {
  const client = useQueryClient()
  const [name, setName] = useState(me.name)
  const [error, setError] = useState<unknown>(null)
  const [done, setDone] = useState(false)
  const once = useOnce()
  const save = (e: FormEvent) => {
    e.preventDefault()
    void once(async () => {
      setDone(false)
      try {
        await renameMe(name)
        await client.invalidateQueries({ queryKey: keys.me })
        setError(null)
        setDone(true)
      } catch (caught) {
        setError(caught)
      }
    })
  }
  return (
    <Box component="form" onSubmit={save} sx={{ display: 'grid', gap: 3 }}>
      <TextInput
        label={t('account.name')}
        hint={t('account.name.hint')}
        value={name}
        onChange={setName}
        needed
        inputProps={{ autoComplete: 'name', maxLength: 120 }}
      />
      <Problems error={error} />
      {done && <Typography role="status">{t('account.name.done')}</Typography>}
      <Button type="submit" variant="outlined" disabled={!name.trim() || name.trim() === me.name}>
        {t('account.name.save')}
      </Button>
    </Box>
  )
}

function Address({ me }: { me: Me }) {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [asked, setAsked] = useState<string | null>(null)
  const [error, setError] = useState<unknown>(null)
  const once = useOnce()
  const ask = (e: FormEvent) => {
    e.preventDefault()
    void once(async () => {
      try {
        await askAddress({ email, password })
        setAsked(email)
        setEmail('')
        setPassword('')
        setError(null)
      } catch (caught) {
        setError(caught)
      }
    })
  }
  return (
    <Box component="form" onSubmit={ask} sx={{ display: 'grid', gap: 3 }}>
      <Typography variant="body2">{t('account.address.now', { email: me.email })}</Typography>
      <TextInput
        label={t('account.address.new')}
        hint={t('account.address.hint')}
        type="email"
        value={email}
        onChange={setEmail}
        needed
        inputProps={{ autoComplete: 'email', maxLength: 190 }}
      />
      <TextInput
        label={t('account.current')}
        type="password"
        value={password}
        onChange={setPassword}
        needed
        inputProps={{ autoComplete: 'current-password' }}
      />
      <Problems error={error} />
      {asked && <Typography role="status">{t('account.address.asked', { email: asked })}</Typography>}
      <Button type="submit" variant="outlined" disabled={!email || !password}>
        {t('account.address.ask')}
      </Button>
    </Box>
  )
}
