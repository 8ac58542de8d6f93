import Box from '@mui/material/Box'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useRef, type ComponentProps } from 'react'
import { paint } from '../paint'
import { api } from '../api'
import { t } from '../texts'
import type { Backdrop } from '../types'
import { isOf, served, type BackdropData } from './backdrop'

// The map library is by far the largest part; it comes after the page.
const Inner = lazy(() => import('./MapView').then((m) => ({ default: m.MapView })))

type Props = Omit<ComponentProps<typeof Inner>, 'backdrops'>

/** What the server has; a page that was opened draws them as they were then. */
const backdrops = queryOptions({
  queryKey: ['backdrops'],
  queryFn: () => api<Backdrop[]>('GET', '/backdrops'),
  select: (all) => all.map(served),
  staleTime: Infinity,
  networkMode: 'always',
})
const NONE: BackdropData[] = []

/** A map on the backdrops that it is given, or else on those that the server has of what it is to show. */
export function LazyMap({ backdrops, ...props }: Props & { backdrops?: BackdropData[] }) {
  return (
    <Suspense fallback={<Coming />}>
      {backdrops ? <Inner {...props} backdrops={backdrops} /> : <OnServed {...props} />}
    </Suspense>
  )
}

function OnServed(props: Props) {
  const all = useQuery(backdrops)
  // Of where it is moved to by hand it has none: those of elsewhere may be large. Those that it had once it keeps, for
  // it is made anew for others.
  const met = useRef(new Set<string>())
  for (const b of all.data ?? []) if (isOf(b, props.extent)) met.current.add(b.key)
  const keys = [...met.current].join()
  const shown = useMemo(
    () => all.data?.filter((b) => keys.split(',').includes(b.key)) ?? NONE,
    [all.data, keys],
  )
  // A map without land under it is still of use.
  return all.isPending ? <Coming /> : <Inner {...props} backdrops={shown} />
}

function Coming() {
  return (
    <Box
      sx={{
        height: '100%',
        bgcolor: paint.sea,
        color: paint.seaInk,
        display: 'grid',
        placeItems: 'center',
      }}>
      {t('map.loading')}
    </Box>
  )
}
