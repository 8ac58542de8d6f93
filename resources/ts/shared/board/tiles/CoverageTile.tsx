import Box from '@mui/material/Box'
import { paint } from '../../paint'
import { formatDate, t } from '../../texts'
import { Nothing, type TileProps } from './shared'

const percent = (share: number) => `${Math.round(share * 100)} %`

/** Which share of each area or line was walked, the least first. */
export function CoverageTile({ tile }: TileProps<'coverage'>) {
  const { share, rows, more, metres, from, to, n } = tile.answer
  if (share === null) return <Nothing />
  return (
    <>
      <Box sx={{ mt: 1, fontSize: '2rem', fontWeight: 800, lineHeight: 1.1 }}>{percent(share)}</Box>
      <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
        {t('coverage.of', { metres, from: formatDate(from), to: formatDate(to) })}
      </Box>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 2, p: 0, display: 'grid', gap: 1.5 }}>
        {rows.map((row) => (
          <Box component="li" key={row.id}>
            <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontSize: '0.92rem' }}>
              <Box component="span" sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
                {row.name ?? t('record.unnamed')}
              </Box>
              <b>{percent(row.share)}</b>
            </Box>
            <Box aria-hidden sx={{ height: 8, borderRadius: 1, bgcolor: paint.rowLine, overflow: 'hidden' }}>
              <Box sx={{ height: '100%', width: `${row.share * 100}%`, bgcolor: paint.kelp }} />
            </Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ color: 'text.secondary', fontSize: '0.82rem', mt: 'auto', pt: 1.5 }}>
        {t('coverage.n', { n, more })}
      </Box>
    </>
  )
}
