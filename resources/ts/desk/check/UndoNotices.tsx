import Button from '@mui/material/Button'
import Snackbar from '@mui/material/Snackbar'
import { t } from '../../shared/texts'
import type { RecordRow } from '../../shared/types'
import type { Fill } from './FillDialog'

/** What a fill did, and for a while the way back. */
export function FillNotice({
  fill,
  onUndo,
  onClose,
}: {
  fill: Fill | null
  onUndo: () => void
  onClose: () => void
}) {
  return (
    <Snackbar
      open={fill !== null}
      onClose={(_, why) => {
        if (why === 'timeout') onClose()
      }}
      autoHideDuration={30_000}
      message={
        fill
          ? t(fill.state === 'undone' ? 'fill.undone' : 'fill.done', {
              n: fill.changed,
              skipped: fill.skipped,
              kept: fill.kept,
            })
          : ''
      }
      action={fill?.state === 'done' && fill.changed > 0 ? <UndoButton onClick={onUndo} /> : undefined}
    />
  )
}

/** That a record has been deleted, and for a while the way back. */
export function DeletedNotice({
  record,
  onUndo,
  onClose,
}: {
  record: RecordRow | null
  onUndo: () => void
  onClose: () => void
}) {
  return (
    <Snackbar
      open={record !== null}
      autoHideDuration={12_000}
      onClose={(_, why) => {
        if (why === 'timeout') onClose()
      }}
      message={t('check.deleted', { name: record?.name ?? '' })}
      action={<UndoButton onClick={onUndo} />}
    />
  )
}

export const UndoButton = ({ onClick, disabled = false }: { onClick: () => void; disabled?: boolean }) => (
  <Button size="small" color="inherit" variant="outlined" disabled={disabled} onClick={onClick}>
    {t('undo')}
  </Button>
)
