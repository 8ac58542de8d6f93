import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { api } from '../api'
import { padded } from '../map/around'
import { served } from '../map/backdrop'
import { LazyMap } from '../map/LazyMap'
import { spotAt } from '../map/spot'
import { Problems } from '../parts/Problems'
import { CardBody } from '../parts/RecordCard'
import { t } from '../texts'
import type { CardView, MapView } from '../types'
import type { WallPhoto } from './useWall'

/** How far around the place is seen, in degrees. */
const AROUND = 0.012
const NOT_EXACT = {
  cell: 'photowall.where.cell',
  area: 'photowall.where.area',
  none: 'photowall.where.none',
  exact: null,
} as const

/** Where it was taken, as far as that is told. */
export function WallPlace({
  view,
  shown,
  onMap,
}: {
  view: MapView
  shown: WallPhoto
  onMap: (photo: WallPhoto) => void
}) {
  const { lon, lat } = shown
  const backdrops = useMemo(() => view.backdrops.map(served), [view.backdrops])
  const layers = useMemo(() => (lon === null || lat === null ? [] : [spotAt(lon, lat)]), [lon, lat])
  const extent = useMemo(
    () => (lon === null || lat === null ? null : padded([lon, lat, lon, lat], AROUND, AROUND)),
    [lon, lat],
  )
  const said = NOT_EXACT[shown.place]
  return (
    <>
      {extent && (
        <Box sx={{ height: 220 }}>
          <LazyMap
            label={t('photowall.where')}
            backdrops={backdrops}
            extent={extent}
            layers={layers}
            controls={false}
          />
        </Box>
      )}
      <Box sx={{ px: 4, pt: 3, display: 'grid', gap: 2, justifyItems: 'start' }}>
        {said && (
          <Typography variant="body2" color="text.secondary">
            {t(said)}
          </Typography>
        )}
        {extent && (
          <Button size="small" variant="outlined" onClick={() => onMap(shown)}>
            {t('photowall.onmap')}
          </Button>
        )}
      </Box>
    </>
  )
}

/** What the card of its record says, without the photos. */
export function WallRecord({ base, shown }: { base: string; shown: WallPhoto }) {
  const card = useQuery({
    queryKey: ['card-read', base, shown.part, shown.record],
    queryFn: () => api<CardView>('GET', `${base}/layers/${shown.part}/records/${shown.record}`),
    networkMode: 'always',
    retry: 1,
  })
  if (!card.data) return <Problems error={card.error} />
  return <CardBody card={{ ...card.data, photos: [] }} photo={() => ''} />
}
