import Box from '@mui/material/Box'
import Paper from '@mui/material/Paper'
import useMediaQuery from '@mui/material/useMediaQuery'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useMemo, useRef, useState } from 'react'
import { api } from '../../api'
import { boxAround, placesOf, widthOf } from '../../map/around'
import { CREWS, crewLayer } from '../../map/crewLayer'
import { served } from '../../map/backdrop'
import { corners } from '../../map/flyTo'
import { LazyMap } from '../../map/LazyMap'
import { partOf, useMapLayers } from '../../map/mapLayers'
import { pictureOf } from '../../map/picture'
import type { Picked } from '../../map/picked'
import { usePickedCards } from '../../map/pickedCards'
import type { MapLayer } from '../../map/putLayers'
import { MapLegend } from '../../parts/MapLegend'
import { RecordCard } from '../../parts/RecordCard'
import { formatInstant } from '../../texts'
import type { Box as Extent, CardView } from '../../types'
import { shownIn } from '../crews'
import { usePicking } from '../picks'
import { CrewCard, useCrews } from './crewOnMap'
import type { TileProps } from './shared'

/** A map of the programme, or of a layer; what is picked elsewhere it shows alone, and goes there. */
export function MapTile({ tile, base, query, picture, menu }: TileProps<'map'>) {
  const { view, bare } = tile.answer
  const address = `${base}/tiles/${tile.id}`
  const open = base.startsWith('/open/')
  const [switched, setSwitched] = useState<Record<string, boolean>>({})
  const hidden = useMemo(
    () => new Set(view.layers.filter((l) => !(switched[l.id] ?? l.visible)).map((l) => l.id)),
    [view.layers, switched],
  )
  const { layers } = useMapLayers(address, view.layers, hidden, null, query)
  const backdrops = useMemo(() => view.backdrops.map(served), [view.backdrops])
  const cards = usePickedCards((part, record) => ({
    queryKey: ['tile-card', address, part, record, query] as const,
    queryFn: () =>
      api<CardView>('GET', `${address}/layers/${part}/records/${record}${query ? `?${query}` : ''}`),
  }))
  const map = useRef<MapLibre | null>(null)
  // Maps come when they are scrolled to, perhaps after somebody was to be followed.
  const [ready, setReady] = useState(false)
  useFollow(map, query, layers, view.extent)
  useEffect(() => {
    if (!picture) return
    picture.current = () =>
      map.current
        ? pictureOf(
            map.current,
            [tile.title, tile.slice_name].filter(Boolean).join(', '),
            formatInstant(new Date().toISOString()),
          )
        : Promise.reject(new Error('no map'))
    return () => {
      picture.current = null
    }
  }, [picture, tile.title, tile.slice_name])
  const went = useShown(map, layers, cards.pick)
  const { show, picks, pick: pickPart, mayPick, details, crews } = usePicking()
  const follow = useCrews(map, ready, tile.id ?? '')
  // A visitor's details know records by the ids of lists alone, or a name would get its place.
  const tells = details === true && mayPick && !open
  const pick = (picked: Picked | null, under: Picked[]) => {
    follow.open(under.find((p) => p.source === CREWS)?.id ?? null)
    cards.pick(picked, under)
    const first = under[0]
    if (!tells || went.current === (first?.id ?? null)) return
    // It is on the screen, and goes nowhere.
    went.current = first?.id ?? null
    show(tile.id ?? '', went.current)
  }
  const drawn = useMemo(() => {
    const placed = (crews ?? []).flatMap((c) => (c.place ? [{ key: c.key, name: c.called, ...c.place }] : []))
    return placed.length ? [...layers, crewLayer(placed)] : layers
  }, [layers, crews])
  const small = useMediaQuery('(max-width: 599.95px)')
  const [narrow, setNarrow] = useState(false)
  const under = view.layers.find((l) => cards.selected?.source && partOf(cards.selected.source) === l.id)
  const name = cards.card?.name ?? ''
  const area = under?.geometry === 'area' && cards.selected ? `${under.id}:${cards.selected.id}:` : null
  const isOnly = area !== null && (picks.pick[tile.id ?? '']?.startsWith(area) ?? false)
  const only =
    mayPick && area !== null
      ? { on: isOnly, toggle: () => pickPart(tile.id ?? '', isOnly ? null : area + name.slice(0, 80)) }
      : null
  const told = view.layers.filter((l) => l.in_legend)
  return (
    <LazyMap
      label={tile.title}
      backdrops={backdrops}
      extent={view.extent}
      layers={drawn}
      onMove={({ byHand }) => byHand && follow.leave()}
      onReady={(m) => {
        map.current = m
        setReady(true)
      }}
      onPick={pick}
      selected={cards.selected}
      photo={(id) => (open ? `/api/v1${address}/photos/${id}/thumb` : `/api/v1/attachments/${id}/thumb`)}>
      <Paper
        variant="outlined"
        component="h3"
        sx={{
          position: 'absolute',
          left: 10,
          top: 10,
          px: 3,
          py: 1.25,
          m: 0,
          fontSize: '0.95rem',
          maxWidth: 'calc(100% - 70px)',
          display: 'flex',
          alignItems: 'center',
          gap: 2,
        }}>
        {tile.title}
        {tile.slice_name && (
          <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary', ml: 2, fontSize: '0.84rem' }}>
            {tile.slice_name}
          </Box>
        )}
        {menu}
      </Paper>
      {told.length > 0 && (
        <Paper
          variant="outlined"
          component="details"
          // On a phone, and in a small tile, a long one would be all that there is to see.
          open={!small && !narrow && (bare || told.length <= 2)}
          ref={(legend: HTMLElement | null) => {
            const tile = legend?.parentElement
            if (legend?.scrollHeight && tile && !narrow)
              setNarrow(legend.offsetWidth * legend.scrollHeight > (tile.clientWidth * tile.clientHeight) / 3)
          }}
          sx={{
            position: 'absolute',
            left: 10,
            bottom: 10,
            px: 3,
            py: 1.5,
            fontSize: '0.85rem',
            maxWidth: 'min(260px, calc(100% - 20px))',
            maxHeight: 'calc(100% - 80px)',
            overflow: 'auto',
            '& summary': { cursor: 'pointer', fontWeight: 650 },
            '&[open] summary': { mb: 1 },
          }}>
          <summary>{told.length === 1 ? told[0]!.title : view.title}</summary>
          <MapLegend
            layers={view.layers}
            hidden={hidden}
            onShow={(part, shown) => setSwitched((s) => ({ ...s, [part]: shown }))}
          />
          {view.notes.map((note) => (
            <Box key={note} component="p" sx={{ m: 0, mt: 1, fontSize: '0.8rem', color: 'text.secondary' }}>
              {note}
            </Box>
          ))}
        </Paper>
      )}
      {follow.card && (
        <CrewCard
          crew={follow.card}
          following={follow.following}
          onFollow={follow.follow}
          onClose={() => follow.open(null)}
        />
      )}
      {/* What is told beside it need not be told twice. */}
      {cards.card && (!tells || only) && (
        <RecordCard
          card={cards.card}
          photo={(id) => (open ? `/api/v1${address}/photos/${id}/view` : `/api/v1/attachments/${id}/view`)}
          place={cards.place}
          only={only}
          onNext={cards.next}
          onClose={() => cards.pick(null, [])}
        />
      )}
    </LazyMap>
  )
}

/** Goes to the record that was tapped in a list, and opens its card; a map that does not show it stays. */
function useShown(
  map: { current: MapLibre | null },
  layers: MapLayer[],
  open: (picked: null, under: Picked[]) => void,
) {
  const { picks } = usePicking()
  const id = shownIn(picks)?.record ?? null
  const went = useRef<string | null>(null)
  useEffect(() => {
    if (id === went.current) return
    if (id === null) {
      went.current = null
      open(null, [])
      return
    }
    for (const layer of layers) {
      const feature = layer.data.features.find((f) => f.properties?.id === id)
      const box = feature && aroundAll([feature])
      if (!box) continue
      went.current = id
      const [lon, lat] = [box[0] + widthOf(box) / 2, (box[1] + box[3]) / 2]
      map.current?.flyTo({ center: [lon, lat], zoom: Math.max(13, map.current.getZoom()), duration: 400 })
      open(null, [{ id, lon, lat, source: layer.source }])
      return
    }
  }, [id, layers, map, open])
  return went
}

/** Goes to what is left when something was picked elsewhere, and back to all when it is let go. */
function useFollow(
  map: { current: MapLibre | null },
  query: string,
  layers: { data: GeoJSON.FeatureCollection }[],
  whole: Extent,
) {
  const went = useRef({ query, layers })
  useEffect(() => {
    if (went.current.query === query || went.current.layers === layers) return
    went.current = { query, layers }
    const around = query ? aroundAll(layers.flatMap((l) => l.data.features)) : whole
    if (around && map.current)
      map.current.fitBounds(corners(around), {
        padding: 50,
        maxZoom: 15,
        duration: 400,
      })
  }, [map, query, layers, whole])
}

const aroundAll = (features: GeoJSON.Feature[]) => boxAround(features.flatMap((f) => placesOf(f.geometry)))
