import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Api, Layer } from '../../shared/types'
import { flagsOf, sayFlags } from '../queries/records'
import { FlagRulesForm } from './FlagRulesForm'

type Rules = Api['FlagRules']

/** Says what records of a layer are flagged for. */
export function FlagRulesDialog({
  layer,
  onSaid,
  onClose,
}: {
  layer: Layer
  onSaid: () => void
  onClose: () => void
}) {
  // What is changed here is not fetched anew under one's hands.
  const told = useQuery({ ...flagsOf(layer.id), staleTime: Infinity, refetchOnMount: 'always' })
  const [changed, setChanged] = useState<Rules | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const rules = changed ?? (told.isFetching ? undefined : told.data?.rules)
  const save = async () => {
    if (!rules) return
    setBusy(true)
    setFailed(null)
    try {
      await sayFlags(layer.id, rules)
      onSaid()
    } catch (e) {
      setFailed(e)
      setBusy(false)
    }
  }
  return (
    <Dialog
      open
      onClose={(_, why) => {
        // A tap beside it takes nothing that was chosen.
        if (!busy && !(changed && why === 'backdropClick')) onClose()
      }}
      maxWidth="sm"
      fullWidth
      aria-labelledby="flag-rules">
      <DialogTitle id="flag-rules">{t('flag.rules.title', { layer: layer.design.title })}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 3 }}>
        <Typography color="text.secondary">{t('flag.rules.lead')}</Typography>
        {rules && told.data && (
          <Box sx={{ display: 'grid', gap: 2.5 }}>
            <FlagRulesForm layer={layer} told={told.data} rules={rules} onChange={setChanged} />
          </Box>
        )}
        <Problems error={failed ?? told.error} />
      </DialogContent>
      <DialogActions>
        <Button
          variant="text"
          sx={{ mr: 'auto' }}
          disabled={busy || !told.data}
          onClick={() => told.data && setChanged(told.data.usual)}>
          {t('flag.rules.usual')}
        </Button>
        <Button variant="outlined" onClick={onClose} disabled={busy}>
          {t('check.cancel')}
        </Button>
        <Button onClick={() => void save()} disabled={busy || !rules}>
          {t('flag.rules.save')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
