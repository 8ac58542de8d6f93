import Add from '@mui/icons-material/Add'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { paint } from '../../shared/paint'
import { ApiError, sentences } from '../../shared/api'
import { TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Api, Choice, Problem } from '../../shared/types'
import { ChoiceList } from './ChoiceList'
import { withCodes } from './design'
import { keys } from '../queries/keys'
import { deleteList, listsOf, makeList, reviewList, saveList } from '../queries/layers'

export type SharedList = Api['SharedList']
type Missed = Api['MissedChoice']

export const useLists = (programme: number) => useQuery(listsOf(programme))

/** The choice lists that several fields share: changed in one place, for all of them. */
export function SharedLists({ programme }: { programme: number }) {
  const lists = useLists(programme)
  const [open, setOpen] = useState<SharedList | 'new' | null>(null)
  return (
    <Box component="section" aria-label={t('lists.title')} sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'end', gap: 3 }}>
        <Box>
          <Typography variant="h2">{t('lists.title')}</Typography>
          <Typography variant="body2" color="text.secondary">
            {t('lists.lead')}
          </Typography>
        </Box>
        <Button variant="outlined" startIcon={<Add />} onClick={() => setOpen('new')}>
          {t('lists.new')}
        </Button>
      </Box>
      <Problems error={lists.error} />
      {lists.data?.map((list) => (
        <Paper key={list.id} variant="outlined" sx={{ p: 3, display: 'flex', gap: 3, alignItems: 'center' }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <b>{list.title}</b>
            <Typography variant="body2" color="text.secondary" noWrap>
              {list.choices
                .filter((c) => !c.retired)
                .map((c) => c.label)
                .join(', ')}
            </Typography>
            {list.used_by.length > 0 && (
              <Typography variant="body2" color="text.secondary">
                {t('lists.used', { fields: list.used_by.map((u) => `${u.title}: ${u.label}`).join(', ') })}
              </Typography>
            )}
          </Box>
          <Pill>{t('design.choices', { n: list.choices.length })}</Pill>
          <Button size="small" variant="outlined" onClick={() => setOpen(list)}>
            {t('lists.edit')}
          </Button>
        </Paper>
      ))}
      {open && (
        <ListDialog programme={programme} list={open === 'new' ? null : open} onClose={() => setOpen(null)} />
      )}
    </Box>
  )
}

/** One shared list: its choices, and what becomes of records whose choice leaves it. */
export function ListDialog({
  programme,
  list,
  onClose,
  onMade,
}: {
  programme: number
  list: SharedList | null
  onClose: () => void
  onMade?: (list: SharedList) => void
}) {
  const client = useQueryClient()
  const [title, setTitle] = useState(list?.title ?? '')
  const [choices, setChoices] = useState<Choice[]>(list?.choices ?? [{ code: '', label: '' }])
  const [missed, setMissed] = useState<Missed[]>([])
  const [moves, setMoves] = useState<Record<string, string>>({})
  const [problems, setProblems] = useState<Problem[]>([])
  const [said, setSaid] = useState<string[]>([])
  const body = { title, choices: withCodes(choices) }
  const failed = (e: unknown) => {
    setProblems(e instanceof ApiError ? e.problems : [])
    setSaid([...new Set(sentences(e))])
  }
  const done = async (saved: SharedList | null) => {
    for (const kind of ['lists', 'layers', 'ready', 'designSheet'] as const)
      await client.invalidateQueries({ queryKey: keys[kind](programme) })
    await client.invalidateQueries({ queryKey: keys.everyLayer })
    if (saved) onMade?.(saved)
    onClose()
  }
  const save = async () => {
    try {
      if (!list) return await done(await makeList(programme, body))
      const { missed: gone } = await reviewList(list.id, body)
      const open = gone.filter((m) => !moves[m.code])
      setMissed(gone)
      if (open.length === 0) await done(await saveList(list.id, { ...body, base: list.version, moves }))
    } catch (e) {
      failed(e)
    }
  }
  const retire = (code: string) => {
    const gone = list?.choices.find((c) => c.code === code)
    if (gone) setChoices([...choices, { ...gone, retired: true }])
    setMissed(missed.filter((m) => m.code !== code))
  }
  const remove = async () => {
    if (!list) return
    try {
      await deleteList(list.id)
      await done(null)
    } catch (e) {
      failed(e)
    }
  }
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="list-title">
      <DialogTitle id="list-title">{list ? list.title : t('lists.new')}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 3 }}>
        {said.length > 0 && (
          <Box role="alert" sx={{ color: 'error.main' }}>
            {said.map((line) => (
              <div key={line}>{line}</div>
            ))}
          </Box>
        )}
        <TextInput
          label={t('lists.name')}
          value={title}
          onChange={setTitle}
          needed
          autoFocus={!list}
          inputProps={{ maxLength: 120 }}
        />
        <ChoiceList
          choices={choices}
          onChange={(next) => {
            setChoices(next)
            setProblems([])
            setSaid([])
          }}
          problems={problems}
          locked={(list?.used_by.length ?? 0) > 0}
        />
        {missed.map((m) => (
          <Box
            key={m.code}
            sx={{ bgcolor: paint.buoyWash, p: 2.5, borderRadius: 1.5, display: 'grid', gap: 1.5 }}>
            <span>{t('lists.missed', { label: m.label, count: m.count, layers: m.layers.join(', ') })}</span>
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
              <NativeSelect
                input={<OutlinedInput size="small" />}
                value={moves[m.code] ?? ''}
                inputProps={{ 'aria-label': t('review.move') }}
                onChange={(e) => setMoves({ ...moves, [m.code]: e.target.value })}>
                <option value="">{t('lists.move')}</option>
                {body.choices
                  .filter((c) => !c.retired && c.code)
                  .map((c) => (
                    <option key={c.code} value={c.code}>
                      {c.label}
                    </option>
                  ))}
              </NativeSelect>
              <Button size="small" variant="outlined" onClick={() => retire(m.code)}>
                {t('review.retire')}
              </Button>
            </Box>
          </Box>
        ))}
        {list && list.used_by.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('lists.versions', { n: new Set(list.used_by.map((u) => u.layer)).size })}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        {list && (
          <Button color="error" variant="outlined" onClick={() => void remove()} sx={{ mr: 'auto' }}>
            {t('lists.remove')}
          </Button>
        )}
        <Button variant="outlined" onClick={onClose}>
          {t('check.cancel')}
        </Button>
        <Button
          onClick={() => void save()}
          disabled={
            title.trim() === '' ||
            missed.some((m) => !moves[m.code] && !body.choices.some((c) => c.code === m.code))
          }>
          {t('save')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** Where a field takes its choices from: its own, or a list that it shares with others. */
export function ListOfField({
  programme,
  list,
  choices,
  onChange,
}: {
  programme: number
  list: number | undefined
  choices: Choice[]
  onChange: (change: { list?: number | undefined; choices?: Choice[] }) => void
}) {
  const lists = useLists(programme)
  const [sharing, setSharing] = useState(false)
  const found = lists.data?.find((l) => l.id === list)
  const own = withCodes(choices)
  if (!list && !lists.data?.length && own.length < 2) return null
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
      {Boolean(lists.data?.length) && (
        <NativeSelect
          input={<OutlinedInput size="small" />}
          value={list ?? ''}
          inputProps={{ 'aria-label': t('lists.from') }}
          onChange={(e) => {
            const next = lists.data?.find((l) => l.id === Number(e.target.value))
            onChange(next ? { list: next.id, choices: next.choices } : { list: undefined })
          }}>
          <option value="">{t('lists.own')}</option>
          {lists.data?.map((l) => (
            <option key={l.id} value={l.id}>
              {t('lists.shared', { list: l.title })}
            </option>
          ))}
        </NativeSelect>
      )}
      {!list && own.length > 1 && (
        <Button size="small" variant="outlined" onClick={() => setSharing(true)}>
          {t('lists.share')}
        </Button>
      )}
      {found && (
        <Typography variant="body2" color="text.secondary">
          {t('lists.note', { list: found.title })}
        </Typography>
      )}
      {sharing && (
        <ShareDialog
          programme={programme}
          choices={own}
          onClose={() => setSharing(false)}
          onMade={(made) => onChange({ list: made.id, choices: made.choices })}
        />
      )}
    </Box>
  )
}

/** Makes a shared list of a field's own choices. */
function ShareDialog({
  programme,
  choices,
  onClose,
  onMade,
}: {
  programme: number
  choices: Choice[]
  onClose: () => void
  onMade: (list: SharedList) => void
}) {
  const client = useQueryClient()
  const [title, setTitle] = useState('')
  const [said, setSaid] = useState<string[]>([])
  const make = async () => {
    try {
      onMade(await makeList(programme, { title, choices }))
      await client.invalidateQueries({ queryKey: keys.lists(programme) })
      onClose()
    } catch (e) {
      setSaid(sentences(e))
    }
  }
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="share-title">
      <DialogTitle id="share-title">{t('lists.share')}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        {said.length > 0 && (
          <Box role="alert" sx={{ color: 'error.main' }}>
            {said.map((line) => (
              <div key={line}>{line}</div>
            ))}
          </Box>
        )}
        <TextInput
          label={t('lists.name')}
          value={title}
          onChange={setTitle}
          needed
          autoFocus
          inputProps={{ maxLength: 120 }}
        />
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {t('check.cancel')}
        </Button>
        <Button onClick={() => void make()} disabled={title.trim() === ''}>
          {t('lists.share.do')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
