import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { FORMATS, type Format } from '../../shared/form/coordinates'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { ago, t } from '../../shared/texts'
import { db, type Pack } from '../db'
import { setFormat, useFormat } from '../format'
import { fetchPacks, getPack, packBytes } from '../packs'
import { setReceiver, usePosition, useReceiver } from '../position'
import { syncNow } from '../sync'
import { Head } from './Head'

const mb = (bytes: number) => (bytes >= 1_073_741_824 ? `${(bytes / 1_073_741_824).toFixed(1)} GB` : bytes < 1_048_576 ? `${Math.max(1, Math.round(bytes / 1024))} kB` : `${(bytes / 1_048_576).toFixed(1)} MB`)

/** What this phone can carry, how large it is, and what it carries already. */
export function PackScreen() {
  const navigate = useNavigate()
  const format = useFormat()
  const receiver = useReceiver()
  const { position } = usePosition()
  const [typed, setTyped] = useState<string | null>(null)
  const offered = useQuery({ queryKey: ['packs'], queryFn: fetchPacks })
  const stored = useLiveQuery(() => db.packs.toArray())
  const space = useQuery({ queryKey: ['space'], queryFn: () => navigator.storage.estimate() })
  const [busy, setBusy] = useState<{ programme: number; share: number } | null>(null)
  const [error, setError] = useState<unknown>(null)
  const get = async (pack: Pack) => {
    setError(null)
    setBusy({ programme: pack.programme, share: 0 })
    try {
      await getPack(pack, (share) => setBusy({ programme: pack.programme, share }))
      await syncNow()
      await navigate('/field')
    } catch (caught) {
      setError(caught)
    }
    setBusy(null)
  }
  const list = offered.data ?? stored ?? []
  const free = space.data ? (space.data.quota ?? 0) - (space.data.usage ?? 0) : null
  return (
    <>
      {stored && stored.length > 0 ? <Head title={t('packs.title')} /> : <Typography variant="h1" sx={{ p: 4, pb: 2 }}>{t('packs.title')}</Typography>}
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 4, alignContent: 'start' }}>
        <Typography color="text.secondary">{t('packs.lead')}</Typography>
        <Problems error={error ?? (stored?.length ? null : offered.error)} />
        {offered.data?.length === 0 && <Empty title={t('packs.none')}>{t('packs.none.text')}</Empty>}
        {list.map((pack) => {
          const here = stored?.find((p) => p.programme === pack.programme)
          const working = busy?.programme === pack.programme
          return (
            <Paper key={pack.programme} variant="outlined" sx={{ p: 4, display: 'grid', gap: 2 }}>
              <Typography variant="h2">{pack.name}</Typography>
              <Typography>{pack.layers.map((l) => `${l.title} (${l.records})`).join(', ') || t('packs.nolayer')}</Typography>
              <Typography variant="body2" color="text.secondary">{pack.crew && `${pack.crew} · `}{mb(packBytes(pack))}{here?.fetched_at && ` · ${t('packs.here', { ago: ago(here.fetched_at) })}`}</Typography>
              {working && <LinearProgress variant="determinate" value={100 * busy.share} aria-label={t('packs.getting')} />}
              <Button size="large" variant={here ? 'outlined' : 'contained'} disabled={busy !== null || !offered.data || pack.layers.length === 0} onClick={() => get(pack)}>
                {working ? t('packs.getting') : t(here ? 'packs.again' : 'packs.get')}
              </Button>
            </Paper>
          )
        })}
        <Labelled label={t('field.format')}>
          {({ id }) => (
            <NativeSelect id={id} input={<OutlinedInput />} value={format} onChange={(e) => setFormat(e.target.value as Format)}>
              {FORMATS.map((f) => <option key={f} value={f}>{t(`field.format.${f}`)}</option>)}
            </NativeSelect>
          )}
        </Labelled>
        <TextInput label={t('field.receiver')} hint={t(receiver ? (position ? 'field.receiver.on' : 'field.receiver.silent') : 'field.receiver.hint', { m: Math.round(position?.accuracy ?? 0), n: position?.satellites ?? 0 })} value={typed ?? receiver ?? ''} onChange={setTyped} onBlur={() => { if (typed !== null) void setReceiver(typed); setTyped(null) }} inputProps={{ inputMode: 'url', autoComplete: 'off' }} />
        {free !== null && <Typography variant="body2" color="text.secondary">{t('packs.free', { size: mb(free) })}</Typography>}
      </Box>
    </>
  )
}
