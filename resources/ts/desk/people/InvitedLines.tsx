import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { Pill } from '../../shared/parts/Pill'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'

const TONES = { invited: 'well', added: 'well', there: 'plain', refused: 'warn' } as const

/** What became of each line of a pasted list; who was left out first. */
export function InvitedLines({ lines }: { lines: Api['InvitedLine'][] }) {
  const left = lines.filter((l) => l.outcome === 'refused')
  const done = lines.filter((l) => l.outcome !== 'refused')
  return (
    <Box role="status" sx={{ display: 'grid', gap: 2 }}>
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {t('people.several.done', { n: done.length, left: left.length })}
      </Typography>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 1.5 }}>
        {[...left, ...done].map((l) => (
          <Box
            component="li"
            key={l.line}
            sx={{ display: 'flex', gap: 2, alignItems: 'baseline', minWidth: 0 }}>
            <Pill tone={TONES[l.outcome]}>{t(`people.line.${l.outcome}`)}</Pill>
            <Box sx={{ minWidth: 0, overflowWrap: 'anywhere', fontSize: '0.9rem' }}>
              {l.outcome === 'refused' ? (
                <>
                  {t('people.line', { line: l.line, text: l.text })}
                  <Box component="span" sx={{ display: 'block', color: 'text.secondary' }}>
                    {l.problem}
                  </Box>
                </>
              ) : (
                <>
                  {l.name}
                  <Box component="span" sx={{ display: 'block', color: 'text.secondary' }}>
                    {l.email}
                  </Box>
                </>
              )}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  )
}
