import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useSyncExternalStore } from 'react'
import { useNavigate } from 'react-router'
import { ago, t } from '../../shared/texts'
import { db } from '../db'
import { mend, rescueFile } from '../save'
import { syncNow, useSync } from '../sync'
import { updates } from '../updates'
import { Head } from './Head'

/** What has not arrived yet, each with its state; and a way out for all of it. */
export function OutboxScreen() {
  const navigate = useNavigate()
  const sync = useSync()
  const newer = useSyncExternalStore(updates.subscribe, updates.ready)
  const items = useLiveQuery(() => db.outbox.toArray())
  const photos = useLiveQuery(() => db.photos.toArray())
  const unsent = new Set(items?.map((i) => i.operation.record))
  const alone = photos?.filter((p) => !unsent.has(p.record)) ?? []
  const empty = items?.length === 0 && alone.length === 0
  const repair = async (seq: number) => {
    const form = await mend(seq)
    if (form !== null) await navigate(form)
  }
  const rescue = async () => {
    const url = URL.createObjectURL(await rescueFile())
    const link = Object.assign(document.createElement('a'), { href: url, download: `pin-yard-rescue-${new Date().toISOString().slice(0, 16).replace(':', '')}.json` })
    link.click()
    setTimeout(() => URL.revokeObjectURL(url), 10_000)
  }
  return (
    <>
      <Head title={t('outbox.title')} under={sync.last ? t('outbox.last', { ago: ago(sync.last) }) : null} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4 }}>
        {newer && <Alert severity="info" variant="outlined" sx={{ mb: 3 }} action={<Button size="small" onClick={updates.take}>{t('outbox.update.go')}</Button>}>{t('outbox.update')}</Alert>}
        {sync.trouble && <Alert severity="warning" variant="outlined" sx={{ mb: 3 }}>{sync.trouble}</Alert>}
        {empty && <Typography sx={{ py: 6, textAlign: 'center' }}>{t('outbox.empty')}</Typography>}
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {items?.map((item) => (
            <Row key={item.seq} name={item.name} state={item.state === 'refused' ? t('outbox.refused') : sync.phase === 'sending' ? t('outbox.sending') : t('outbox.waiting')} bad={item.state === 'refused'}
              under={item.state === 'refused' ? item.problems.join(' ') : t('outbox.saved', { ago: ago(item.saved_at), n: photos?.filter((p) => p.record === item.operation.record).length ?? 0 })}>
              {item.state === 'refused' && <Button variant="outlined" size="small" onClick={() => repair(item.seq)}>{t('outbox.mend')}</Button>}
            </Row>
          ))}
          {alone.map((p) => (
            <Row key={p.id} name={t('outbox.photo', { name: p.name })} bad={p.state === 'refused'} under={p.reason ?? t('outbox.bytes', { sent: Math.round((100 * p.sent) / p.bytes) })}
              state={p.state === 'refused' ? t('outbox.refused') : sync.phase === 'sending' ? t('outbox.sending') : t('outbox.waiting')}>
              {p.state === 'refused' && <Button variant="outlined" size="small" onClick={() => db.photos.delete(p.id)}>{t('outbox.drop')}</Button>}
            </Row>
          ))}
        </Box>
      </Box>
      <Box sx={{ p: 3.5, display: 'grid', gap: 2.5, borderTop: '1px solid', borderColor: 'divider', flex: 'none' }}>
        <Typography variant="body2" color="text.secondary" sx={{ textAlign: 'center' }}>{t('outbox.promise')}</Typography>
        <Button size="large" disabled={sync.phase === 'sending'} onClick={() => void syncNow()} sx={{ minHeight: 56 }}>{t('outbox.send')}</Button>
        <Button size="large" variant="outlined" color="inherit" disabled={empty} onClick={rescue}>{t('outbox.rescue')}</Button>
      </Box>
    </>
  )
}

function Row({ name, under, state, bad, children }: { name: string; under: string; state: string; bad: boolean; children?: React.ReactNode }) {
  return (
    <Box component="li" sx={{ borderBottom: '1px solid', borderColor: 'divider', py: 2.5, display: 'grid', gridTemplateColumns: '1fr auto', gap: 1 }}>
      <b>{name}</b>
      <Box sx={{ fontWeight: 650, color: bad ? 'error.main' : 'text.secondary' }}>{state}</Box>
      <Box sx={{ fontSize: '0.92rem', color: 'text.secondary' }}>{under}</Box>
      {children}
    </Box>
  )
}
