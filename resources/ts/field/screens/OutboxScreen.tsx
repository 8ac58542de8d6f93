import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import Dexie from 'dexie'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState, useSyncExternalStore } from 'react'
import { useNavigate } from 'react-router'
import { ago, span, t } from '../../shared/texts'
import { db } from '../db'
import { CLOCK_WRONG_MS } from '../../shared/clock'
import { useLayers, useMeta, useWaiting } from '../phoneState'
import { rescueFile, saveFile, takeRescue } from '../rescue'
import { giveUp, mend } from '../save'
import { syncNow, useSync } from '../sync/sync'
import { updates } from '../updates'
import { QuestionCard } from './QuestionCard'
import { DraftPart } from './DraftPart'
import { NoticesPart } from './NoticesPart'
import { OtherPersonPart } from './OtherPersonPart'
import { Head } from './Head'

const SHOWN = 100

/** What has not arrived yet, each with its state; and a way out for all of it. */
export function OutboxScreen() {
  const navigate = useNavigate()
  const sync = useSync()
  const newer = useSyncExternalStore(updates.subscribe, updates.ready)
  // Of thousands the first are shown: what was not taken, and then the oldest.
  const list = useLiveQuery(async () => {
    const refused = await db.outbox.where('state').equals('refused').limit(SHOWN).toArray()
    const waiting = await db.outbox
      .where('[state+seq]')
      .between(['waiting', Dexie.minKey], ['waiting', Dexie.maxKey])
      .limit(SHOWN - refused.length)
      .toArray()
    return {
      items: [...refused, ...waiting],
      all: await db.outbox.count(),
      unsent: new Set((await db.outbox.orderBy('operation.record').uniqueKeys()) as string[]),
    }
  })
  const items = list?.items
  const photos = useLiveQuery(() => db.photos.toArray())
  const offset = useMeta<number>('clock_offset_ms') ?? 0
  const asked = useLiveQuery(() => db.asked.toArray())
  const notes = useLiveQuery(() => db.notes.toArray())
  const layers = useLayers()
  const alone = photos?.filter((p) => !list?.unsent.has(p.record)).slice(0, SHOWN) ?? []
  const answers = asked?.some((a) => a.answered_here !== undefined) ?? false
  const empty = items?.length === 0 && alone.length === 0 && !answers
  const begun = useWaiting()?.drafts ?? 0
  const repair = async (seq: number) => {
    const form = await mend(seq)
    if (form !== null) await navigate(form)
  }
  const rescue = async () => saveFile(await rescueFile())
  const [said, setSaid] = useState<{ text: string; bad: boolean } | null>(null)
  const bringIn = async (file: Blob) => {
    const taken = await takeRescue(file)
    setSaid(
      taken.ok
        ? { text: t('outbox.rescue.taken', { n: taken.taken, known: taken.known }), bad: false }
        : { text: t(`outbox.rescue.${taken.why}`, { owner: taken.owner ?? '' }), bad: true },
    )
    if (taken.ok) void syncNow()
  }
  return (
    <>
      <Head title={t('outbox.title')} under={sync.last ? t('outbox.last', { ago: ago(sync.last) }) : null} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4 }}>
        {newer && (
          <Alert
            severity="info"
            variant="outlined"
            sx={{ mb: 3 }}
            action={
              <Button size="small" onClick={updates.take}>
                {t('outbox.update.go')}
              </Button>
            }>
            {t('outbox.update')}
          </Alert>
        )}
        {Math.abs(offset) >= CLOCK_WRONG_MS && (
          <Alert severity="warning" variant="outlined" sx={{ mb: 3 }}>
            {t(offset > 0 ? 'outbox.clock.behind' : 'outbox.clock.ahead', { by: span(Math.abs(offset)) })}
          </Alert>
        )}
        <OtherPersonPart />
        {sync.trouble && (
          <Alert severity="warning" variant="outlined" sx={{ mb: 3 }}>
            {sync.trouble}
          </Alert>
        )}
        <NoticesPart />
        {notes?.map((n) => (
          <Alert
            key={n.id}
            severity="info"
            variant="outlined"
            sx={{ mb: 3 }}
            action={
              <Button size="small" onClick={() => void db.notes.delete(n.id!)}>
                {t('note.read')}
              </Button>
            }>
            {t(`note.${n.outcome}`, { name: n.name, what: n.text })}
          </Alert>
        ))}
        {asked?.map((a) => (
          <QuestionCard key={a.id} asked={a}>
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => void navigate(`/field/record/${a.record}`)}>
              {t('asked.record')}
            </Button>
          </QuestionCard>
        ))}
        {said && (
          <Alert
            severity={said.bad ? 'error' : 'success'}
            variant="outlined"
            sx={{ mb: 3 }}
            onClose={() => setSaid(null)}>
            {said.text}
          </Alert>
        )}
        {empty && <Typography sx={{ py: 6, textAlign: 'center' }}>{t('outbox.empty')}</Typography>}
        <DraftPart />
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {items?.map((item) => (
            <Row
              key={item.seq}
              name={
                item.operation.kind === 'add'
                  ? item.name
                  : `${item.name} (${t(`outbox.kind.${item.operation.kind}`)})`
              }
              state={
                item.state === 'refused'
                  ? t('outbox.refused')
                  : sync.phase === 'sending'
                    ? t('outbox.sending')
                    : t('outbox.waiting')
              }
              bad={item.state === 'refused'}
              under={
                item.state === 'refused'
                  ? item.problems.join(' ')
                  : t('outbox.saved', {
                      ago: ago(item.saved_at),
                      n: photos?.filter((p) => p.record === item.operation.record).length ?? 0,
                    })
              }>
              {item.state === 'refused' && (
                <Box sx={{ display: 'flex', gap: 2, gridColumn: '1 / -1' }}>
                  {item.operation.kind !== 'delete' && item.operation.kind !== 'restore' && (
                    <Button variant="outlined" size="small" onClick={() => repair(item.seq)}>
                      {t('outbox.mend')}
                    </Button>
                  )}
                  <GiveUp
                    isNew={item.operation.kind === 'add' || item.operation.kind === 'visit'}
                    onDo={() => void giveUp(item.seq, layers?.get(item.operation.layer))}
                  />
                </Box>
              )}
            </Row>
          ))}
          {list && list.all > (items?.length ?? 0) && (
            <Box component="li" sx={{ py: 2.5, color: 'text.secondary' }}>
              {t('outbox.more', { n: list.all - (items?.length ?? 0) })}
            </Box>
          )}
          {alone.map((p) => (
            <Row
              key={p.id}
              name={t('outbox.photo', { name: p.name })}
              bad={p.state === 'refused'}
              under={p.reason ?? t('outbox.bytes', { sent: Math.round((100 * p.sent) / p.bytes) })}
              state={
                p.state === 'refused'
                  ? t('outbox.refused')
                  : sync.phase === 'sending'
                    ? t('outbox.sending')
                    : t('outbox.waiting')
              }>
              {p.state === 'refused' && (
                <Button variant="outlined" size="small" onClick={() => db.photos.delete(p.id)}>
                  {t('outbox.drop')}
                </Button>
              )}
            </Row>
          ))}
        </Box>
      </Box>
      <Box
        sx={{
          p: 3.5,
          display: 'grid',
          gap: 2.5,
          borderTop: '1px solid',
          borderColor: 'divider',
          flex: 'none',
        }}>
        <Typography variant="body2" color="text.secondary" sx={{ textAlign: 'center' }}>
          {t('outbox.promise')}
        </Typography>
        <Button
          size="large"
          disabled={sync.phase === 'sending'}
          onClick={() => void syncNow()}
          sx={{ minHeight: 56 }}>
          {t('outbox.send')}
        </Button>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2.5 }}>
          <Button
            size="large"
            variant="outlined"
            color="inherit"
            disabled={empty && begun === 0}
            onClick={rescue}>
            {t('outbox.rescue')}
          </Button>
          <Button size="large" variant="outlined" color="inherit" component="label">
            {t('outbox.rescue.in')}
            <input
              type="file"
              hidden
              accept="application/json,.json"
              aria-label={t('outbox.rescue.in')}
              onChange={(e) => {
                const file = e.target.files?.[0]
                e.target.value = ''
                if (file) void bringIn(file)
              }}
            />
          </Button>
        </Box>
      </Box>
    </>
  )
}

/** Of a new record nothing would be left anywhere, so that is asked twice. */
function GiveUp({ isNew, onDo }: { isNew: boolean; onDo: () => void }) {
  const [sure, setSure] = useState(!isNew)
  const [asked, setAsked] = useState(false)
  return (
    <Button
      variant="outlined"
      color={asked ? 'error' : 'inherit'}
      size="small"
      onClick={() => {
        if (sure) return onDo()
        setSure(true)
        setAsked(true)
      }}>
      {t(asked ? 'outbox.giveup.sure' : 'outbox.giveup')}
    </Button>
  )
}

function Row({
  name,
  under,
  state,
  bad,
  children,
}: {
  name: string
  under: string
  state: string
  bad: boolean
  children?: React.ReactNode
}) {
  return (
    <Box
      component="li"
      sx={{
        borderBottom: '1px solid',
        borderColor: 'divider',
        py: 2.5,
        display: 'grid',
        gridTemplateColumns: '1fr auto',
        gap: 1,
      }}>
      <b>{name}</b>
      <Box sx={{ fontWeight: 650, color: bad ? 'error.main' : 'text.secondary' }}>{state}</Box>
      <Box sx={{ fontSize: '0.92rem', color: 'text.secondary' }}>{under}</Box>
      {children}
    </Box>
  )
}
