import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { formatInstant, t } from '../../shared/texts'
import { isLate, type Conflict } from './conflict'

/** What a phone brought that today's design or rights would not take, and why. */
export function HeldChange({ d, zone }: { d: Conflict; zone: string }) {
  return (
    <Box sx={{ p: 4, display: 'grid', gap: 3 }}>
      <Typography>
        {t(`decide.does.${d.does}`, { by: d.by ?? '', at: formatInstant(d.captured_at, zone) })}.{' '}
        {isLate(d) && t('decide.late', { at: formatInstant(d.received_at, zone) })}
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 5, '& li': { color: 'secondary.dark', fontWeight: 600 } }}>
        {d.reasons.map((r) => (
          <li key={`${r.code}${r.field}`}>{r.message}</li>
        ))}
      </Box>
      {d.values.length > 0 && (
        <Box
          component="dl"
          sx={{
            display: 'grid',
            gridTemplateColumns: 'auto 1fr',
            gap: 1.5,
            columnGap: 4,
            m: 0,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0 },
          }}>
          {d.values.map((v) => (
            <Box key={v.key} sx={{ display: 'contents' }}>
              <dt>{v.label}</dt>
              <dd>
                {v.was !== null && v.was !== v.value && (
                  <>
                    <s>{v.was}</s>{' '}
                  </>
                )}
                <b>{v.value ?? '–'}</b>
              </dd>
            </Box>
          ))}
        </Box>
      )}
      <Typography variant="body2" color="text.secondary">
        {t('decide.held.note')}
      </Typography>
    </Box>
  )
}
