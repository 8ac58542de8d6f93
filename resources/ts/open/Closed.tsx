import Box from '@mui/material/Box'
import { Empty } from '../shared/parts/Sheet'
import { t } from '../shared/texts'
import { FormPage } from './FormPage'

/** A link that leads nowhere, or no longer. */
export function Closed() {
  return (
    <Box component="main" sx={{ minHeight: '100%', display: 'grid', placeItems: 'center', p: 4 }}>
      <Empty title={t('open.closed')}>{t('open.closed.text')}</Empty>
    </Box>
  )
}

/** Where a map, a board or a gate was. */
export function ClosedThing() {
  return (
    <FormPage>
      <Closed />
    </FormPage>
  )
}
