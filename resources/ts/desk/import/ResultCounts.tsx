import Box from '@mui/material/Box'
import { Pill } from '../../shared/parts/Pill'
import { formatNumber, t } from '../../shared/texts'
import type { Counts } from './import'

const CORRECTIONS = ['swapped', 'sign', 'matched', 'outside', 'emptied'] as const

/** How many rows were read, how many landed, and what was put right in them. */
export function ResultCounts({ counts }: { counts: Partial<Counts> }) {
  return (
    <Box role="status" sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
      <Pill>{t('bring.read', { n: formatNumber(counts.read ?? 0) })}</Pill>
      <Pill tone="well">{t('bring.placed', { n: formatNumber(counts.made ?? 0) })}</Pill>
      {Boolean(counts.changed) && (
        <Pill tone="info">{t('bring.changes.changed', { n: counts.changed ?? 0 })}</Pill>
      )}
      {Boolean(counts.unchanged) && <Pill>{t('bring.changes.same', { n: counts.unchanged ?? 0 })}</Pill>}
      {Boolean(counts.waiting) && (
        <Pill tone="soft">{t('bring.wait', { n: formatNumber(counts.waiting ?? 0) })}</Pill>
      )}
      {CORRECTIONS.filter((k) => (counts[k] ?? 0) > 0).map((k) => (
        <Pill key={k} tone="info">
          {t(`bring.corrected.${k}`, { n: counts[k] ?? 0 })}
        </Pill>
      ))}
    </Box>
  )
}
