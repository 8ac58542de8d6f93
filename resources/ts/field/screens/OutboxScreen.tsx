import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState, useSyncExternalStore } from 'react'
import { useNavigate } from 'react-router'
import { ago, t } from '../../shared/texts'
import { db } from '../db'
import { useLayers } from '../here'
import { rescueFile, takeRescue } from '../rescue'
import { giveUp, mend } from '../save'
import { syncNow, useSync } from '../sync/sync'
import { updates } from '../updates'
import { AskedCard } from './AskedCard'
import { Head } from './Head'

/** What has not arrived yet, each with its state; and a way out for all of it. */
export function OutboxScreen() {
  const navigate = useNavigate()
  const sync = useSync()
  const newer = useSyncExternalStore(updates.subscribe, updates.ready)
  const items = useLiveQuery(() => db.outbox.toArray())
  const photos = useLiveQuery(() => db.photos.toArray())
  const asked = useLiveQuery(() => db.asked.toArray())
  const notes = useLiveQuery(() => db.notes.toArray())
  const layers = useLayers()
  const unsent = new Set(items?.map((i) => i.operation.record))
  const alone = photos?.filter((p) => !unsent.has(p.record)) ?? []
  const answers = asked?.some((a) => a.answered_here !== undefined) ?? false
  const empty = items?.length === 0 && alone.length === 0 && !answers
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
  const [said, setSaid] = useState<{ text: string; bad: boolean } | null>(null)
  const bringIn = async (file: Blob) => {
    const taken = await takeRescue(file)
    setSaid(taken.ok ? { text: t('outbox.rescue.taken', { n: taken.taken, known: taken.known }), bad: false } : { text: t(`outbox.rescue.${taken.why}`, { owner: taken.owner ?? '' }), bad: true })
    if (taken.ok) void syncNow()
  }
  return (
    <>
      <Head title={t('outbox.title')} under={sync.last ? t('outbox.last', { ago: ago(sync.last) }) : null} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4 }}>
        {newer && <Alert severity="info" variant="outlined" sx={{ mb: 3 }} action={<Button size="small" onClick={updates.take}>{t('outbox.update.go')}</Button>}>{t('outbox.update')}</Alert>}
        {sync.trouble && <Alert severity="warning" variant="outlined" sx={{ mb: 3 }}>{sync.trouble}</Alert>}
        {notes?.map((n) => (
          <Alert key={n.id} severity="info" variant="outlined" sx={{ mb: 3 }} action={<Button size="small" onClick={() => void db.notes.delete(n.id!)}>{t('note.read')}</Button>}>{t(`note.${n.outcome}`, { name: n.name, what: n.text })}</Alert>
        ))}
        {asked?.map((a) => <AskedCard key={a.id} asked={a}><Button variant="outlined" color="inherit" onClick={() => void navigate(`/field/record/${a.record}`)}>{t('asked.record')}</Button></AskedCard>)}
        {said && <Alert severity={said.bad ? 'error' : 'success'} variant="outlined" sx={{ mb: 3 }} onClose={() => setSaid(null)}>{said.text}</Alert>}
        {empty && <Typography sx={{ py: 6, textAlign: 'center' }}>{t('outbox.empty')}</Typography>}
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {items?.map((item) => (
            <Row key={item.seq} name={item.operation.kind === 'add' ? item.name : `${item.name} (${t(`outbox.kind.${item.operation.kind}`)})`} state={item.state === 'refused' ? t('outbox.refused') : sync.phase === 'sending' ? t('outbox.sending') : t('outbox.waiting')} bad={item.state === 'refused'}
              under={item.state === 'refused' ? item.problems.join(' ') : t('outbox.saved', { ago: ago(item.saved_at), n: photos?.filter((p) => p.record === item.operation.record).length ?? 0 })}>
              {item.state === 'refused' && (
                <Box sx={{ display: 'flex', gap: 2, gridColumn: '1 / -1' }}>
                  {item.operation.kind !== 'delete' && item.operation.kind !== 'restore' && <Button variant="outlined" size="small" onClick={() => repair(item.seq)}>{t('outbox.mend')}</Button>}
                  {item.operation.kind !== 'add' && item.operation.kind !== 'visit' && <Button variant="outlined" color="inherit" size="small" onClick={() => void giveUp(item.seq, layers?.get(item.operation.layer))}>{t('outbox.giveup')}</Button>}
                </Box>
              )}
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
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2.5 }}>
          <Button size="large" variant="outlined" color="inherit" disabled={empty} onClick={rescue}>{t('outbox.rescue')}</Button>
          <Button size="large" variant="outlined" color="inherit" component="label">{t('outbox.rescue.in')}<input type="file" hidden accept="application/json,.json" aria-label={t('outbox.rescue.in')} onChange={(e) => { const file = e.target.files?.[0]; e.target.value = ''; if (file) void bringIn(file) }} /></Button>
        </Box>
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
