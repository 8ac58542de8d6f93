import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { ago, t } from '../../shared/texts'
import { db, type Draft, type PackLayer } from '../db'
import { nameOf } from '../name'
import { dropDraft } from '../save'

/**
 * Records that were begun and neither saved nor thrown away, wherever one left them; also those of layers
 * that are no longer here.
 */
export function DraftPart() {
  const found = useLiveQuery(async () => {
    const drafts = await db.drafts.toArray()
    if (drafts.length === 0) return []
    const forms = await db.forms.toArray()
    const layers = (await db.packs.toArray()).flatMap((p) => p.layers)
    return drafts.map((draft) => ({
      draft,
      layer: layers.find((l) => l.id === draft.layer) ?? forms.find((f) => f.layer.id === draft.layer)?.layer,
    }))
  })
  if (!found?.length) return null
  return (
    <Box component="section" aria-label={t('begun.title')} sx={{ mb: 3, '& button': { minHeight: 48 } }}>
      <Typography variant="h2" sx={{ fontSize: '1.15rem' }}>
        {t('begun.title')}
      </Typography>
      {found.map(({ draft, layer }) => (
        <Begun key={draft.key} draft={draft} layer={layer} />
      ))}
    </Box>
  )
}

function Begun({ draft, layer }: { draft: Draft; layer: PackLayer | undefined }) {
  const navigate = useNavigate()
  const [sure, setSure] = useState(false)
  const drop = () =>
    sure ? void db.transaction('rw', [db.drafts, db.forms], () => dropDraft(draft.key)) : setSure(true)
  const name = (layer && nameOf(layer, draft.values)) ?? draft.from?.name ?? t('record.unnamed')
  const texts = Object.entries(draft.values)
    .filter(([, v]) => v !== null && v !== '')
    .map(([key, v]) => `${layer?.design.fields.find((f) => f.key === key)?.label ?? key}: ${String(v)}`)
  return (
    <Box sx={{ borderBottom: '1px solid', borderColor: 'divider', py: 2.5, display: 'grid', gap: 1.5 }}>
      <b>{name}</b>
      <Box sx={{ fontSize: '0.92rem', color: 'text.secondary' }}>
        {t('begun.under', {
          layer: layer?.title ?? t('begun.nolayer'),
          ago: ago(draft.begun_at),
          n: draft.photos.length,
        })}
      </Box>
      {!layer && <Box sx={{ fontSize: '0.92rem' }}>{texts.join(' · ')}</Box>}
      <Box sx={{ display: 'flex', gap: 2 }}>
        {layer && (
          <Button
            variant="outlined"
            onClick={() => void navigate(`/field/add/${draft.layer}?mend=${draft.key}`)}>
            {t('begun.go')}
          </Button>
        )}
        <Button variant="outlined" color={sure ? 'error' : 'inherit'} onClick={drop}>
          {t(sure ? 'begun.drop.sure' : 'form.drop')}
        </Button>
      </Box>
    </Box>
  )
}
