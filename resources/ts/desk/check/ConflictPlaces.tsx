import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useMemo } from 'react'
import { boxAround, padded, placesOf, widthOf } from '../../shared/map/around'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { paint } from '../../shared/paint'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'
import type { Conflict, Side } from './conflict'
import { geometryOf, placingOf } from './placing'

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

/** Where both sides are, and the pictures. */
export function ConflictPlaces({ d, choose }: { d: Conflict; choose: Record<string, Side> }) {
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
  const extent = useMemo(() => extentOf(features.map((f) => f.geometry)), [features])
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

function extentOf(geometries: GeoJSON.Geometry[]): Extent | null {
  const box = boxAround(geometries.flatMap(placesOf))
  const pad = box && Math.max(0.002, widthOf(box) * 0.4)
  return box && padded(box, pad!, pad!)
}
