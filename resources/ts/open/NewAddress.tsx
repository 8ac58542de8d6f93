import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { api } from '../shared/api'
import { Problems } from '../shared/parts/Problems'
import { t } from '../shared/texts'
import type { Api } from '../shared/types'

/** Where a mailed link leads: the address that it was mailed to becomes that of the account. */
export function NewAddress() {
  const { token } = useParams()
  const link = useQuery({
    queryKey: ['address', token],
    queryFn: () => api<Api['AddressChange']>('GET', `/address/${token}`),
    staleTime: Infinity,
    retry: false,
  })
  const [done, setDone] = useState(false)
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<unknown>(null)
  // A mail program that opens links by itself changes nothing: somebody must tap.
  const use = () => {
    setBusy(true)
    api('POST', `/address/${token}`)
      .then(() => setDone(true), setError)
      .finally(() => setBusy(false))
  }
  if (link.isPending) return null
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Paper variant="outlined" sx={{ width: '100%', maxWidth: 420, p: 6, display: 'grid', gap: 4 }}>
        <Typography variant="h1">{t('address.title')}</Typography>
        <Typography role={done ? 'status' : undefined} sx={{ overflowWrap: 'anywhere' }}>
          {done ? t('address.done') : link.data ? t('address.lead', link.data) : t('address.old')}
        </Typography>
        <Problems error={error} />
        {!done && link.data && (
          <Button size="large" disabled={busy} onClick={use}>
            {t('address.go')}
          </Button>
        )}
        {(done || link.error) && <Button href="/desk">{t('signin.go')}</Button>}
      </Paper>
    </Box>
  )
}
