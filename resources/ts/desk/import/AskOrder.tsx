import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { formatDate, t } from '../../shared/texts'

/** 03/04 is two days; nobody but the person who brings it in knows which. */
export function AskOrder({
  column,
  sample,
  onChoose,
}: {
  column: string
  sample: string
  onChoose: (order: 'dmy' | 'mdy') => void
}) {
  const [a = '', b = '', c = ''] = /^(\d{1,2})\D(\d{1,2})\D(\d{2,4})/.exec(sample)?.slice(1) ?? []
  const year = c.length === 2 ? `20${c}` : c
  const shown = (day: string, month: string) =>
    a && Number(month) <= 12 ? formatDate(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`) : null
  return (
    <Alert severity="warning" variant="outlined" sx={{ alignItems: 'center' }}>
      {t('bring.order.question', { column, sample })}
      <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
        <Button size="small" onClick={() => onChoose('dmy')}>
          {shown(a, b) ?? t('bring.order.dmy')}
        </Button>
        <Button size="small" onClick={() => onChoose('mdy')}>
          {shown(b, a) ?? t('bring.order.mdy')}
        </Button>
      </Box>
    </Alert>
  )
}
