import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useEffect, useState } from 'react'
import { api } from '../../shared/api'
import { SignIn } from '../../shared/parts/SignIn'
import { t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { meta } from '../db'
import { useWaiting } from '../phoneState'
import { readsAnother } from '../language'
import { welcome } from '../person'
import { forgetRecords } from '../records'
import { signedIn, syncNow } from '../sync/sync'

/** Sign in once; from then on the phone knows who it is, with or without signal. */
export function FieldSignIn({ onDone }: { onDone: () => void }) {
  // Somebody else than the bearer of this phone is signed in in this browser: who goes on is theirs to say,
  // never taken for granted.
  const [two, setTwo] = useState<{ bearer: Me; other: Me } | null>(null)
  const box = useWaiting()
  const take = async (me: Me) => {
    await welcome(me)
    if (await readsAnother()) return location.assign('/field')
    forgetRecords()
    signedIn()
    onDone()
    void syncNow()
  }
  useEffect(() => {
    // Someone who came from a join link is signed in already.
    const look = async () => {
      const me = await api<Me>('GET', '/me')
      const bearer = await meta<Me>('me')
      if (bearer && bearer.id !== me.id) setTwo({ bearer, other: me })
      else await take(me)
    }
    look().catch(() => undefined)
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [])
  const mine = (box?.waiting ?? 0) + (box?.photos ?? 0) + (box?.refused ?? 0) + (box?.drafts ?? 0)
  if (two) {
    const { bearer, other } = two
    return (
      <Box
        component="main"
        sx={{
          minHeight: '100dvh',
          p: 5,
          display: 'grid',
          gap: 4,
          alignContent: 'center',
          '& button': { minHeight: 56 },
        }}>
        <Typography variant="h1">{t('field.two', { bearer: bearer.name })}</Typography>
        <Typography>{t('field.two.text', { bearer: bearer.name, other: other.name, n: mine })}</Typography>
        <Button
          onClick={() =>
            void api('DELETE', '/session')
              .catch(() => undefined)
              .then(() => setTwo(null))
          }>
          {t('field.two.bearer', { name: bearer.name })}
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => void take(other)}>
          {t('field.two.other', { name: other.name })}
        </Button>
      </Box>
    )
  }
  return (
    <Box sx={{ height: '100dvh', display: 'flex', flexDirection: 'column' }}>
      {mine > 0 && (
        <Alert severity="info" square>
          {t('field.foreign', { n: mine })}
        </Alert>
      )}
      <Box sx={{ flex: 1 }}>
        <SignIn title={t('field.title')} lead={t('signin.field')} onDone={(me) => void take(me)} />
      </Box>
    </Box>
  )
}
