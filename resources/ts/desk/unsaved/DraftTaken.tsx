import Alert from '@mui/material/Alert'
import Button from '@mui/material/Button'
import { formatInstant, t } from '../../shared/texts'

/** That something was taken up from where it was left, and the way to be rid of it. */
export function DraftTaken({
  at,
  zone,
  onDrop,
  onKnown,
}: {
  at: string
  zone: string
  onDrop: () => void
  onKnown: () => void
}) {
  return (
    <Alert
      severity="info"
      variant="outlined"
      onClose={onKnown}
      action={
        <Button size="small" variant="outlined" onClick={onDrop}>
          {t('draft.drop')}
        </Button>
      }>
      {t('draft.taken', { at: formatInstant(at, zone) })}
    </Alert>
  )
}
