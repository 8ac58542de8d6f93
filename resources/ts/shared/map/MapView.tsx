import Box from '@mui/material/Box'
import maplibregl, {
  type GeoJSONSource,
  type LayerSpecification,
  type Map as MapLibre,
  type PaddingOptions,
} from 'maplibre-gl'
import 'maplibre-gl/dist/maplibre-gl.css'
import { useEffect, useRef, type ReactNode } from 'react'
import { paint } from '../paint'
import { t } from '../texts'
import type { Box as Extent } from '../types'
import { addressed, backdropStyle, type BackdropData } from './backdrop'
import { useCorners, type Corners } from './corners'
import { corners as sidesOf } from './flyTo'
import { openGathered } from './openGathered'
import { providePegs } from './pegs'
import type { Picked } from './picked'
import { putLayers, type MapLayer } from './putLayers'

export type { Picked } from './picked'
export type { MapLayer } from './putLayers'

type Props = {
  label: string
  backdrops: BackdropData[]
  extent: Extent
  /** Pixels kept free around the extent. */
  padding?: number | PaddingOptions
  layers?: MapLayer[]
  /** A tap on a record, or null for a tap on nothing; and all that lie under it, the topmost first. */
  onPick?: (picked: Picked | null, under: Picked[]) => void
  /** A tap anywhere, for placing something. */
  onTap?: (spot: { lon: number; lat: number }) => void
  selected?: Picked | null
  /** Corners of a line or an area that can be moved, taken away, and parted by new ones between. */
  corners?: Corners | null
  /** Where the person stands, with the accuracy in metres. */
  position?: { lon: number; lat: number; accuracy: number } | null
  /** What is shown, after each move; `byHand` when the person made it, not the page. */
  onMove?: (view: { extent: Extent; lon: number; lat: number; byHand: boolean }) => void
  /** Pixels from the edge of the map to the frame that `extent` is to be told of. */
  frame?: number
  onReady?: (map: MapLibre) => void
  controls?: boolean
  /** Where a photo that stands for a record is; null where it is not to be had. */
  photo?: (id: string) => string | null
  children?: ReactNode
}

/** How many pixels a tap may miss a peg by. */
const REACH = 12

const NOTHING: GeoJSON.FeatureCollection = { type: 'FeatureCollection', features: [] }
/** Of more than these under one tap nobody leafs to the last. */
const MOST_UNDER = 50

/** A map with a backdrop, records drawn by their looks, and a way to pick one. */
export function MapView({
  label,
  backdrops,
  extent,
  padding = 20,
  layers = [],
  onPick,
  onTap,
  selected,
  corners,
  position,
  onMove,
  frame = 0,
  onReady,
  controls = true,
  photo,
  children,
}: Props) {
  const holder = useRef<HTMLDivElement>(null)
  const map = useRef<MapLibre | null>(null)
  const byPage = useRef(false)
  const latest = useRef({ layers, onPick, onTap, onMove, photo })
  latest.current = { layers, onPick, onTap, onMove, photo }
  const backdropKeys = backdrops.map((b) => b.key).join()

  useEffect(() => {
    if (!holder.current) return
    const [ground, release] = addressed(backdrops)
    const m = new maplibregl.Map({
      container: holder.current,
      style: backdropStyle(ground),
      bounds: sidesOf(extent),
      fitBoundsOptions: { padding },
      attributionControl: { compact: true },
      dragRotate: false,
      pitchWithRotate: false,
      maxZoom: 19,
      fadeDuration: 0,
      locale: {
        'Map.Title': t('map.canvas'),
        'NavigationControl.ZoomIn': t('map.zoom.in'),
        'NavigationControl.ZoomOut': t('map.zoom.out'),
        'AttributionControl.ToggleAttribution': t('map.sources'),
      },
    })
    m.on('error', (e) => {
      const { sourceId } = e as { sourceId?: string }
      // A backdrop that cannot be read (gone from a phone's store, cut on its way) takes nothing else with it.
      if (sourceId && ground.some(({ key }) => key === sourceId))
        m.getSource<GeoJSONSource>(sourceId)?.setData(NOTHING)
      else console.error(e.error)
    })
    m.touchZoomRotate.disableRotation()
    if (controls) m.addControl(new maplibregl.NavigationControl({ showCompass: false }), 'top-right')
    m.addControl(new maplibregl.ScaleControl({ maxWidth: 110 }), controls ? 'bottom-right' : 'bottom-left')
    providePegs(m, (id) => latest.current.photo?.(id) ?? null)
    m.on('load', () => {
      putLayers(m, latest.current.layers)
      holder.current?.setAttribute('data-ready', 'true')
      onReady?.(m)
    })
    m.on('click', (e) => {
      latest.current.onTap?.({ lon: e.lngLat.lng, lat: e.lngLat.lat })
      const pick = latest.current.onPick
      if (!pick) return
      const drawn = latest.current.layers
        .flatMap((l) => (l.layers as LayerSpecification[]).map((s) => s.id))
        .filter((id) => m.getLayer(id))
      const { x, y } = e.point
      const hits = m.queryRenderedFeatures(
        [
          [x - REACH, y - REACH],
          [x + REACH, y + REACH],
        ],
        { layers: drawn },
      )
      const gathered = hits.find((hit) => hit.properties.cluster === true)
      if (gathered) {
        void openGathered(m, gathered).then((those) => those && pick(those[0] ?? null, those))
        return
      }
      const under = new Map<string, Picked>()
      for (const hit of hits) {
        const id = String(hit.properties.id)
        const at = hit.geometry.type === 'Point' ? hit.geometry.coordinates : null
        // A record may be drawn by several layers of a style, and in several tiles.
        if (!under.has(`${hit.source} ${id}`))
          under.set(`${hit.source} ${id}`, {
            id,
            source: hit.source,
            around: hit.layer.type !== 'symbol',
            lon: at ? (at[0] as number) : e.lngLat.lng,
            lat: at ? (at[1] as number) : e.lngLat.lat,
          })
      }
      const all = [...under.values()].slice(0, MOST_UNDER)
      pick(all[0] ?? null, all)
    })
    // Moves do not reliably name the event that began them, so the page's own moves are told apart instead:
    // they end within their call.
    let resized = false
    const tell = (made: 'hand' | 'page') => {
      const byHand = made === 'hand' && !byPage.current && !resized
      resized = false
      const { clientWidth: width, clientHeight: height } = m.getContainer()
      // A map that is taken away while it moves ends that move without a size: it would be told to show a spot.
      if (width === 0 || height === 0) return
      const [southWest, northEast] = [
        m.unproject([frame, height - frame]),
        m.unproject([width - frame, frame]),
      ]
      const c = m.getCenter()
      latest.current.onMove?.({
        extent: [southWest.lng, southWest.lat, northEast.lng, northEast.lat],
        lon: c.lng,
        lat: c.lat,
        byHand,
      })
    }
    m.on('resize', () => {
      resized = true
    })
    m.on('moveend', () => tell('hand'))
    m.once('load', () => tell('page'))
    map.current = m
    return () => {
      map.current = null
      m.remove()
      release()
    }
    // The map is made once for a set of backdrops; everything else is brought to it below.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [backdropKeys])

  useEffect(() => {
    const m = map.current
    if (m?.isStyleLoaded() || m?.loaded()) putLayers(m, layers)
    else m?.once('idle', () => map.current === m && putLayers(m, latest.current.layers))
  }, [layers])

  useEffect(() => {
    byPage.current = true
    map.current?.fitBounds(sidesOf(extent), { padding, animate: false })
    byPage.current = false
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [extent.join()])

  useCorners(map, corners ?? null)
  useMark(map, selected ? [selected.lon, selected.lat] : null, 'selected', selected?.around ? 0 : -16)
  useMark(map, position ? [position.lon, position.lat] : null, 'position', 0)

  return (
    <Box sx={{ position: 'relative', width: '100%', height: '100%', minHeight: 120 }}>
      <Box
        ref={holder}
        role="region"
        aria-label={label}
        data-testid="map"
        sx={{
          '&, &.maplibregl-map': { position: 'absolute', inset: 0 },
          '& .maplibregl-canvas:focus-visible': { outlineOffset: -3 },
        }}
      />
      {children}
    </Box>
  )
}

/** A mark that is a page element: the ring around the picked record, the dot where one stands. */
function useMark(
  map: React.RefObject<MapLibre | null>,
  at: [number, number] | null,
  kind: 'selected' | 'position',
  up: number,
) {
  const lon = at?.[0]
  const lat = at?.[1]
  useEffect(() => {
    const m = map.current
    if (!m || lon === undefined || lat === undefined) return
    const element = document.createElement('div')
    element.setAttribute('aria-label', t(kind === 'selected' ? 'map.selected' : 'map.you'))
    element.setAttribute('role', 'img')
    const size = kind === 'selected' ? 34 : 18
    Object.assign(
      element.style,
      kind === 'selected'
        ? {
            width: `${size}px`,
            height: `${size}px`,
            borderRadius: '50%',
            border: `3px solid ${paint.buoy}`,
            pointerEvents: 'none',
          }
        : {
            width: `${size}px`,
            height: `${size}px`,
            borderRadius: '50%',
            background: paint.tide,
            border: `3px solid ${paint.white}`,
            boxShadow: `0 0 0 7px ${paint.tide}40`,
            pointerEvents: 'none',
          },
    )
    const marker = new maplibregl.Marker({ element, offset: [0, up] }).setLngLat([lon, lat]).addTo(m)
    return () => void marker.remove()
  }, [map, lon, lat, kind, up])
}
