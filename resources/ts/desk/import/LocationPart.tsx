import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { paint } from '../../shared/paint'
import { sentences } from '../../shared/api'
import { boxAround, padded, widthOf } from '../../shared/map/around'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Api, Box as Box4, GeometryKind } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { Choose } from './Choose'
import type { Import, Location, Review, Settings } from './import'
import { systemsFor } from '../queries/imports'

type System = Api['ReferenceSystem']

const SHAPES = [
  ['point', 'POINT'],
  ['line', 'LINESTRING'],
  ['area', 'POLYGON'],
] as const
const COLOURS = [
  'match',
  ['get', 'how'],
  'swapped',
  paint.tide,
  'sign',
  paint.tide,
  'matched',
  paint.doubt,
  'outside',
  paint.buoy,
  paint.kelp,
]
const STYLE = [
  {
    id: 'falls',
    type: 'circle',
    source: 'falls',
    paint: {
      'circle-radius': 5,
      'circle-color': COLOURS,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 1.5,
    },
  },
]

/**
 * Where the rows will fall, and how that was found; other columns and other coordinate systems can be chosen.
 */
export function LocationPart({
  found,
  settings,
  review,
  onChange,
}: {
  found: Import
  settings: Settings
  review: Review | null
  onChange: (part: Partial<Settings>) => void
}) {
  const programme = useProgramme()
  const { location } = settings
  const lost =
    (location.way === 'pair' && location.system === '') ||
    (location.way === 'geometry' &&
      found.source?.wkt === true &&
      !found.source.turned &&
      location.system === '')
  const [asking, setAsking] = useState(lost)
  const [code, setCode] = useState('')
  const [typed, setTyped] = useState<string | null>(null)
  const systems = useQuery({
    queryKey: ['systems', found.id, location.way, location.columns.join(), typed],
    queryFn: () => systemsFor(found.id, typed),
    enabled: asking,
    retry: false,
  })
  const [looking, setLooking] = useState<System | null>(null)
  const points: [number, number, string][] = useMemo(
    () => (asking && looking ? looking.points.map(([x, y]) => [x, y, '']) : (review?.points ?? [])),
    [asking, looking, review?.points],
  )
  const layers: MapLayer[] = useMemo(
    () => [
      {
        source: 'falls',
        layers: STYLE,
        data: {
          type: 'FeatureCollection',
          features: points.map(([lon, lat, how]) => ({
            type: 'Feature',
            properties: { how },
            geometry: { type: 'Point', coordinates: [lon, lat] },
          })),
        },
      },
    ],
    [points],
  )
  const where = (part: Partial<Location>) => onChange({ location: { ...location, ...part } })
  const names = found.reading!.columns.map((c, i): [string, string] => [String(i), c.name])
  const way = (to: Location['way']) =>
    where({
      way: to,
      columns:
        to === 'pair'
          ? [location.columns[0] ?? 0, location.columns[1] ?? Math.min(1, names.length - 1)]
          : to === 'text'
            ? [location.columns[0] ?? 0]
            : [],
      system: to === 'pair' ? 'EPSG:4326' : location.system,
    })
  const mixed = SHAPES.flatMap(([kind, word]): [string, string][] =>
    found.reading!.shapes[word]
      ? [[kind, t(`bring.shape.${kind}`, { n: found.reading!.shapes[word]! })]]
      : [],
  )
  const take = (s: System) => {
    where({ system: s.system })
    setAsking(false)
    setLooking(null)
  }
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', m: -4, minHeight: '100%' }}>
      <Box sx={{ height: 380, flex: 'none' }}>
        <LazyMap
          label={t('bring.where')}
          extent={[...extentOf(points, programme.area)]}
          padding={36}
          layers={layers}
        />
      </Box>
      <Box sx={{ p: 4, display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
        <Box>
          <Typography variant="h2">{t('bring.where')}</Typography>
          <Typography>
            {location.way === 'geometry'
              ? found.source?.wkt_column !== undefined
                ? t('bring.where.shapes', {
                    column: found.reading!.columns[found.source.wkt_column]?.name ?? '',
                  })
                : found.source?.system
                  ? t('bring.where.file', { system: found.source.system })
                  : location.system
                    ? t('bring.where.chosen', { system: location.system })
                    : t('bring.where.unknown')
              : location.way === 'none'
                ? t('bring.where.none')
                : location.way === 'text'
                  ? t('bring.where.text')
                  : location.system === ''
                    ? t('bring.where.unknown')
                    : location.system === 'EPSG:4326'
                      ? t('bring.where.degrees')
                      : t('bring.where.chosen', { system: location.system })}
          </Typography>
        </Box>
        {found.source?.wkt !== true && found.source?.wkt_column === undefined && (
          <Choose
            label={t('bring.way')}
            value={location.way}
            onChange={(v) => way(v as Location['way'])}
            options={[
              ['pair', t('bring.way.pair')],
              ['text', t('bring.way.text')],
              ['none', t('bring.way.none')],
            ]}
          />
        )}
        {mixed.length > 1 && settings.mode === 'new' && (
          <Choose
            label={t('bring.shape')}
            value={settings.shape ?? found.reading!.geometry}
            onChange={(shape) => onChange({ shape: shape as GeometryKind })}
            options={mixed}
          />
        )}
        {location.way === 'pair' && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <Choose
              label={t('bring.y')}
              value={String(location.columns[1] ?? '')}
              options={names}
              onChange={(v) => where({ columns: [location.columns[0] ?? 0, Number(v)] })}
            />
            <Choose
              label={t('bring.x')}
              value={String(location.columns[0] ?? '')}
              options={names}
              onChange={(v) => where({ columns: [Number(v), location.columns[1] ?? 0] })}
            />
          </Box>
        )}
        {location.way === 'text' && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
            <Choose
              label={t('bring.place')}
              value={String(location.columns[0] ?? '')}
              options={names}
              onChange={(v) => where({ columns: [Number(v), ...location.columns.slice(1)] })}
            />
            <Choose
              label={t('bring.town')}
              value={String(location.columns[1] ?? '')}
              options={[['', t('bring.town.none')], ...names]}
              onChange={(v) =>
                where({ columns: [location.columns[0] ?? 0, ...(v === '' ? [] : [Number(v)])] })
              }
            />
          </Box>
        )}
        {location.way === 'text' && (
          <Choose
            label={t('bring.match')}
            value={String(location.match)}
            onChange={(v) => where({ match: Number(v) })}
            options={[
              ['1', t('bring.match.same')],
              ['0.85', t('bring.match.near')],
              ['0.7', t('bring.match.loose')],
            ]}
          />
        )}
        {location.way === 'pair' && location.system === 'EPSG:4326' && (
          <FormControlLabel
            control={<Switch checked={location.mend} onChange={(_, mend) => where({ mend })} />}
            label={t('bring.mend')}
          />
        )}
        {(location.way === 'pair' ||
          (location.way === 'geometry' && found.source?.wkt === true && !found.source.system)) &&
          (asking ? (
            <Box
              sx={{
                display: 'grid',
                gap: 2,
                bgcolor: 'background.paper',
                border: '1px solid',
                borderColor: 'divider',
                borderRadius: 1.5,
                p: 3,
              }}>
              <Typography sx={{ fontWeight: 650 }}>{t('bring.system')}</Typography>
              {systems.isFetching && <Typography role="status">{t('bring.system.trying')}</Typography>}
              {systems.error && (
                <Typography role="alert" color="error">
                  {sentences(systems.error).join(' ')}
                </Typography>
              )}
              {systems.data?.length === 0 && <Typography>{t('bring.system.nothing')}</Typography>}
              {systems.data?.map((s) => (
                <Box
                  key={s.system}
                  sx={{
                    display: 'flex',
                    gap: 2,
                    alignItems: 'center',
                    justifyContent: 'space-between',
                    bgcolor: looking?.system === s.system ? paint.picked : undefined,
                  }}>
                  <Box sx={{ minWidth: 0 }}>
                    <b>{s.name}</b>
                    <Typography variant="body2" color="text.secondary">
                      {s.system} · {t('bring.system.in', { n: s.in_area, of: s.points.length })}
                    </Typography>
                  </Box>
                  <Box sx={{ display: 'flex', gap: 1, flex: 'none' }}>
                    <Button size="small" variant="outlined" onClick={() => setLooking(s)}>
                      {t('bring.system.show')}
                    </Button>
                    <Button size="small" onClick={() => take(s)}>
                      {t('bring.system.take')}
                    </Button>
                  </Box>
                </Box>
              ))}
              <Box
                component="form"
                onSubmit={(e) => {
                  e.preventDefault()
                  setTyped(code.trim() || null)
                }}
                sx={{ display: 'flex', gap: 2, alignItems: 'end' }}>
                <TextInput
                  label={t('bring.system.code')}
                  value={code}
                  onChange={setCode}
                  placeholder="EPSG:27700"
                />
                <Button type="submit" variant="outlined">
                  {t('bring.system.try')}
                </Button>
              </Box>
            </Box>
          ) : (
            <Button
              variant="outlined"
              size="small"
              sx={{ justifySelf: 'start' }}
              onClick={() => setAsking(true)}>
              {t('bring.system.other')}
            </Button>
          ))}
      </Box>
    </Box>
  )
}

/** All of the points, or where the programme works while there are none. */
function extentOf(points: [number, number, string][], area: Box4): Box4 {
  const box = boxAround(points.map(([lon, lat]) => [lon, lat]))
  if (!box) return area
  const least = 0.01
  return padded(box, widthOf(box) < least ? least : 0, box[3] - box[1] < least ? least : 0)
}
