import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { sentences } from '../../shared/api'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Autosave } from './useAutosave'

/** One line: whether all of it is on the server. */
export function SaveLine({ autosave }: { autosave: Pick<Autosave<object>, 'state' | 'why'> }) {
  const { state, why } = autosave
  const words = {
    saved: t('saved'),
    waiting: t('saving'),
    saving: t('saving'),
    held: t('save.held', { why: why ?? '' }),
    failed: t('save.failed'),
    refused: t('save.refused'),
    clash: t('save.clash'),
  }[state]
  const wrong = ['held', 'failed', 'refused', 'clash'].includes(state)
  return (
    <Typography variant="caption" color={wrong ? 'error.main' : 'text.secondary'} role="status">
      {words}
    </Typography>
  )
}

/** What went wrong with saving, and what can be done; nothing where nothing did. */
export function SaveTrouble<T extends object>({ autosave }: { autosave: Autosave<T> }) {
  const { state, error, saver, since } = autosave
  if (state === 'clash')
    return (
      <Alert severity="warning" variant="outlined">
        <Box sx={{ display: 'grid', gap: 2 }}>
          {sentences(error).map((line) => (
            <div key={line}>{line}</div>
          ))}
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            <Button size="small" onClick={saver.keepMine}>
              {t('save.mine')}
            </Button>
            <Button size="small" variant="outlined" onClick={saver.takeTheirs}>
              {t('save.theirs')}
            </Button>
          </Box>
        </Box>
      </Alert>
    )
  if (state === 'failed')
    return (
      <Alert
        severity="warning"
        variant="outlined"
        action={
          <Button size="small" variant="outlined" onClick={saver.retry}>
            {t('save.now')}
          </Button>
        }>
        {t('save.failed.text')} {sentences(error).join(' ')}
      </Alert>
    )
  if (state === 'refused') return <Problems error={error} />
  return since !== null && state !== 'saved' ? (
    <Alert severity="info" variant="outlined">
      {t('save.taken')}
    </Alert>
  ) : null
}
