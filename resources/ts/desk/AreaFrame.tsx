import Box from '@mui/material/Box'
import { t } from '../shared/texts'

/** Says that what the map shows is the area. */
export function AreaFrame() {
  return (
    <>
      <Box aria-hidden sx={{ position: 'absolute', inset: 18, border: '2.5px dashed #C8420E', borderRadius: 1.5, pointerEvents: 'none' }} />
      <Box sx={{ position: 'absolute', left: '50%', top: 30, transform: 'translateX(-50%)', bgcolor: '#FFFCF5', border: '1px solid #D8CFBC', borderRadius: 1.5, px: 3, py: 1, fontWeight: 600, pointerEvents: 'none', whiteSpace: 'nowrap' }}>
        {t('programme.area.frame')}
      </Box>
    </>
  )
}
