import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { Api, Layer } from '../../shared/types'
import { FlagRulesDialog } from './FlagRulesDialog'
import type { Reason } from './narrowing'

/** For which reasons records are flagged, how many for each, and what they are flagged for. */
export function FlagReasons({
  layer,
  flagged,
  reason,
  onReason,
  onSaid,
}: {
  layer: Layer
  flagged: Api['Flagged'] | undefined
  reason: Reason
  onReason: (reason: Reason) => void
  /** They are flagged by other rules now. */
  onSaid: () => void
}) {
  const [saying, setSaying] = useState(false)
  const kinds = flagged?.kinds ?? []
  // One that was chosen stays to be unchosen, also when its last record is accepted.
  const gone: Api['FlagCount'][] =
    reason === 'any' || kinds.some((k) => k.kind === reason) ? [] : [{ kind: reason, n: 0 }]
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
      {(kinds.length > 1 || reason !== 'any') && (
        <Segments<Reason>
          label={t('flag.reasons')}
          value={reason}
          options={[
            { value: 'any', label: t('flag.any') },
            ...[...kinds, ...gone].map((k) => ({
              value: k.kind,
              label: t('flag.one', { kind: t(`flag.${k.kind}`), n: k.n }),
            })),
          ]}
          onChange={onReason}
        />
      )}
      <Button size="small" variant="text" onClick={() => setSaying(true)}>
        {t('flag.open')}
      </Button>
      {(flagged?.all ?? 0) > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ flex: '1 1 260px' }}>
          {t('flag.hint')}
        </Typography>
      )}
      {saying && (
        <FlagRulesDialog
          layer={layer}
          onClose={() => setSaying(false)}
          onSaid={() => {
            setSaying(false)
            onSaid()
          }}
        />
      )}
    </Box>
  )
}
