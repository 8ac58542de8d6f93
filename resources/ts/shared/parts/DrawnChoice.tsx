import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import Typography from '@mui/material/Typography'
import { t, type TextKey } from '../texts'
import type { Peg } from '../types'
import { PegMark } from './PegMark'

type Way = { way: NonNullable<Peg['fill'] | Peg['dash']>; called: TextKey }

const WAYS: Record<'fill' | 'dash', Way[]> = {
  fill: [
    { way: 'tint', called: 'peg.fill.tint' },
    { way: 'full', called: 'peg.fill.full' },
    { way: 'stripes', called: 'peg.fill.stripes' },
    { way: 'dots', called: 'peg.fill.dots' },
    { way: 'grid', called: 'peg.fill.grid' },
    { way: 'none', called: 'peg.fill.none' },
  ],
  dash: [
    { way: 'solid', called: 'peg.dash.solid' },
    { way: 'dashed', called: 'peg.dash.dashed' },
    { way: 'dotted', called: 'peg.dash.dotted' },
  ],
}

/** How an area is filled, or how a line or an outline is drawn. */
export function DrawnChoice({
  of,
  peg,
  onChange,
}: {
  of: 'fill' | 'dash'
  peg: Peg
  onChange: (peg: Peg) => void
}) {
  const now = peg[of] ?? WAYS[of][0]?.way
  return (
    <>
      <Typography variant="h3">{t(`legend.${of}`)}</Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {WAYS[of].map(({ way, called }) => (
          <ButtonBase
            key={way}
            aria-label={t(called)}
            title={t(called)}
            aria-pressed={now === way}
            onClick={() => onChange({ ...peg, [of]: way })}
            sx={{
              width: 40,
              height: 40,
              borderRadius: 1.5,
              border: '2px solid',
              borderColor: now === way ? 'text.primary' : 'transparent',
            }}>
            <PegMark
              head={peg.head}
              colour={peg.colour}
              geometry={of === 'fill' ? 'area' : 'line'}
              plain
              {...{ [of]: way }}
            />
          </ButtonBase>
        ))}
      </Box>
    </>
  )
}
