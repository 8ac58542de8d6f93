import Box from '@mui/material/Box'
import LinearProgress from '@mui/material/LinearProgress'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Sheet } from '../../shared/parts/Sheet'
import { formatNumber, t } from '../../shared/texts'
import { storageOf } from '../queries/programmes'

const size = (bytes: number) =>
  bytes >= 1e9
    ? `${formatNumber(Math.round(bytes / 1e8) / 10)} GB`
    : `${formatNumber(Math.ceil(bytes / 1e6))} MB`

/** How much disk the programme takes, and may take. */
export function Storage({ programme }: { programme: number }) {
  const usage = useQuery(storageOf(programme))
  if (!usage.data) return null
  const { files, brought, taken_out: out, used, quota } = usage.data
  return (
    <Sheet title={t('storage.title')} tone={used > 0.9 * quota ? 'warn' : 'plain'}>
      <Typography>{t('storage.used', { used: size(used), quota: size(quota) })}</Typography>
      <LinearProgress
        variant="determinate"
        value={Math.min(100, (100 * used) / quota)}
        aria-label={t('storage.title')}
        sx={{ height: 8, borderRadius: 1, my: 1.5 }}
      />
      <Box component="ul" sx={{ m: 0, pl: 4, color: 'text.secondary' }}>
        <li>{t('storage.files', { size: size(files) })}</li>
        <li>{t('storage.brought', { size: size(brought) })}</li>
        <li>{t('storage.out', { size: size(out) })}</li>
      </Box>
    </Sheet>
  )
}
