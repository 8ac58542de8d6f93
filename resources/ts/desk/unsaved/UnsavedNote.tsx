import Button from '@mui/material/Button'
import { t } from '../../shared/texts'
import { useUnsaved } from './savers'

/** Work of this person that has not got through, on whatever page it was done. */
export function UnsavedNote() {
  const open = useUnsaved()
  if (open.length === 0) return null
  return (
    <Button
      size="small"
      color="secondary"
      role="status"
      onClick={() => open.forEach((saver) => saver.retry())}
      sx={{ flex: 'none' }}>
      {t('save.elsewhere', { n: open.length })} {t('save.now')}
    </Button>
  )
}
