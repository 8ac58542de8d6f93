import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Outing } from '../../shared/outing'
import { OutingBar } from '../../shared/parts/OutingBar'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { formatDate, t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { OutingDialog } from './OutingDialog'
import { keys } from '../queries/keys'
import { layersOf } from '../queries/layers'
import { deleteOuting, makeOuting, outingsOf } from '../queries/plan'

/** Planned pieces of field work, by their days, each with its live progress. */
export function Outings() {
  const programme = useProgramme()
  const client = useQueryClient()
  const outings = useQuery({ ...outingsOf(programme.id), refetchInterval: 10_000 })
  const layers = useQuery(layersOf(programme.id))
  const [open, setOpen] = useState<Outing | 'new' | null>(null)
  const [gone, setGone] = useState<Outing | null>(null)
  const again = () => client.invalidateQueries({ queryKey: keys.outings(programme.id) })
  const remove = async (outing: Outing) => {
    await deleteOuting(outing.id)
    setGone(outing)
    await again()
  }
  const bringBack = async () => {
    if (!gone) return
    await makeOuting(programme.id, gone)
    setGone(null)
    await again()
  }
  const plan = <Button onClick={() => setOpen('new')}>{t('outings.new')}</Button>
  const title = (id: number) => layers.data?.find((l) => l.id === id)?.title ?? ''
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, maxWidth: 1100, width: '100%', mx: 'auto', display: 'grid', gap: 3 }}>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'end',
          gap: 3,
          flexWrap: 'wrap',
        }}>
        <Box>
          <Typography variant="h1">{t('outings.title')}</Typography>
          <Typography color="text.secondary">{t('outings.lead')}</Typography>
        </Box>
        {Boolean(outings.data?.length) && plan}
      </Box>
      <Problems error={outings.error ?? layers.error} />
      {outings.data?.length === 0 && (
        <Empty title={t('outings.empty')} action={plan}>
          {t('outings.empty.text')}
        </Empty>
      )}
      {outings.data?.map((o) => (
        <Paper
          key={o.id}
          variant="outlined"
          sx={{
            p: 3,
            display: 'grid',
            gridTemplateColumns: { xs: 'minmax(0,1fr)', md: 'minmax(0,1.2fr) minmax(0,1fr) auto' },
            gap: 4,
            alignItems: 'center',
            opacity: o.progress.when === 'over' ? 0.75 : 1,
          }}>
          <Box sx={{ minWidth: 0 }}>
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
              <Typography variant="h2">{o.title}</Typography>
              <Pill tone={o.progress.when === 'now' ? 'well' : 'soft'}>
                {o.progress.when === 'now'
                  ? t('outings.days', { from: formatDate(o.from), to: formatDate(o.to) })
                  : o.progress.when === 'ahead'
                    ? t('outings.when.ahead', { date: formatDate(o.from) })
                    : t('outings.when.over')}
              </Pill>
            </Box>
            <Typography color="text.secondary">
              {o.crew_name ?? t('outings.crew.all')} · {o.layers.map(title).filter(Boolean).join(', ')}
            </Typography>
          </Box>
          <OutingBar outing={o} />
          <Box sx={{ display: 'flex', gap: 1.5 }}>
            <Button
              size="small"
              variant="outlined"
              onClick={() => setOpen(o)}
              aria-label={`${t('outings.edit')}: ${o.title}`}>
              {t('outings.edit')}
            </Button>
            <Button
              size="small"
              variant="outlined"
              color="error"
              onClick={() => void remove(o)}
              aria-label={`${t('outings.remove')}: ${o.title}`}>
              {t('outings.remove')}
            </Button>
          </Box>
        </Paper>
      ))}
      {/* A new one begins with a layer that is there: where they come late, so does it. */}
      {open && layers.data && (
        <OutingDialog
          outing={open === 'new' ? null : open}
          layers={layers.data}
          onClose={() => setOpen(null)}
          onSaved={() => {
            setOpen(null)
            void again()
          }}
        />
      )}
      <Snackbar
        open={gone !== null}
        autoHideDuration={12_000}
        onClose={(_, why) => {
          if (why === 'timeout') setGone(null)
        }}
        message={t('outings.removed', { title: gone?.title ?? '' })}
        action={
          <Button size="small" color="inherit" variant="outlined" onClick={() => void bringBack()}>
            {t('undo')}
          </Button>
        }
      />
    </Box>
  )
}
