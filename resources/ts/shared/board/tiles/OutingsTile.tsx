import Box from '@mui/material/Box'
import { OutingBar } from '../../parts/OutingBar'
import { formatDate, t } from '../../texts'
import type { Outing } from '../../outing'
import { type TileProps } from './shared'

/** How far outings have come. */
export function OutingsTile({ tile }: TileProps<'outings'>) {
  const { outings } = tile.answer
  if (outings.length === 0) return <Box sx={{ color: 'text.secondary', mt: 2 }}>{t('outings.tile.none')}</Box>
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 1, p: 0, display: 'grid', gap: 3 }}>
      {outings.map((o, i) => (
        <Box component="li" key={i}>
          <Box sx={{ fontWeight: 650 }}>{o.title}</Box>
          <Box sx={{ color: 'text.secondary', fontSize: '0.84rem', mb: 0.5 }}>
            {[o.crew_name, `${formatDate(o.from)} – ${formatDate(o.to)}`].filter(Boolean).join(' · ')}
          </Box>
          <OutingBar outing={o as unknown as Outing} />
        </Box>
      ))}
    </Box>
  )
}
