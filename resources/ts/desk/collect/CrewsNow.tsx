import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { paint } from '../../shared/paint'
import { crewLayer } from '../../shared/map/crewLayer'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { trailsOf } from '../queries/plan'

const SPANS = ['today', 'day', 'week'] as const
type Span = (typeof SPANS)[number]
const HOURS = { day: 24, week: 168 }

const STYLE = [
  {
    id: 'trail-under',
    type: 'line',
    source: 'trails',
    paint: { 'line-color': paint.sheet, 'line-width': 5 },
    layout: { 'line-cap': 'round', 'line-join': 'round' },
  },
  {
    id: 'trail-line',
    type: 'line',
    source: 'trails',
    paint: { 'line-color': paint.tide, 'line-width': 2.5, 'line-dasharray': [2, 1.2] },
    layout: { 'line-join': 'round' },
  },
]
/** Where the phones that share it are, when they were heard, and the ways they went. */
export function CrewsNow({ people }: { people: Api['Person'][] }) {
  const programme = useProgramme()
  const [span, setSpan] = useState<Span>('today')
  const trails = useQuery({
    queryKey: keys.trails(programme.id, span),
    placeholderData: (old, before) => (before?.queryKey[1] === programme.id ? old : undefined),
    refetchInterval: 30_000,
    queryFn: () =>
      trailsOf(
        programme.id,
        since(span, programme.time_zone),
        new Date(Date.now() + 3_600_000).toISOString(),
      ),
  })
  const placed = useMemo(() => people.filter((p) => p.place), [people])
  const layers: MapLayer[] = useMemo(
    () => [
      { source: 'trails', layers: STYLE, data: trails.data ?? { type: 'FeatureCollection', features: [] } },
      crewLayer(placed.map((p) => ({ key: String(p.id), name: p.name, ...p.place! }))),
    ],
    [trails.data, placed],
  )
  return (
    <Sheet
      title={t('trail.title')}
      action={
        <Segments
          label={t('trail.span')}
          value={span}
          onChange={setSpan}
          options={SPANS.map((value) => ({ value, label: t(`trail.span.${value}`) }))}
        />
      }
      sx={{ pb: 3 }}>
      <Problems error={trails.error} />
      <Box
        sx={{
          height: 360,
          mx: -4,
          borderTop: '1px solid',
          borderBottom: '1px solid',
          borderColor: 'divider',
        }}>
        <LazyMap label={t('trail.map')} extent={[...programme.area]} layers={layers} />
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ pt: 3 }}>
        {t('trail.shared', { n: placed.length })}. {trails.data?.features.length === 0 && t('trail.none')}
      </Typography>
    </Sheet>
  )
}

/** Today begins at midnight where the programme is. */
function since(span: Span, zone: string): string {
  if (span !== 'today') return new Date(Date.now() - HOURS[span] * 3_600_000).toISOString()
  const clock = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    hour12: false,
  })
    .format(new Date())
    .split(':')
    .map(Number)
  return new Date(Date.now() - ((clock[0]! % 24) * 3600 + clock[1]! * 60 + clock[2]!) * 1000).toISOString()
}
