import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useState, type FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { api, ApiError } from '../shared/api'
import { TextInput } from '../shared/parts/Labelled'
import { Problems } from '../shared/parts/Problems'
import { t } from '../shared/texts'

/** Where the code of an invitation is typed that was read off a board. */
export function TypeCode() {
  const go = useNavigate()
  const [code, setCode] = useState('')
  const [unknown, setUnknown] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const open = async (e: FormEvent) => {
    e.preventDefault()
    setBusy(true)
    setUnknown(false)
    setError(null)
    const token = code.replace(/[^0-9a-z]/gi, '')
    try {
      await api('GET', `/join/${token}`)
      void go(`/join/${token}`)
    } catch (caught) {
      if (caught instanceof ApiError && caught.status === 404) setUnknown(true)
      else setError(caught)
    }
    setBusy(false)
  }
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Paper
        variant="outlined"
        component="form"
        onSubmit={open}
        sx={{ width: '100%', maxWidth: 420, p: 6, display: 'grid', gap: 4 }}>
        <Typography variant="h1">{t('code.title')}</Typography>
        <TextInput
          label={t('code.label')}
          hint={t('code.hint')}
          error={unknown ? t('code.unknown') : null}
          value={code}
          onChange={setCode}
          needed
          autoFocus
          inputProps={{ autoCapitalize: 'characters', autoComplete: 'off', spellCheck: false, maxLength: 40 }}
        />
        <Problems error={error} />
        <Button type="submit" size="large" disabled={busy || code.replace(/[^0-9a-z]/gi, '').length < 12}>
          {t('code.go')}
        </Button>
      </Paper>
    </Box>
  )
}
