import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { ago, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { alertsOf, deleteAlert, makeAlert, pauseAlert, type Alert } from '../queries/alerts'
import { keys } from '../queries/keys'
import { AlertDialog } from './AlertDialog'

/** The alerts of the programme: what each tells of, when it last did, and what is in its way. */
export function AlertShelf() {
  const programme = useProgramme()
  const client = useQueryClient()
  const alerts = useQuery({ ...alertsOf(programme.id), refetchInterval: 15_000 })
  const [open, setOpen] = useState<Alert | 'new' | null>(null)
  const [gone, setGone] = useState<Alert | null>(null)
  const change = useMutation({
    mutationFn: (run: () => Promise<unknown>) => run(),
    networkMode: 'always',
    onSuccess: () => client.invalidateQueries({ queryKey: keys.alerts(programme.id) }),
  })
  const remove = (alert: Alert) =>
    change.mutate(() => deleteAlert(alert.id), { onSuccess: () => setGone(alert) })
  return (
    <section>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 3 }}>
        <Typography variant="h1">{t('alerts.title')}</Typography>
        <Button onClick={() => setOpen('new')}>{t('alert.new')}</Button>
      </Box>
      <Problems error={alerts.error ?? change.error} />
      {alerts.data?.length === 0 && <Typography color="text.secondary">{t('alerts.empty')}</Typography>}
      <Box sx={{ display: 'grid', gap: 2 }}>
        {alerts.data?.map((alert) => (
          <Paper
            key={alert.id}
            variant="outlined"
            sx={{
              p: 3,
              display: 'flex',
              flexWrap: 'wrap',
              gap: 3,
              alignItems: 'center',
              justifyContent: 'space-between',
            }}>
            <Box sx={{ minWidth: 220, flex: 1 }}>
              <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
                <Typography variant="h3" sx={{ overflowWrap: 'anywhere' }}>
                  {alert.name}
                </Typography>
                {alert.paused && <Pill>{t('alert.paused')}</Pill>}
                {alert.waits && <Pill tone="info">{t('alert.waits')}</Pill>}
                {alert.trouble && <Pill tone="warn">{t('alert.broken')}</Pill>}
              </Box>
              <Typography variant="body2" color="text.secondary">
                {[
                  alert.told_at ? t('alert.told', { ago: ago(alert.told_at) }) : t('alert.told.never'),
                  t('alert.bymeans', { mail: alert.by_mail ? 1 : 0, phones: alert.on_phones ? 1 : 0 }),
                ].join(', ')}
              </Typography>
              {alert.trouble && (
                <Typography variant="body2" color="error" role="alert">
                  {alert.trouble}
                </Typography>
              )}
            </Box>
            <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
              <Button
                size="small"
                variant="outlined"
                aria-label={`${t('outings.edit')}: ${alert.name}`}
                onClick={() => setOpen(alert)}>
                {t('outings.edit')}
              </Button>
              <Button
                size="small"
                variant="outlined"
                color="inherit"
                aria-label={`${t(alert.paused ? 'alert.resume' : 'alert.pause')}: ${alert.name}`}
                onClick={() => change.mutate(() => pauseAlert(alert.id, !alert.paused))}>
                {t(alert.paused ? 'alert.resume' : 'alert.pause')}
              </Button>
              <Button
                size="small"
                variant="outlined"
                color="error"
                aria-label={`${t('slice.delete')}: ${alert.name}`}
                onClick={() => remove(alert)}>
                {t('slice.delete')}
              </Button>
            </Box>
          </Paper>
        ))}
      </Box>
      {open && <AlertDialog alert={open === 'new' ? undefined : open} onClose={() => setOpen(null)} />}
      <Snackbar
        open={gone !== null}
        autoHideDuration={12_000}
        onClose={(_, why) => why === 'timeout' && setGone(null)}
        message={t('alert.gone', { name: gone?.name ?? '' })}
        action={
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => {
              if (gone) change.mutate(() => makeAlert(programme.id, gone))
              setGone(null)
            }}>
            {t('undo')}
          </Button>
        }
      />
    </section>
  )
}
