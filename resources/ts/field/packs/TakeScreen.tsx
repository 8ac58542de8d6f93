import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useLiveQuery } from 'dexie-react-hooks'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { AreaFrame, FRAME } from '../../shared/map/AreaFrame'
import { served } from '../../shared/map/backdrop'
import { LazyMap } from '../../shared/map/LazyMap'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'
import { db, type Pack, type Take } from '../db'
import { Head } from '../screens/Head'
import { WideButton } from '../screens/WideButton'
import { syncNow } from '../sync/sync'
import { fetchCounts, fetchPacks, getPack, packBytes, takeOf } from './packs'
import { mb } from './room'

/**
 * Which layers of a pack, and which part of its area, this phone takes; with the size before anything is
 * fetched.
 */
export function TakeScreen() {
  const { programme = '' } = useParams()
  const offered = useQuery({ queryKey: ['packs'], queryFn: fetchPacks })
  const take = useLiveQuery(() => takeOf(Number(programme)), [programme])
  const pack = offered.data?.find((p) => p.programme === Number(programme))
  return (
    <>
      <Head title={t('packs.choose')} under={pack?.name} to="/field/packs" />
      <Problems error={offered.error} />
      {pack && take && <Choice pack={pack} take={take} />}
    </>
  )
}

function Choice({ pack, take }: { pack: Pack; take: Take }) {
  const navigate = useNavigate()
  const [without, setWithout] = useState(take.without)
  const [area, setArea] = useState<Extent | null>(take.area)
  const [opening] = useState(take.area ?? pack.area)
  const [share, setShare] = useState<number | null>(null)
  const [error, setError] = useState<unknown>(null)
  const counts = useQuery({
    queryKey: ['counts', pack.programme, area],
    queryFn: () => fetchCounts(pack.programme, area!),
    enabled: area !== null,
    placeholderData: (before) => before,
  })
  const unsent = useLiveQuery(async () => (await db.outbox.toArray()).map((i) => i.operation.layer)) ?? []
  const layers = pack.layers.filter((l) => l.visits_of === null)
  const known = area ? counts.data : undefined
  const bytes = packBytes(pack, without, known)
  const fetchIt = async () => {
    setShare(0)
    try {
      const whole = await getPack(pack, { without, area }, setShare)
      if (whole) void syncNow()
      await navigate('/field/packs')
    } catch (caught) {
      setError(caught)
      setShare(null)
    }
  }
  return (
    <>
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 3, alignContent: 'start' }}>
        <Typography variant="h2">{t('packs.layers')}</Typography>
        <Box>
          {layers.map((layer) => {
            // A layer whose work has not been sent cannot leave the phone.
            const bound = pack.layers.some(
              (l) => (l.id === layer.id || l.visits_of === layer.id) && unsent.includes(l.id),
            )
            const n = known?.[layer.id] ?? layer.records
            return (
              <FormControlLabel
                key={layer.id}
                sx={{ display: 'flex', minHeight: 52 }}
                disabled={bound}
                label={
                  <>
                    <b>{layer.title}</b> · {t('packs.count', { n })}
                    {bound && ` · ${t('packs.unsent')}`}
                  </>
                }
                control={
                  <Checkbox
                    checked={!without.includes(layer.id)}
                    onChange={(e) =>
                      setWithout(
                        e.target.checked ? without.filter((id) => id !== layer.id) : [...without, layer.id],
                      )
                    }
                  />
                }
              />
            )
          })}
        </Box>
        <Typography variant="h2">{t('packs.area')}</Typography>
        <Segments
          label={t('packs.area')}
          value={area ? 'part' : 'whole'}
          onChange={(v) => setArea(v === 'part' ? opening : null)}
          options={[
            { value: 'whole', label: t('packs.area.whole') },
            { value: 'part', label: t('packs.area.part') },
          ]}
        />
        {area && (
          <Box sx={{ height: 320, border: '1px solid', borderColor: 'divider' }}>
            <LazyMap
              label={t('packs.area')}
              controls={false}
              backdrops={pack.backdrops.map(served)}
              extent={opening}
              padding={FRAME}
              frame={FRAME}
              onMove={({ extent, byHand }) => byHand && setArea(extent)}>
              <AreaFrame />
            </LazyMap>
          </Box>
        )}
        <Problems error={error ?? counts.error} />
      </Box>
      <Box sx={{ p: 3.5, borderTop: '1px solid', borderColor: 'divider', flex: 'none' }}>
        <WideButton
          disabled={share !== null || without.length >= layers.length}
          onClick={() => void fetchIt()}>
          {share !== null
            ? t('packs.maps', { share: Math.round(100 * share) })
            : t('packs.take', { size: mb(bytes) })}
        </WideButton>
      </Box>
    </>
  )
}
