import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useNavigate } from 'react-router'
import type { Outing } from '../../shared/outing'
import { OutingBar } from '../../shared/parts/OutingBar'
import { ago, formatDate, t } from '../../shared/texts'
import { db, meta, setMeta } from '../db'
import { Head } from './Head'
import { openAt } from '../map/lastView'

/** What this person's crew has before it: days, target, what to pack. Ticks stay on this phone. */
export function OutingScreen() {
  const navigate = useNavigate()
  const stored = useLiveQuery(async () => ({
    packs: await db.packs.toArray(),
    packed: (await meta<Record<string, string[]>>('packed')) ?? {},
  }))
  if (!stored) return null
  const list = stored.packs.flatMap((p) => (p.outings ?? []).map((o) => ({ o, pack: p })))
  const tick = (outing: Outing, thing: string, on: boolean) => {
    const before = stored.packed[outing.id] ?? []
    void setMeta('packed', {
      ...stored.packed,
      [outing.id]: on ? [...before, thing] : before.filter((x) => x !== thing),
    })
  }
  return (
    <>
      <Head title={t('outing.mine')} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 4, alignContent: 'start' }}>
        {list.map(({ o, pack }) => {
          const packed = (stored.packed[o.id] ?? []).filter((thing) => o.checklist.includes(thing))
          return (
            <Paper key={o.id} variant="outlined" sx={{ p: 4, display: 'grid', gap: 3 }}>
              <Box>
                <Typography variant="h2">{o.title}</Typography>
                <Typography color="text.secondary">
                  {t('outings.days', { from: formatDate(o.from), to: formatDate(o.to) })}
                  {o.crew_name && ` · ${o.crew_name}`}
                </Typography>
              </Box>
              {o.note && <Typography>{o.note}</Typography>}
              <OutingBar outing={o} />
              {pack.fetched_at && (
                <Typography variant="body2" color="text.secondary">
                  {t('outing.told', { ago: ago(pack.fetched_at) })}
                </Typography>
              )}
              {o.area && (
                <Button
                  variant="outlined"
                  color="inherit"
                  onClick={() => {
                    openAt(o.area!)
                    void navigate('/field')
                  }}>
                  {t('outing.show')}
                </Button>
              )}
              {o.checklist.length > 0 && (
                <Box>
                  <Typography sx={{ fontWeight: 650 }}>
                    {t('outing.pack')}{' '}
                    <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                      {t('outing.packed', { done: packed.length, all: o.checklist.length })}
                    </Box>
                  </Typography>
                  {o.checklist.map((thing) => (
                    <FormControlLabel
                      key={thing}
                      sx={{ display: 'flex', minHeight: 48 }}
                      control={
                        <Checkbox
                          checked={packed.includes(thing)}
                          onChange={(e) => tick(o, thing, e.target.checked)}
                        />
                      }
                      label={thing}
                    />
                  ))}
                </Box>
              )}
            </Paper>
          )
        })}
      </Box>
    </>
  )
}
