import AssignmentOutlined from '@mui/icons-material/AssignmentOutlined'
import FormatListBulleted from '@mui/icons-material/FormatListBulleted'
import DarkMode from '@mui/icons-material/DarkMode'
import LightMode from '@mui/icons-material/LightMode'
import GpsFixed from '@mui/icons-material/GpsFixed'
import LocationSearching from '@mui/icons-material/LocationSearching'
import Timeline from '@mui/icons-material/Timeline'
import LayersOutlined from '@mui/icons-material/LayersOutlined'
import Close from '@mui/icons-material/Close'
import Inventory from '@mui/icons-material/Inventory2Outlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { goTo } from '../../shared/map/flyTo'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { formatInstant, t } from '../../shared/texts'
import type { Box as Extent, Viewpoint } from '../../shared/types'
import { useLight } from '../colours'
import {
  db,
  setMeta,
  type PackLayer,
  type PackMap,
  type PhoneRecord,
  type Sketch,
  type TrailPoint,
} from '../db'
import { useMeta, usePacks } from '../phoneState'
import { useRecords } from '../records'
import { WideButton } from '../screens/WideButton'
import { LayersSheet } from './LayersSheet'
import { startTrail, stopTrail, useTrailOn } from '../trail'
import { bearing, compassPoint, farAway, fixQuery, metres, usePosition } from '../position'
import { useFormat } from '../format'
import { graticule } from './graticule'
import { Crosshair, Tool } from './MapTools'
import { PictureDialog } from './PictureDialog'
import { dropSketch, sketchLayer } from './sketches'
import { forgetPlace, foundPlace, leftAt, openAt } from './lastView'

/** The map that fills the screen, the nearest record, and one wide button. */
export function MapScreen() {
  const navigate = useNavigate()
  const { light, setLight } = useLight()
  const { position, denied } = usePosition()
  const [crosshair, setCrosshair] = useState(false)
  const [center, setCenter] = useState<{ lon: number; lat: number } | null>(null)
  const chosen = useMeta<number>('layer')
  const [opening, setOpening] = useState(leftAt)
  const map = useRef<MapLibre | null>(null)
  const packs = usePacks()
  // Large, and not needed for the first thing one does: so what comes first does not wait for them.
  const backdrops = useLiveQuery(() => db.backdrops.toArray())
  const [choosing, setChoosing] = useState(false)
  const [picturing, setPicturing] = useState(false)
  const [sketch, setSketch] = useState<number | null>(null)
  const [found, setFound] = useState(foundPlace)
  const [view, setView] = useState<Extent | null>(null)
  const format = useFormat()
  const grid = useMeta<boolean>('grid') ?? false
  const sketches = useLiveQuery(() => db.sketches.toArray())
  const hidden = useMeta<number[]>('hidden') ?? NONE
  const trail = useTrailOn()
  const way = useLiveQuery(() =>
    db.trail
      .where('at')
      .above(new Date().setHours(0, 0, 0, 0))
      .toArray(),
  )
  const everything = useRecords()
  const records = useMemo(() => everything?.filter((r) => !r.gone), [everything])
  const pack = packs?.[0]
  const all = useMemo(() => packs?.flatMap((p) => p.layers) ?? [], [packs])
  // A visit begins at the record that is visited, not here.
  const mine = all.filter((l) => l.rights.add && l.visits_of === null)
  // The one that was used last; before that, points come before what must be drawn.
  const layer =
    mine.find((l) => l.id === chosen) ?? mine.find((l) => l.design.geometry === 'point') ?? mine[0]
  // A map of the programme that was chosen in the gallery, or all layers as they are.
  const mapId = useMeta<number | null>('map')
  const maps = useMemo(() => packs?.flatMap((p) => p.maps ?? []) ?? [], [packs])
  const ofMap = maps.find((m) => m.id === mapId)
  const pegs = useMemo(() => {
    if (!records) return []
    const layerOfMap = ofMap && all.find((l) => l.id === ofMap.layer)
    if (ofMap && layerOfMap) return [drawn({ ...layerOfMap, look: ofMap.look, style: ofMap.style }, records)]
    return all.filter((l) => l.visits_of === null && !hidden.includes(l.id)).map((l) => drawn(l, records))
  }, [all, records, hidden, ofMap])
  const viewpoints = useMemo(() => placesOf(ofMap ? [ofMap] : maps), [ofMap, maps])
  // Each part is made anew only when it changes: what did not change is not brought to the map again.
  const lines = useMemo(() => (grid && view ? [graticule(view, format)] : []), [grid, view, format])
  const ways = useMemo(() => wayOf(way ?? []), [way])
  const drawings = useMemo(() => (sketches?.length ? [sketchLayer(sketches)] : []), [sketches])
  const layers = useMemo(() => [...lines, ...ways, ...pegs, ...drawings], [lines, ways, pegs, drawings])
  const useCrosshair = crosshair || !position
  const place = useCrosshair ? center : position
  const nearest = useMemo(
    () =>
      place && records
        ? nearestOf(
            place,
            records.filter((r) => !r.visited),
          )
        : null,
    [place, records],
  )

  const mapMayCome = useMapMayCome(records !== undefined && (position !== null || denied))

  if (!packs || !pack) return null
  const add = () => {
    if (!layer || !place) return
    if (layer.design.geometry !== 'point')
      return void navigate(`/field/draw/${layer.id}?lon=${place.lon.toFixed(7)}&lat=${place.lat.toFixed(7)}`)
    const fix = useCrosshair || !position ? '' : fixQuery(position)
    void navigate(`/field/add/${layer.id}?lon=${place.lon.toFixed(7)}&lat=${place.lat.toFixed(7)}${fix}`)
  }
  return (
    <>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        {backdrops && mapMayCome && (
          <LazyMap
            label={pack.name}
            controls={false}
            backdrops={backdrops.map((b) => ({ key: b.key, data: b.data }))}
            extent={opening ?? pack.area}
            padding={opening ? 0 : 20}
            layers={layers}
            position={position}
            onReady={(m) => {
              map.current = m
            }}
            selected={found && { id: '', ...found }}
            onMove={({ lon, lat, extent }) => {
              openAt(extent)
              setCenter({ lon, lat })
              setView(extent)
            }}
            onPick={(p) =>
              p &&
              (p.id.startsWith('sketch:')
                ? setSketch(Number(p.id.slice(7)))
                : void navigate(`/field/record/${p.id}`))
            }
          />
        )}
        {useCrosshair && <Crosshair />}
        {ofMap && (
          <Button
            variant="outlined"
            color="inherit"
            endIcon={<Close />}
            aria-label={t('gallery.leave', { title: ofMap.title })}
            onClick={() => void setMeta('map', null)}
            sx={{
              position: 'absolute',
              left: 12,
              top: found ? 68 : 12,
              zIndex: 3,
              maxWidth: 'calc(100% - 90px)',
              bgcolor: 'background.paper',
              '&:hover': { bgcolor: 'background.paper' },
            }}>
            {ofMap.title}
          </Button>
        )}
        {found && (
          <Button
            variant="outlined"
            color="inherit"
            endIcon={<Close />}
            aria-label={t('find.forget', { name: found.name })}
            onClick={() => {
              forgetPlace()
              setFound(null)
            }}
            sx={{
              position: 'absolute',
              left: 12,
              top: 12,
              zIndex: 3,
              maxWidth: 'calc(100% - 90px)',
              bgcolor: 'background.paper',
              '&:hover': { bgcolor: 'background.paper' },
            }}>
            {found.name}
          </Button>
        )}
        <Box sx={{ position: 'absolute', right: 12, top: 12, zIndex: 3, display: 'grid', gap: 2 }}>
          {packs.some((p) => p.outings?.length) && (
            <Tool label={t('outing.mine')} onClick={() => void navigate('/field/outings')}>
              <AssignmentOutlined />
            </Tool>
          )}
          <Tool label={t('field.layers')} onClick={() => setChoosing(true)}>
            <LayersOutlined />
          </Tool>
          <Tool label={t('field.packs')} onClick={() => void navigate('/field/packs')}>
            <Inventory />
          </Tool>
          <Tool
            label={t(light === 'sun' ? 'field.night' : 'field.sun')}
            onClick={() => setLight(light === 'sun' ? 'night' : 'sun')}>
            {light === 'sun' ? <DarkMode /> : <LightMode />}
          </Tool>
        </Box>
        <Box sx={{ position: 'absolute', right: 12, bottom: 44, zIndex: 3, display: 'grid', gap: 2 }}>
          <Tool
            label={t(trail ? 'trail.stop' : 'trail.start')}
            pressed={trail !== null}
            onClick={() => void (trail ? stopTrail() : startTrail(pack.programme))}>
            <Timeline />
          </Tool>
          <Tool label={t('field.crosshair')} pressed={useCrosshair} onClick={() => setCrosshair((c) => !c)}>
            <LocationSearching />
          </Tool>
          <Tool
            label={t('field.here')}
            disabled={!position}
            onClick={() => {
              setCrosshair(false)
              if (position)
                map.current?.easeTo({
                  center: [position.lon, position.lat],
                  zoom: Math.max(15, map.current.getZoom()),
                })
            }}>
            <GpsFixed />
          </Tool>
        </Box>
      </Box>
      <LayersSheet
        open={choosing}
        layers={
          ofMap
            ? all.filter((l) => l.id === ofMap.layer).map((l) => ({ ...l, look: ofMap.look }))
            : all.filter((l) => l.visits_of === null)
        }
        hidden={ofMap ? NONE : hidden}
        viewpoints={viewpoints}
        view={view}
        onGo={(extent) => {
          setChoosing(false)
          if (map.current) goTo(map.current, extent)
          else setOpening(extent)
        }}
        grid={grid}
        onPicture={() => {
          setChoosing(false)
          setPicturing(true)
        }}
        onClose={() => setChoosing(false)}
      />
      {picturing && map.current && (
        <PictureDialog map={map.current} title={pack.name} onClose={() => setPicturing(false)} />
      )}
      <SketchNote sketch={sketches?.find((s) => s.id === sketch)} onClose={() => setSketch(null)} />
      <Box
        sx={{
          borderTop: '2px solid',
          borderColor: 'text.primary',
          bgcolor: 'background.paper',
          p: 3.5,
          display: 'grid',
          gap: 2.5,
          flex: 'none',
        }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
          <Box sx={{ flex: 1, minWidth: 0, fontSize: '0.95rem' }}>
            {nearest && place ? (
              <>
                <b>{t('field.nearest')}</b> {nearest.name ?? t('record.unnamed')},{' '}
                {farAway(metres(place, nearest))} {t(`compass.${compassPoint(bearing(place, nearest))}`)}
              </>
            ) : records ? (
              t('field.norecords')
            ) : null}
          </Box>
          <Button
            variant="outlined"
            color="inherit"
            startIcon={<FormatListBulleted />}
            onClick={() => void navigate('/field/list')}>
            {t('field.list')}
          </Button>
        </Box>
        {mine.length > 1 && (
          <NativeSelect
            input={<OutlinedInput />}
            value={layer?.id ?? ''}
            onChange={(e) => void setMeta('layer', Number(e.target.value))}
            inputProps={{ 'aria-label': t('check.layer') }}>
            {mine.map((l) => (
              <option key={l.id} value={l.id}>
                {l.title}
              </option>
            ))}
          </NativeSelect>
        )}
        <WideButton onClick={add} disabled={!layer || !place}>
          {layer
            ? layer.design.geometry === 'point'
              ? t(useCrosshair ? 'field.add.cross' : 'field.add.here', { layer: layer.title })
              : t(`draw.begin.${layer.design.geometry}`, { layer: layer.title })
            : t('field.add.none')}
        </WideButton>
        <Box sx={{ textAlign: 'center', fontSize: '0.88rem', color: 'text.secondary' }}>
          {trail && <Box sx={{ color: 'text.primary', fontWeight: 650 }}>{t('trail.on')}</Box>}
          {useCrosshair
            ? denied
              ? t('field.denied')
              : t('field.cross.hint')
            : t(position?.satellites ? 'field.fix.satellites' : 'field.fix', {
                m: Math.round(position?.accuracy ?? 0),
                n: position?.satellites ?? 0,
              })}
        </Box>
      </Box>
    </>
  )
}

/**
 * The map's code keeps a slow phone busy for a second: where one stands, the wide button and the records come
 * first.
 */
function useMapMayCome(placed: boolean): boolean {
  const [waited, setWaited] = useState(false)
  useEffect(() => {
    const later = setTimeout(() => setWaited(true), 1_200)
    return () => clearTimeout(later)
  }, [])
  // Once it is there it stays, whatever becomes of the fix.
  const [come, setCome] = useState(false)
  if ((placed || waited) && !come) setCome(true)
  return come
}

/** What was noted beside a sketch, and the way to take it off the map. */
function SketchNote({ sketch, onClose }: { sketch: Sketch | undefined; onClose: () => void }) {
  return (
    <Drawer
      anchor="bottom"
      open={sketch !== undefined}
      onClose={onClose}
      slotProps={{ paper: { sx: { maxWidth: 640, mx: 'auto', p: 4, display: 'grid', gap: 3 } } }}>
      <Box>{sketch?.note || t('sketch.nonote')}</Box>
      <Box sx={{ color: 'text.secondary' }}>{sketch && formatInstant(sketch.at)}</Box>
      <Button
        variant="outlined"
        color="inherit"
        sx={{ minHeight: 56 }}
        onClick={() => {
          if (sketch) void dropSketch(sketch.id)
          onClose()
        }}>
        {t('sketch.drop')}
      </Button>
    </Drawer>
  )
}

const NONE: number[] = []

/** Viewpoints of several maps; the same place under the same name once. */
const placesOf = (maps: PackMap[]): Viewpoint[] => [
  ...new Map(maps.flatMap((m) => m.viewpoints).map((v) => [`${v.title} ${v.extent.join()}`, v])).values(),
]

const WAY_STYLE = [
  {
    id: 'way-line',
    type: 'line',
    source: 'way',
    paint: { 'line-color': '#2F5D8A', 'line-width': 4, 'line-opacity': 0.8 },
    layout: { 'line-cap': 'round', 'line-join': 'round' },
  },
]

/** Where this phone has been today. */
function wayOf(points: TrailPoint[]): MapLayer[] {
  return points.length < 2
    ? []
    : [
        {
          source: 'way',
          layers: WAY_STYLE,
          data: {
            type: 'FeatureCollection',
            features: [
              {
                type: 'Feature',
                properties: {},
                geometry: { type: 'LineString', coordinates: points.map((p) => [p.lon, p.lat]) },
              },
            ],
          },
        },
      ]
}

function drawn(layer: PackLayer, records: PhoneRecord[]): MapLayer {
  const by = layer.look.kind === 'category' ? layer.look.field : null
  return {
    source: `layer-${layer.id}`,
    layers: layer.style,
    data: {
      type: 'FeatureCollection',
      features: records
        .filter((r) => r.layer === layer.id)
        .map((r) => ({
          type: 'Feature',
          geometry: r.shape ?? { type: 'Point', coordinates: [r.lon, r.lat] },
          properties: { id: r.id, ...(by && r.values[by] ? { class: r.values[by] } : {}) },
        })),
    },
  }
}

function nearestOf(place: { lon: number; lat: number }, records: PhoneRecord[]): PhoneRecord | null {
  let best: PhoneRecord | null = null
  let least = Infinity
  for (const r of records) {
    const d = metres(place, r)
    if (d < least) {
      least = d
      best = r
    }
  }
  return best
}
