import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import { formatInstant, t } from '../../shared/texts'
import type { Api, RecordRow } from '../../shared/types'
import { UndoButton } from './UndoNotices'

/** What can be accepted at once: the records that are ticked, or all that wait. */
export function AcceptBar({
  ticked,
  waiting,
  busy,
  onTicked,
  onAll,
}: {
  ticked: number
  /** How many the list shows of those that wait; null where it shows others, too. */
  waiting: number | null
  busy: boolean
  onTicked: () => void
  onAll: () => void
}) {
  if (ticked === 0 && waiting === null) return null
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
      {ticked > 0 ? (
        <Button disabled={busy} onClick={onTicked}>
          {t('accept.ticked', { n: ticked })}
        </Button>
      ) : (
        waiting !== null &&
        waiting > 0 && (
          <Button variant="outlined" disabled={busy} onClick={onAll}>
            {t('accept.all', { n: waiting })}
          </Button>
        )
      )}
      <Typography variant="body2" color="text.secondary">
        {t(waiting === 0 && ticked === 0 ? 'accept.none' : 'accept.hint')}
      </Typography>
    </Box>
  )
}

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
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
      <Typography variant="body2" sx={accepted ? { color: 'text.secondary' } : { fontWeight: 650 }}>
        {accepted
          ? t('accept.by', { by: accepted.by ?? 'nobody', at: formatInstant(accepted.at, zone) })
          : t('accept.waits')}
      </Typography>
      {mayAccept &&
        (accepted ? (
          <Button size="small" variant="outlined" disabled={busy} onClick={onTakeBack}>
            {t('accept.back')}
          </Button>
        ) : (
          <Button size="small" disabled={busy} onClick={onAccept}>
            {t('accept.one')}
          </Button>
        ))}
    </Box>
  )
}

/** What was accepted, and for a while the way back. */
export function AcceptNotice({
  done,
  onUndo,
  onClose,
}: {
  done: Api['Acceptance'] | null
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
      action={done?.at && done.done > 0 ? <UndoButton onClick={onUndo} /> : undefined}
    />
  )
}
