import Box from '@mui/material/Box'
import { useLiveQuery } from 'dexie-react-hooks'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { goTo } from '../../shared/map/flyTo'
import { LazyMap } from '../../shared/map/LazyMap'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'
import { db, setMeta } from '../db'
import { useFormat } from '../format'
import { useMeta, usePacks } from '../phoneState'
import { useMarkPhotos } from '../photos/useMarkPhotos'
import { fixQuery, usePosition } from '../position'
import { useRecords } from '../records'
import { useRules } from '../slices/useRules'
import { useTrailOn } from '../trail'
import { AddPanel } from './AddPanel'
import { graticule } from './graticule'
import { forgetPlace, foundPlace, leftAt, openAt } from './lastView'
import { LayersSheet } from './LayersSheet'
import { linesOfLayers, linesOfMap } from './lines'
import { PlaceTools, ScreenTools } from './MapButtons'
import { MapChip } from './MapChip'
import { cardsUnder, drawnParts, drawsPhotos, partsShown, searchesOf } from './mapParts'
import { Crosshair } from './MapTools'
import { drawn, nearestOf, placesOf, wayOf } from './onMap'
import { PartCard } from './PartCard'
import { PictureDialog } from './PictureDialog'
import { sketchLayer } from './sketches'
import { SketchNote } from './SketchNote'

const NONE: number[] = []
const UNSWITCHED: Record<string, boolean> = {}

/** The map that fills the screen, the nearest record, and one wide button. */
export function MapScreen() {
  const navigate = useNavigate()
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
  const [under, setUnder] = useState<ReturnType<typeof cardsUnder>>([])
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
  const switched = useMeta<Record<string, boolean>>('switched') ?? UNSWITCHED
  const rulesOf = useRules(packs, records)
  // What is asked of it stays asked until another map is chosen.
  const asked = useMeta<{ map: number; search: string } | null>('searched')
  const searches = useMemo(() => (ofMap ? searchesOf(ofMap, all, rulesOf) : []), [ofMap, all, rulesOf])
  const search = (asked?.map === ofMap?.id && searches.find((s) => s.id === asked?.search)) || null
  const parts = useMemo(
    () => (ofMap ? partsShown(ofMap, all, switched, rulesOf, search) : null),
    [ofMap, all, switched, rulesOf, search],
  )
  const photos = useMarkPhotos(parts?.some(drawsPhotos) ?? false)
  const pegs = useMemo(() => {
    if (!records) return []
    return parts
      ? drawnParts(parts, records, rulesOf, photos.of)
      : all.filter((l) => l.visits_of === null && !hidden.includes(l.id)).map((l) => drawn(l, records))
  }, [all, records, hidden, parts, rulesOf, photos])
  // Gone meanwhile, or of a part that was switched off: of those there is no card.
  const open = under.filter(
    (one) => parts?.some((p) => p.id === one.part.id && p.on) && records?.some((r) => r.id === one.picked.id),
  )
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
            backdrops={backdrops}
            extent={opening ?? pack.area}
            padding={opening ? 0 : 20}
            layers={layers}
            position={position}
            photo={photos.address}
            onReady={(m) => {
              map.current = m
            }}
            selected={open[0]?.picked ?? (found && { id: '', ...found })}
            onMove={({ lon, lat, extent }) => {
              openAt(extent)
              setCenter({ lon, lat })
              setView(extent)
            }}
            onPick={(p, all) => {
              // Of a chosen map the card is what it was made to tell; else a tap opens the record.
              const cards = parts ? cardsUnder(parts, all) : []
              setUnder(cards)
              // Of a cell there is no screen: the legend says what it tells.
              if (!p || cards.length > 0 || p.id.startsWith('cell-')) return
              if (p.id.startsWith('sketch:')) setSketch(Number(p.id.slice(7)))
              else void navigate(`/field/record/${p.id}`)
            }}
          />
        )}
        {open[0] && parts && records && (
          <PartCard
            key={`${open[0].part.id} ${open[0].picked.id}`}
            under={open}
            parts={parts}
            records={records}
            layers={all}
            rulesOf={rulesOf}
            onClose={() => setUnder([])}
          />
        )}
        {useCrosshair && <Crosshair />}
        {ofMap && (
          <MapChip
            row={found ? 1 : 0}
            title={ofMap.title}
            label={t('gallery.leave', { title: ofMap.title })}
            onLeave={() => void setMeta('map', null)}
          />
        )}
        {ofMap && search && (
          <MapChip
            row={found ? 2 : 1}
            title={search.title}
            label={t('searches.leave', { title: search.title })}
            onLeave={() => void setMeta('searched', null)}
          />
        )}
        {found && (
          <MapChip
            title={found.name}
            label={t('find.forget', { name: found.name })}
            onLeave={() => {
              forgetPlace()
              setFound(null)
            }}
          />
        )}
        {/* They would lie over the card. */}
        {open.length === 0 && (
          <>
            <ScreenTools outings={packs.some((p) => p.outings?.length)} onLayers={() => setChoosing(true)} />
            <PlaceTools
              programme={pack.programme}
              trail={trail !== null}
              crosshair={useCrosshair}
              placed={position !== null}
              onCrosshair={() => setCrosshair((c) => !c)}
              onHere={() => {
                setCrosshair(false)
                if (position)
                  map.current?.easeTo({
                    center: [position.lon, position.lat],
                    zoom: Math.max(15, map.current.getZoom()),
                  })
              }}
            />
          </>
        )}
      </Box>
      <LayersSheet
        open={choosing}
        lines={
          ofMap && parts
            ? linesOfMap(ofMap.id, parts, switched)
            : linesOfLayers(
                all.filter((l) => l.visits_of === null),
                hidden,
              )
        }
        searches={searches}
        search={search?.id ?? null}
        onSearch={(id) => {
          setUnder([])
          void setMeta('searched', ofMap && id ? { map: ofMap.id, search: id } : null)
        }}
        unasked={(ofMap?.searches?.length ?? 0) - searches.length}
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
      <AddPanel
        layers={mine}
        layer={layer}
        place={place}
        nearest={nearest}
        counted={records !== undefined}
        crosshair={useCrosshair}
        denied={denied}
        position={position}
        trail={trail !== null}
        onAdd={add}
      />
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
