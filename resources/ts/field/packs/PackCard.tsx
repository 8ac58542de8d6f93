import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { ago, formatNumber, t } from '../../shared/texts'
import { db, type Pack, type Take } from '../db'
import { syncNow } from '../sync/sync'
import { getPack, packBytes, pause, resume, takenOf, takeOf } from './packs'
import { isTight, mb } from './room'

/** From so many days on a pack that was not brought up to date is called old. */
const OLD_DAYS = 3

type Props = {
  pack: Pack
  here: Pack | undefined
  /** The server has just told what it offers. */ reachable: boolean
  free: number | null
}

/** One pack: what is in it, how large it is, how far it has come, and what can be done with it. */
export function PackCard({ pack, here, reachable, free }: Props) {
  const navigate = useNavigate()
  const [maps, setMaps] = useState<number | null>(null)
  const [error, setError] = useState<unknown>(null)
  const state = useLiveQuery(() => stateOf(pack, here), [pack, here])
  if (!state) return null
  const { take, filled, filling } = state
  const bytes = packBytes(pack, take.without)
  const taken = takenOf(pack.layers, take.without)
  const shown = taken.filter((l) => l.visits_of === null)
  const paused = take.paused && (filling || !here)
  const working = maps !== null || (filling && !paused && here !== undefined)
  const share = maps ?? filled
  const get = async () => {
    setError(null)
    setMaps(0)
    try {
      const whole = await getPack(pack, take, setMaps)
      setMaps(null)
      if (!whole) return
      await syncNow()
      if (!(await takeOf(pack.programme)).paused) await navigate('/field')
    } catch (caught) {
      setError(caught)
      setMaps(null)
    }
  }
  const goOn = async () => {
    await resume(pack.programme)
    await get()
  }
  const days = here?.fetched_at
    ? Math.floor((Date.now() - new Date(here.fetched_at).getTime()) / 86_400_000)
    : 0
  return (
    <Paper
      component="section"
      aria-label={pack.name}
      variant="outlined"
      sx={{ p: 4, display: 'grid', gap: 2.5, '& .MuiButton-root': { minHeight: 52 } }}>
      <Typography variant="h2">{pack.name}</Typography>
      <Typography>
        {shown.map((l) => `${l.title} (${formatNumber(l.records)})`).join(', ') || t('packs.nolayer')}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {[
          pack.crew,
          mb(bytes),
          take.area && t('packs.part'),
          here?.fetched_at && !filling ? t('packs.here', { ago: ago(here.fetched_at) }) : null,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Typography>
      {days >= OLD_DAYS && (
        <Alert severity="warning" variant="outlined">
          {t('packs.old', { days })}
        </Alert>
      )}
      {here?.newer ? (
        <Alert severity="info" variant="outlined">
          {t('packs.newer', { size: mb(here.newer) })}
        </Alert>
      ) : null}
      {!here && isTight(free, bytes) && (
        <Alert severity="warning" variant="outlined">
          {t('packs.tight', { size: mb(bytes), free: mb(free ?? 0) })}
        </Alert>
      )}
      <Problems error={error} />
      {(working || paused) && (
        <Box role="status">
          <LinearProgress
            variant="determinate"
            value={100 * share}
            aria-label={t('packs.getting')}
            color={paused ? 'inherit' : 'primary'}
            sx={{ height: 10, borderRadius: 1, mb: 1.5 }}
          />
          {paused
            ? t('packs.paused', { share: Math.round(100 * share) })
            : maps !== null
              ? t('packs.maps', { share: Math.round(100 * share) })
              : t('packs.records', { share: Math.round(100 * share) })}
        </Box>
      )}
      {working ? (
        <Button variant="outlined" color="inherit" onClick={() => void pause(pack.programme)}>
          {t('packs.pause')}
        </Button>
      ) : paused ? (
        <Button disabled={!reachable} onClick={() => void goOn()}>
          {t('packs.resume')}
        </Button>
      ) : (
        <Button
          variant={here && !here.newer ? 'outlined' : 'contained'}
          disabled={!reachable || pack.layers.length === 0}
          onClick={() => void get()}>
          {t(here ? (here.newer ? 'packs.get.newer' : 'packs.again') : 'packs.get')}
        </Button>
      )}
      {!working && pack.layers.length > 0 && (
        <Button
          variant="text"
          color="inherit"
          disabled={!reachable}
          onClick={() => void navigate(`/field/packs/${pack.programme}`)}>
          {t('packs.choose')}
        </Button>
      )}
    </Paper>
  )
}

/** What was chosen of a pack, and how many of its records have come. */
async function stateOf(
  pack: Pack,
  here: Pack | undefined,
): Promise<{ take: Take; filling: boolean; filled: number }> {
  const take = await takeOf(pack.programme)
  const layers = (here?.layers ?? []).map((l) => l.id)
  const cursors = await db.cursors.where('layer').anyOf(layers).toArray()
  const filling = cursors.some((c) => c.filling)
  if (!filling) return { take, filling, filled: here ? 1 : 0 }
  const wanted = takenOf(pack.layers, take.without).reduce((sum, l) => sum + l.records, 0)
  const come = await db.records.where('layer').anyOf(layers).count()
  return { take, filling, filled: wanted === 0 ? 0 : Math.min(0.99, come / wanted) }
}
