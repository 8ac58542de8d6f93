import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Problems } from '../../../shared/parts/Problems'
import { Segments } from '../../../shared/parts/Segments'
import { t } from '../../../shared/texts'
import type { AudienceOf, Work } from '../../queries/audiences'
import { isCrew, titleOf } from './rule'

type Props = {
  what: Work
  audience: AudienceOf
  /** Whether they are told of all now. */
  all: boolean
  onSave: (all: boolean) => Promise<unknown>
}

/** Whether an audience is told of all people at work, or of no more than their own. */
export function WorkPanel({ what, audience, all, onSave }: Props) {
  const [wanted, setWanted] = useState(all)
  const [saving, setSaving] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const save = async () => {
    setSaving(true)
    await onSave(wanted).then(() => setError(null), setError)
    setSaving(false)
  }
  const title = t('seen.panel', { layer: t(`work.${what}`), audience: titleOf(audience) })
  return (
    <Box component="section" aria-label={title} sx={{ display: 'grid', gap: 4 }}>
      <Typography variant="h2">{title}</Typography>
      <Typography variant="body2" color="text.secondary">
        {t(`work.${what}.what`)}
      </Typography>
      <Segments
        label={t('work.told')}
        value={wanted ? 'all' : 'own'}
        options={[
          { value: 'own', label: t(isCrew(audience) ? 'work.own' : 'work.nothing') },
          { value: 'all', label: t('work.all') },
        ]}
        onChange={(v) => setWanted(v === 'all')}
      />
      <Problems error={error} />
      {wanted !== all && (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <Button variant="contained" disabled={saving} onClick={() => void save()}>
            {t('work.save')}
          </Button>
          <Button variant="outlined" disabled={saving} onClick={() => setWanted(all)}>
            {t('seen.undo')}
          </Button>
          <Typography variant="body2" color="text.secondary">
            {t('seen.unsaved')}
          </Typography>
        </Box>
      )}
    </Box>
  )
}
