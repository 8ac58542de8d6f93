import Box from '@mui/material/Box'
import { Pill } from '../../shared/parts/Pill'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Review } from './import'

/** What bringing in would change in records that are there, value by value. */
export function Changes({ update }: { update: NonNullable<Review['update']> }) {
  return (
    <Sheet
      title={t('bring.changes')}
      action={
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Pill tone="info">{t('bring.changes.changed', { n: update.changed })}</Pill>
          <Pill tone="well">{t('bring.changes.added', { n: update.added })}</Pill>
          <Pill>{t('bring.changes.same', { n: update.unchanged })}</Pill>
          {update.unclear > 0 && <Pill tone="warn">{t('bring.changes.unclear', { n: update.unclear })}</Pill>}
        </Box>
      }>
      <Box
        component="ul"
        sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 220, overflow: 'auto', display: 'grid', gap: 1 }}
        tabIndex={0}
        aria-label={t('bring.changes')}>
        {update.shown.map((r) => (
          <li key={r.row}>
            <b>{r.name ?? t('record.unnamed')}</b>{' '}
            {r.values.map((v, i) => (
              <span key={v.label}>
                {i > 0 && '; '}
                {v.label}: <s>{v.before ?? '–'}</s> → <b>{v.after ?? '–'}</b>
              </span>
            ))}
            {r.moved && (
              <span>
                {r.values.length > 0 && '; '}
                {t('history.moved')}
              </span>
            )}
          </li>
        ))}
      </Box>
    </Sheet>
  )
}
