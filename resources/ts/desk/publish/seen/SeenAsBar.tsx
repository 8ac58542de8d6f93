import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { paint } from '../../../shared/paint'
import { t } from '../../../shared/texts'
import { seeAsOneself, type SeenAs } from './seenAs'

/** Says on every page that it is shown as others get it, and leads back. */
export function SeenAsBar({ as }: { as: SeenAs }) {
  return (
    <Box
      role="status"
      sx={{
        display: 'flex',
        gap: 3,
        alignItems: 'center',
        justifyContent: 'space-between',
        flexWrap: 'wrap',
        px: { xs: 3, md: 5 },
        py: 1.5,
        bgcolor: paint.buoyWash,
        color: paint.buoyDarkest,
        borderBottom: `1px solid ${paint.buoyLine}`,
      }}>
      <span>{t('seen.as.bar', { audience: as.title })}</span>
      <Button
        size="small"
        variant="contained"
        onClick={() => seeAsOneself(`/desk/p/${as.programme}/publish/seen`)}>
        {t('seen.as.back')}
      </Button>
    </Box>
  )
}
