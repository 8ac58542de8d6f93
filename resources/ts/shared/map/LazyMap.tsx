import Box from '@mui/material/Box'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, type ComponentProps } from 'react'
import { api } from '../api'
import { t } from '../texts'
import type { Backdrop } from '../types'
import { served, type BackdropData } from './backdrop'

// The map library is by far the largest part; it comes after the page.
const Inner = lazy(() => import('./MapView').then((m) => ({ default: m.MapView })))

type Props = Omit<ComponentProps<typeof Inner>, 'backdrops'>

/** All that the server has; a page that was opened draws them as they were then. */
const backdrops = queryOptions({
  queryKey: ['backdrops'],
  queryFn: () => api<Backdrop[]>('GET', '/backdrops'),
  select: (all) => all.map(served),
  staleTime: Infinity,
  networkMode: 'always',
})
const NONE: BackdropData[] = []

/** A map on the backdrops that it is given, or else on all that the server has. */
export function LazyMap({ backdrops, ...props }: Props & { backdrops?: BackdropData[] }) {
  return (
    <Suspense fallback={<Coming />}>
      {backdrops ? <Inner {...props} backdrops={backdrops} /> : <OnAll {...props} />}
    </Suspense>
  )
}

function OnAll(props: Props) {
  const all = useQuery(backdrops)
  // A map without land under it is still of use.
  return all.isPending ? <Coming /> : <Inner {...props} backdrops={all.data ?? NONE} />
}

function Coming() {
  return (
    <Box
      sx={{
        height: '100%',
        bgcolor: '#CFDDDD',
        color: '#2F4A50',
        display: 'grid',
        placeItems: 'center',
      }}>
      {t('map.loading')}
    </Box>
  )
}
