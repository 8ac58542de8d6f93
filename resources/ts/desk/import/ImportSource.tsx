import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, formatNumber, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import type { Import } from './import'

/** Which files records came from, and who brought them in when. */
export function ImportSource({ found }: { found: Import }) {
  const programme = useProgramme()
  return (
    <Sheet title={t('bring.source')}>
      <Box component="ul" sx={{ m: 0, pl: 4 }}>
        {found.files.slice(0, 6).map((f) => (
          <li key={f.name} style={{ overflowWrap: 'anywhere' }}>
            {t('bring.source.file', {
              name: f.name,
              kb: formatNumber(Math.ceil(f.bytes / 1024)),
              hash: f.sha256?.slice(0, 16) ?? '–',
            })}
          </li>
        ))}
      </Box>
      <Typography color="text.secondary" sx={{ mt: 1 }}>
        {t('bring.by', { by: found.by ?? '–', at: formatInstant(found.at, programme.time_zone) })}
      </Typography>
    </Sheet>
  )
}
