import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { paint } from '../paint'
import { t } from '../texts'
import type { Api } from '../types'

/** What sizes mean: a few circles or lines to read others by, as large as they are on the map. */
export function SizeLegend({ sizes, line = false }: { sizes: Api['SizeLegend']; line?: boolean }) {
  return (
    <Box component="section" aria-label={t(line ? 'legend.widths' : 'legend.sizes', { by: sizes.by })}>
      <Typography variant="body2" color="text.secondary">
        {t(line ? 'legend.widths' : 'legend.sizes', { by: sizes.by })}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', gap: 3, alignItems: 'end' }}>
        {sizes.marks.map((mark) => (
          <Box
            component="li"
            key={mark.text}
            sx={{ display: 'grid', justifyItems: 'center', gap: 0.5, fontSize: '0.82rem' }}>
            {line ? (
              <Box
                sx={{ width: 36, height: Math.max(1, mark.pixels), bgcolor: 'text.secondary' }}
                aria-hidden
              />
            ) : (
              <Box
                aria-hidden
                sx={{
                  width: Math.max(5, mark.pixels),
                  height: Math.max(5, mark.pixels),
                  borderRadius: '50%',
                  border: `1.5px solid ${paint.ink}`,
                }}
              />
            )}
            {mark.text}
          </Box>
        ))}
      </Box>
      {sizes.missing > 0 && (
        <Typography variant="body2" color="text.secondary">
          {t(line ? 'legend.unwide' : 'legend.unsized', { n: sizes.missing })}
        </Typography>
      )}
    </Box>
  )
}
