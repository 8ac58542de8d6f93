import Box from '@mui/material/Box'
import { paint } from '../paint'
import { t } from '../texts'
import type { Outing } from '../outing'

const COLOUR = { ahead: paint.kelp, on: paint.kelp, done: paint.kelp, behind: paint.buoy, open: paint.tide }

/** How much of an outing's target is reached, with a stroke where it should be by now. */
export function OutingBar({ outing }: { outing: Outing }) {
  const { done, wanted, due, state } = outing.progress
  const share = wanted ? Math.min(1, done / wanted) : 0
  const words =
    wanted === null ? t('outings.progress.open', { n: done }) : t('outings.progress', { done, wanted })
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box
        sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, fontVariantNumeric: 'tabular-nums' }}>
        <b>{words}</b>
        <span>{t(`outings.state.${state}`)}</span>
      </Box>
      {wanted !== null && (
        <Box
          role="meter"
          aria-label={outing.title}
          aria-valuemin={0}
          aria-valuemax={wanted}
          aria-valuenow={Math.min(done, wanted)}
          aria-valuetext={`${words}, ${t('outings.due', { share: Math.round(due * 100) })}`}
          title={t('outings.due', { share: Math.round(due * 100) })}
          sx={{ position: 'relative', height: 12, borderRadius: 1, bgcolor: paint.sand }}>
          <Box
            sx={{
              position: 'absolute',
              inset: 0,
              right: `${100 - share * 100}%`,
              borderRadius: 1,
              bgcolor: COLOUR[state],
            }}
          />
          {due > 0 && due < 1 && (
            <Box
              sx={{
                position: 'absolute',
                top: -3,
                bottom: -3,
                left: `${due * 100}%`,
                width: 3,
                ml: '-1.5px',
                bgcolor: paint.ink,
              }}
            />
          )}
        </Box>
      )}
    </Box>
  )
}
