import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { Link } from 'react-router'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'

/** What waits for a person: something to decide, answers to what was asked back. */
export function CheckNotices() {
  const programme = useProgramme()
  return (
    // Side by side where there is room: the list below has the height.
    <Box
      sx={{
        display: 'flex',
        gap: 3,
        flexWrap: 'wrap',
        '& > *': { flex: '1 1 300px' },
        '&:empty': { display: 'none' },
      }}>
      {(programme.stages.check.disputes ?? 0) > 0 && (
        <Sheet
          tone="warn"
          sx={{
            py: 2.5,
            display: 'flex',
            justifyContent: 'space-between',
            alignItems: 'center',
            gap: 3,
          }}>
          <span>{t('decide.waiting', { n: programme.stages.check.disputes ?? 0 })}</span>
          <Button component={Link} to={`/desk/p/${programme.id}/check/decide`} size="small">
            {t('decide.go')}
          </Button>
        </Sheet>
      )}
      {(programme.stages.check.answers ?? 0) + (programme.stages.check.asked ?? 0) > 0 && (
        <Sheet
          sx={{
            py: 2.5,
            display: 'flex',
            justifyContent: 'space-between',
            alignItems: 'center',
            gap: 3,
          }}>
          <span>
            {(programme.stages.check.answers ?? 0) > 0
              ? t('asked.back', { n: programme.stages.check.answers ?? 0 })
              : t('asked.open', { n: programme.stages.check.asked ?? 0 })}
          </span>
          <Button component={Link} to={`/desk/p/${programme.id}/check/asked`} size="small" variant="outlined">
            {t('asked.see')}
          </Button>
        </Sheet>
      )}
    </Box>
  )
}
