import Box from '@mui/material/Box'
import { Empty } from '../shared/parts/Sheet'
import { t } from '../shared/texts'

/** A link that leads nowhere, or no longer. */
export function Closed() {
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Empty title={t('open.closed')}>{t('open.closed.text')}</Empty>
    </Box>
  )
}
