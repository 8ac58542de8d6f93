import Box from '@mui/material/Box'
import { Pill } from '../../shared/parts/Pill'
import { formatNumber, t } from '../../shared/texts'
import type { Review } from './import'

const CORRECTIONS = ['swapped', 'sign', 'matched', 'outside', 'emptied', 'clock'] as const

/** How many rows are ready, how many will wait, and what was put right in them. */
export function ReviewCounts({
  review,
  sampled,
  zone,
}: {
  review: Review | null
  /** Whether only the first rows were tried. */ sampled: boolean
  zone: string
}) {
  return (
    <Box role="status" sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
      {review && (
        <Pill tone="well">{t('bring.ready', { n: formatNumber(review.ready), count: review.ready })}</Pill>
      )}
      {Boolean(review?.waiting) && (
        <Pill tone="soft">
          {t('bring.willwait', { n: formatNumber(review!.waiting), count: review!.waiting })}
        </Pill>
      )}
      {review && sampled && <Pill>{t('bring.sampled', { n: formatNumber(review.tried) })}</Pill>}
      {CORRECTIONS.filter((k) => review && review.corrections[k] > 0).map((k) => (
        <Pill key={k} tone="info">
          {t(`bring.corrected.${k}`, { n: review!.corrections[k] })}
          {sampled && ` ${t('bring.corrected.sampled', { n: formatNumber(review!.tried) })}`}
        </Pill>
      ))}
      <Pill>{zone}</Pill>
    </Box>
  )
}
