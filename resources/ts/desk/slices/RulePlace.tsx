import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useMemo, useState } from 'react'
import { readPlace } from '../../shared/form/coordinates'
import { DRAWN_STYLE } from '../../shared/map/drawn'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Around } from './rule'

type Place = [number, number]

/** A place to be near to, or an area drawn on the map. */
export function RulePlace({
  test,
  value,
  area,
  onValue,
}: {
  test: 'within' | 'in_shape'
  value: unknown
  area: [number, number, number, number]
  onValue: (value: unknown) => void
}) {
  return test === 'within' ? (
    <Near value={value as Around | null} area={area} onValue={onValue} />
  ) : (
    <Drawn value={value as GeoJSON.Polygon | null} area={area} onValue={onValue} />
  )
}

function Near({
  value,
  area,
  onValue,
}: {
  value: Around | null
  area: [number, number, number, number]
  onValue: (value: Around | null) => void
}) {
  const [text, setText] = useState(value ? `${value.lat.toFixed(5)}, ${value.lon.toFixed(5)}` : '')
  const [metres, setMetres] = useState(value?.metres ?? '500')
  const read = text.trim() === '' ? null : readPlace(text)
  const bad = text.trim() !== '' && !read
  const put = (spot: { lon: number; lat: number } | null, far: string) =>
    onValue(spot ? { lon: spot.lon, lat: spot.lat, metres: far } : null)
  const layers = useMemo<MapLayer[]>(() => (value ? [ring(value)] : []), [value])
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 2fr' } }}>
        <TextInput
          label={t('rule.metres')}
          size="small"
          value={metres}
          inputProps={{ inputMode: 'decimal' }}
          onChange={(far) => {
            setMetres(far)
            put(value ?? read, far)
          }}
        />
        <TextInput
          label={t('rule.near')}
          size="small"
          value={text}
          placeholder={t('rule.near.hint')}
          error={bad ? t('rule.near.bad') : null}
          onChange={(typed) => {
            setText(typed)
            put(typed.trim() === '' ? null : readPlace(typed), metres)
          }}
        />
      </Box>
      <Box sx={{ height: 200 }}>
        <LazyMap
          label={t('rule.map')}
          extent={area}
          layers={layers}
          onTap={(spot) => {
            setText(`${spot.lat.toFixed(5)}, ${spot.lon.toFixed(5)}`)
            put(spot, metres)
          }}
        />
      </Box>
    </Box>
  )
}

function Drawn({
  value,
  area,
  onValue,
}: {
  value: GeoJSON.Polygon | null
  area: [number, number, number, number]
  onValue: (value: GeoJSON.Polygon | null) => void
}) {
  // A ring that is drawn has its first corner once; two corners are not an area yet, but must not be lost.
  const [places, setPlaces] = useState<Place[]>(
    () => (value?.coordinates[0]?.slice(0, -1) as Place[] | undefined) ?? [],
  )
  const put = (next: Place[]) => {
    setPlaces(next)
    const first = next[0]
    onValue(next.length >= 3 && first ? { type: 'Polygon', coordinates: [[...next, first]] } : null)
  }
  const layers = useMemo<MapLayer[]>(() => (places.length >= 2 ? [outline(places)] : []), [places])
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="body2" role="status">
          {places.length < 3 ? t('rule.draw.hint') : t('draw.corners', { n: places.length })}
        </Typography>
        <Button
          size="small"
          variant="outlined"
          disabled={places.length === 0}
          onClick={() => put(places.slice(0, -1))}>
          {t('draw.back')}
        </Button>
        <Button size="small" variant="outlined" disabled={places.length === 0} onClick={() => put([])}>
          {t('draw.anew')}
        </Button>
      </Box>
      <Box sx={{ height: 220 }}>
        <LazyMap
          label={t('rule.draw')}
          extent={area}
          layers={layers}
          corners={{ kind: 'area', places, onChange: put }}
          onTap={(spot) => put([...places, [spot.lon, spot.lat]])}
        />
      </Box>
    </Box>
  )
}

const drawn = (geometry: GeoJSON.Geometry): MapLayer => ({
  source: 'drawn',
  layers: DRAWN_STYLE,
  data: { type: 'FeatureCollection', features: [{ type: 'Feature', properties: {}, geometry }] },
})

const outline = (places: Place[]): MapLayer =>
  drawn(
    places.length < 3
      ? { type: 'LineString', coordinates: places }
      : { type: 'Polygon', coordinates: [[...places, places[0] as Place]] },
  )

/** Around a place, good enough to look at: the server reckons on the ellipsoid. */
function ring({ lon, lat, metres }: Around): MapLayer {
  const degrees = Number(metres.replace(',', '.')) / 111_320 || 0
  const wide = degrees / Math.max(0.02, Math.cos((lat * Math.PI) / 180))
  const corners = Array.from({ length: 65 }, (_, i): Place => {
    const turn = (i * 2 * Math.PI) / 64
    return [lon + wide * Math.sin(turn), lat + degrees * Math.cos(turn)]
  })
  return drawn({ type: 'Polygon', coordinates: [corners] })
}
