import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { ApiError } from '../../shared/api'
import { t } from '../../shared/texts'
import { isWhole } from './alertOf'
import { alertTrialOf, type Alert } from '../queries/alerts'

/** How it stands now with what an alert is for. */
export function AlertStands({ programme, rule }: { programme: number; rule: Alert['rule'] }) {
  const ready = isWhole(rule)
  const { data, error, isFetching } = useQuery({ ...alertTrialOf(programme, rule), enabled: ready })
  if (!ready) return null
  const said =
    error instanceof ApiError
      ? (error.problems[0]?.message ?? error.message)
      : error
        ? t('failure.failed')
        : null
  return (
    <Box
      aria-live="polite"
      data-testid="alert-stands"
      sx={{ px: 3, py: 2, borderRadius: 1, bgcolor: 'background.default', opacity: isFetching ? 0.6 : 1 }}>
      {said ?? data?.stands ?? '…'}
    </Box>
  )
}
