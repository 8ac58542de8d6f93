import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { usePacks } from '../phoneState'
import { Head } from '../screens/Head'
import { PackCard } from './PackCard'
import { fetchPacks } from './packs'
import { PhonePart } from './PhonePart'
import { mb, useFree } from './room'

/** What this phone can carry, how large it is, and what it carries already. */
export function PackScreen() {
  const offered = useQuery({ queryKey: ['packs'], queryFn: fetchPacks })
  const stored = usePacks()
  const free = useFree()
  const list = offered.data ?? stored ?? []
  return (
    <>
      {stored && stored.length > 0 ? (
        <Head title={t('packs.title')} />
      ) : (
        <Typography variant="h1" sx={{ p: 4, pb: 2 }}>
          {t('packs.title')}
        </Typography>
      )}
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 4, alignContent: 'start' }}>
        <Typography color="text.secondary">{t('packs.lead')}</Typography>
        <Problems error={stored?.length ? null : offered.error} />
        {offered.data?.length === 0 && <Empty title={t('packs.none')}>{t('packs.none.text')}</Empty>}
        {list.map((pack) => (
          <PackCard
            key={pack.programme}
            pack={pack}
            here={stored?.find((p) => p.programme === pack.programme)}
            reachable={offered.data !== undefined}
            free={free}
          />
        ))}
        <PhonePart />
        {free !== null && (
          <Typography variant="body2" color="text.secondary">
            {t('packs.free', { size: mb(free) })}
          </Typography>
        )}
      </Box>
    </>
  )
}
