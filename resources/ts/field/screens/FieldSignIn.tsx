import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import { useEffect, useState } from 'react'
import { api } from '../../shared/api'
import { SignIn } from '../../shared/parts/SignIn'
import { t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { welcome } from '../db'
import { forgetRecords } from '../records'
import { signedIn, syncNow } from '../sync/sync'

/** Sign in once; from then on the phone knows who it is, with or without signal. */
export function FieldSignIn({ onDone }: { onDone: () => void }) {
  const [foreign, setForeign] = useState<{ owner: string; waiting: number } | null>(null)
  const take = async (me: Me) => {
    const answer = await welcome(me)
    if (!answer.ok) {
      await api('DELETE', '/session')
      setForeign(answer)
      return
    }
    forgetRecords()
    signedIn()
    onDone()
    void syncNow()
  }
  useEffect(() => {
    // Someone who came from a join link is signed in already.
    api<Me>('GET', '/me').then(take, () => undefined)
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [])
  return (
    <Box sx={{ height: '100dvh', display: 'flex', flexDirection: 'column' }}>
      {foreign && <Alert severity="warning" square>{t('field.foreign', { owner: foreign.owner, n: foreign.waiting })}</Alert>}
      <Box sx={{ flex: 1 }}><SignIn key={foreign?.owner} title={t('field.title')} lead={t('signin.field')} onDone={(me) => void take(me)} /></Box>
    </Box>
  )
}
