import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import MuiLink from '@mui/material/Link'
import Radio from '@mui/material/Radio'
import Typography from '@mui/material/Typography'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { paint } from '../../shared/paint'
import { cornersOf } from '../../shared/form/geodesic'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, t } from '../../shared/texts'
import type { Box as Box4 } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { geometryOf, placingOf } from './placing'
import { clashLabel, type Clash, type Conflict, type Side } from './conflict'
import { settleConflict } from '../queries/records'

type Props = { dispute: Conflict; zone: string; onDone: (said: string) => Promise<void> }

const SIDE = ['match', ['get', 'side'], 'mine', paint.buoy, paint.kelp]
const STYLE = [
  {
    id: 'sides-area',
    type: 'fill',
    source: 'sides',
    filter: ['==', ['geometry-type'], 'Polygon'],
    paint: { 'fill-color': SIDE, 'fill-opacity': 0.18 },
  },
  {
    id: 'sides-line',
    type: 'line',
    source: 'sides',
    filter: ['!=', ['geometry-type'], 'Point'],
    paint: { 'line-color': SIDE, 'line-width': 3 },
  },
  {
    id: 'sides-spot',
    type: 'circle',
    source: 'sides',
    filter: ['==', ['geometry-type'], 'Point'],
    paint: {
      'circle-radius': 8,
      'circle-color': SIDE,
      'circle-stroke-color': paint.white,
      'circle-stroke-width': 2,
    },
  },
]

/**
 * One dispute: both sides beside each other, on values, map and photos; decided value by value, or as a
 * whole.
 */
export function OneConflict({ dispute: d, zone, onDone }: Props) {
  const programme = useProgramme()
  const [choose, setChoose] = useState<Record<string, Side>>(() =>
    Object.fromEntries(d.clashes.map((c) => [c.key, d.settlement?.choose?.[c.key] ?? c.stands])),
  )
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const name = d.name ?? t('record.unnamed')
  const settle = async (body: object, said: string) => {
    setBusy(true)
    try {
      await settleConflict(d.id, body)
      await onDone(said)
    } catch (e) {
      setError(e)
      setBusy(false)
    }
  }
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 4,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 320px' },
        alignItems: 'start',
      }}>
      <Box
        sx={{
          gridColumn: '1 / -1',
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'end',
          gap: 3,
          flexWrap: 'wrap',
        }}>
        <Box>
          <Typography color="text.secondary">
            {d.layer_title} ›{' '}
            {d.record ? (
              <MuiLink
                component={Link}
                to={`/desk/p/${programme.id}/check?layer=${d.layer}&record=${d.record_id}`}>
                {name}
              </MuiLink>
            ) : (
              name
            )}
          </Typography>
          <Typography variant="h1">
            {t(d.kind === 'clash' ? 'decide.clash.title' : 'decide.held.title')}
          </Typography>
        </Box>
        {d.settled_at ? (
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
            <Typography role="status">
              {t('decide.bywhom', { by: d.settled_by ?? '', at: formatInstant(d.settled_at, zone) })}
            </Typography>
            {d.kind === 'held' && d.settlement?.take === false && (
              <Button
                disabled={busy}
                variant="outlined"
                onClick={() => void settle({ take: true }, t('decide.take.done', { name }))}>
                {t('decide.takeup')}
              </Button>
            )}
          </Box>
        ) : d.kind === 'clash' ? (
          <Button disabled={busy} onClick={() => void settle({ choose }, t('decide.done', { name }))}>
            {t('decide.keep')}
          </Button>
        ) : (
          <Box sx={{ display: 'flex', gap: 3 }}>
            <Button
              disabled={busy}
              variant="outlined"
              onClick={() => void settle({ take: false }, t('decide.aside.done', { name }))}>
              {t('decide.aside')}
            </Button>
            <Button
              disabled={busy}
              onClick={() => void settle({ take: true }, t('decide.take.done', { name }))}>
              {t('decide.take')}
            </Button>
          </Box>
        )}
      </Box>
      {error !== null && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <Problems error={error} />
        </Box>
      )}
      <Sheet sx={{ p: 0 }}>
        {d.kind === 'clash' ? (
          <Sides
            d={d}
            zone={zone}
            choose={choose}
            fixed={d.settled_at !== null}
            onChoose={(key, side) => setChoose({ ...choose, [key]: side })}
          />
        ) : (
          <Held d={d} zone={zone} />
        )}
      </Sheet>
      <Where d={d} choose={choose} />
    </Box>
  )
}

function Sides({
  d,
  zone,
  choose,
  fixed,
  onChoose,
}: {
  d: Conflict
  zone: string
  choose: Record<string, Side>
  fixed: boolean
  onChoose: (key: string, side: Side) => void
}) {
  const merged = d.values.filter((v) => !d.clashes.some((c) => c.key === v.key))
  return (
    <>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          '& th, & td': {
            textAlign: 'left',
            verticalAlign: 'top',
            p: 3,
            borderBottom: '1px solid',
            borderColor: 'divider',
            fontWeight: 400,
          },
          '& thead th': { color: 'text.secondary', fontSize: '0.88rem', fontWeight: 650 },
          '& tbody th': { fontWeight: 700 },
        }}>
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">{t('decide.before')}</th>
            <th scope="col">
              {d.theirs_by
                ? t('decide.who', { who: d.theirs_by, at: formatInstant(d.theirs_at ?? d.received_at, zone) })
                : t('decide.there')}
            </th>
            <th scope="col">
              {t('decide.who', { who: d.by ?? '', at: formatInstant(d.captured_at, zone) })}
              {late(d) && (
                <>
                  <br />
                  {t('decide.late', { at: formatInstant(d.received_at, zone) })}
                </>
              )}
            </th>
          </tr>
        </thead>
        <tbody>
          {d.clashes.map((c) => (
            <tr key={c.key}>
              <th scope="row">{clashLabel(c)}</th>
              <td>{shown(c, 'was')}</td>
              {(['theirs', 'mine'] as const).map((side) => (
                <td key={side}>
                  <Box
                    component="label"
                    sx={{
                      display: 'inline-flex',
                      alignItems: 'center',
                      pr: 3,
                      border: '2px solid',
                      borderColor: choose[c.key] === side ? 'primary.main' : 'divider',
                      bgcolor: choose[c.key] === side ? paint.kelpWash : 'background.paper',
                      borderRadius: 1.5,
                      fontWeight: choose[c.key] === side ? 700 : 400,
                      cursor: fixed ? 'default' : 'pointer',
                    }}>
                    <Radio
                      size="small"
                      name={`clash-${d.id}-${c.key}`}
                      checked={choose[c.key] === side}
                      disabled={fixed}
                      onChange={() => onChoose(c.key, side)}
                      inputProps={{ 'aria-label': `${clashLabel(c)}: ${shown(c, side)}` }}
                    />
                    {shown(c, side)}
                  </Box>
                </td>
              ))}
            </tr>
          ))}
          {merged.map((v) => (
            <tr key={v.key}>
              <th scope="row">{v.label}</th>
              <td>{v.was ?? '–'}</td>
              <td>
                <Typography variant="body2" color="text.secondary">
                  {t('decide.unchanged')}
                </Typography>
              </td>
              <td>{v.value ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ p: 3 }}>
        {t(merged.length > 0 ? 'decide.note.merged' : 'decide.note', {
          what: merged.map((v) => v.label).join(', '),
        })}
      </Typography>
    </>
  )
}

function Held({ d, zone }: { d: Conflict; zone: string }) {
  return (
    <Box sx={{ p: 4, display: 'grid', gap: 3 }}>
      <Typography>
        {t(`decide.does.${d.does}`, { by: d.by ?? '', at: formatInstant(d.captured_at, zone) })}.{' '}
        {late(d) && t('decide.late', { at: formatInstant(d.received_at, zone) })}
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 5, '& li': { color: 'secondary.dark', fontWeight: 600 } }}>
        {d.reasons.map((r) => (
          <li key={`${r.code}${r.field}`}>{r.message}</li>
        ))}
      </Box>
      {d.values.length > 0 && (
        <Box
          component="dl"
          sx={{
            display: 'grid',
            gridTemplateColumns: 'auto 1fr',
            gap: 1.5,
            columnGap: 4,
            m: 0,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0 },
          }}>
          {d.values.map((v) => (
            <Box key={v.key} sx={{ display: 'contents' }}>
              <dt>{v.label}</dt>
              <dd>
                {v.was !== null && v.was !== v.value && (
                  <>
                    <s>{v.was}</s>{' '}
                  </>
                )}
                <b>{v.value ?? '–'}</b>
              </dd>
            </Box>
          ))}
        </Box>
      )}
      <Typography variant="body2" color="text.secondary">
        {t('decide.held.note')}
      </Typography>
    </Box>
  )
}

/** Where both sides are, and the pictures. */
function Where({ d, choose }: { d: Conflict; choose: Record<string, Side> }) {
  const place = d.clashes.find((c) => c.key === '@place')
  const features = useMemo(() => {
    const here = d.record ? (d.record.geometry ?? geometryOf('point', placingOf(d.record))) : null
    const sides: [Side, GeoJSON.Geometry | null][] = place
      ? [
          ['theirs', place.theirs as GeoJSON.Geometry],
          ['mine', place.mine as GeoJSON.Geometry],
        ]
      : [
          ['theirs', here],
          ['mine', d.kind === 'held' ? d.geometry : null],
        ]
    return sides.flatMap(([side, geometry]) =>
      geometry ? [{ type: 'Feature' as const, properties: { id: side, side }, geometry }] : [],
    )
  }, [d, place])
  const extent = useMemo(() => around(features.map((f) => f.geometry)), [features])
  const layers: MapLayer[] = useMemo(
    () => [{ source: 'sides', layers: STYLE, data: { type: 'FeatureCollection', features } }],
    [features],
  )
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      {extent && (
        <Sheet sx={{ p: 0, overflow: 'hidden' }}>
          <Box sx={{ height: 260 }}>
            <LazyMap label={t('check.where')} extent={extent} layers={layers} />
          </Box>
          {place && (
            <Box sx={{ p: 3, display: 'grid', gap: 1, fontSize: '0.92rem' }}>
              {(['theirs', 'mine'] as const).map((side) => (
                <Box
                  key={side}
                  sx={{
                    display: 'flex',
                    gap: 2,
                    alignItems: 'center',
                    fontWeight: choose['@place'] === side ? 700 : 400,
                  }}>
                  <Box
                    sx={{
                      width: 12,
                      height: 12,
                      borderRadius: '50%',
                      bgcolor: side === 'mine' ? paint.buoy : paint.kelp,
                    }}
                  />
                  {side === 'mine' ? d.by : (d.theirs_by ?? t('decide.there'))}
                </Box>
              ))}
            </Box>
          )}
        </Sheet>
      )}
      {d.photos.length > 0 && (
        <Sheet title={t('record.photos')}>
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            {d.photos.map((p) =>
              p.state === 'stored' && p.type.startsWith('image/') ? (
                <img
                  key={p.id}
                  src={`/api/v1/attachments/${p.id}/thumb`}
                  alt={t('record.photo', { name: p.name })}
                  style={{ width: 132, height: 99, objectFit: 'cover', borderRadius: 4 }}
                />
              ) : (
                <Typography key={p.id} variant="body2" color="text.secondary">
                  {p.name}
                  {p.state === 'on_way' && `: ${t('record.photo.on_way')}`}
                </Typography>
              ),
            )}
          </Box>
        </Sheet>
      )}
    </Box>
  )
}

function shown(c: Clash, side: 'was' | Side): string {
  const value = c[side]
  if (c.key === '@deleted') return t(value === true ? 'decide.deleted' : 'decide.kept')
  if (value === null || value === undefined) return '–'
  if (typeof value !== 'object') return c.key === '@altitude' ? `${value} m` : String(value)
  const [lon, lat] = value.type === 'Point' ? value.coordinates : (cornersOf(value)[0] ?? [])
  return lon === undefined || lat === undefined ? '–' : `${lat.toFixed(5)}, ${lon.toFixed(5)}`
}

/** A quarter of an hour between capture and arrival says that there was no signal. */
const late = (d: Conflict) => new Date(d.received_at).getTime() - new Date(d.captured_at).getTime() > 900_000

function around(geometries: GeoJSON.Geometry[]): Box4 | null {
  const places = geometries.flatMap((g) => (g.type === 'Point' ? [g.coordinates] : cornersOf(g)))
  if (places.length === 0) return null
  const [lons, lats] = [places.map((p) => p[0]!), places.map((p) => p[1]!)]
  const pad = Math.max(0.002, (Math.max(...lons) - Math.min(...lons)) * 0.4)
  return [Math.min(...lons) - pad, Math.min(...lats) - pad, Math.max(...lons) + pad, Math.max(...lats) + pad]
}
