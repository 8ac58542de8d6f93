import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import type { ReactNode } from 'react'
import { Segments } from '../../shared/parts/Segments'
import { formatInstant, t } from '../../shared/texts'
import type { Api, RecordRow } from '../../shared/types'
import type { Narrowing } from './narrowing'
import { UndoButton } from './UndoNotices'

type List = Narrowing['list']

/** Which records are listed, and what of them can be accepted at once: those that are ticked, or all that are listed. */
export function AcceptBar({
  ticked,
  toCheck,
  flagged,
  list,
  total,
  busy,
  onList,
  onTicked,
  onAll,
  children,
}: {
  ticked: number
  /** How many records of the layer wait. */
  toCheck: number
  /** Against how many of those something speaks. */
  flagged: number
  list: List
  /** How many are listed. */
  total: number
  busy: boolean
  onList: (list: List) => void
  onTicked: () => void
  onAll: () => void
  /** What else the list is narrowed by. */
  children?: ReactNode
}) {
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
      <Segments<List>
        label={t('accept.list')}
        value={list}
        options={[
          { value: 'all', label: t('accept.list.all') },
          { value: 'waiting', label: t('accept.list.waiting', { n: toCheck }) },
          { value: 'flagged', label: t('flag.list', { n: flagged }) },
        ]}
        onChange={onList}
      />
      {children}
      {ticked > 0 ? (
        <Button size="small" disabled={busy} onClick={onTicked}>
          {t('accept.ticked', { n: ticked })}
        </Button>
      ) : (
        list !== 'all' &&
        total > 0 && (
          <Button size="small" variant="outlined" disabled={busy} onClick={onAll}>
            {t('accept.all', { n: total })}
          </Button>
        )
      )}
    </Box>
  )
}

/** What the list is of, or why there is nothing in it. */
export function AcceptHint({ list, total, narrowed }: { list: List; total: number; narrowed: boolean }) {
  const text = total > 0 ? HINTS[list] : narrowed ? 'came.none' : NONE[list]
  return (
    text && (
      <Typography variant="body2" color="text.secondary">
        {t(text)}
      </Typography>
    )
  )
}

// Beside the reasons stands what flags are.
const HINTS = { all: null, waiting: 'accept.hint', flagged: null } as const
const NONE = { all: null, waiting: 'accept.none', flagged: 'flag.none' } as const

/** Whether a record has been accepted as it is, and by whom. */
export function AcceptLine({
  record,
  zone,
  mayAccept,
  busy,
  onAccept,
  onTakeBack,
}: {
  record: RecordRow
  zone: string
  mayAccept: boolean
  busy: boolean
  onAccept: () => void
  onTakeBack: () => void
}) {
  const accepted = record.accepted
  if (accepted)
    return (
      <Typography variant="body2" color="text.secondary">
        {t('accept.by', { by: accepted.by ?? 'nobody', at: formatInstant(accepted.at, zone) })}
        {mayAccept && (
          <>
            {' · '}
            <Link component="button" type="button" variant="body2" disabled={busy} onClick={onTakeBack}>
              {t('accept.back')}
            </Link>
          </>
        )}
      </Typography>
    )
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {t('accept.waits')}
      </Typography>
      {mayAccept && (
        <Button size="small" disabled={busy} onClick={onAccept}>
          {t('accept.one')}
        </Button>
      )}
    </Box>
  )
}

/** What was accepted, and for a while the way back. */
export function AcceptNotice({
  done,
  busy,
  onUndo,
  onClose,
}: {
  done: Api['Acceptance'] | null
  busy: boolean
  onUndo: () => void
  onClose: () => void
}) {
  return (
    <Snackbar
      open={done !== null}
      autoHideDuration={30_000}
      onClose={(_, why) => {
        if (why === 'timeout') onClose()
      }}
      message={
        done ? t(done.at ? 'accept.done' : 'accept.undone', { n: done.done, changed: done.changed }) : ''
      }
      action={done?.at && done.done > 0 ? <UndoButton disabled={busy} onClick={onUndo} /> : undefined}
    />
  )
}
