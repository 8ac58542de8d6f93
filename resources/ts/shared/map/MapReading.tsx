import LayersOutlined from '@mui/icons-material/LayersOutlined'
import PhotoLibraryOutlined from '@mui/icons-material/PhotoLibraryOutlined'
import PlaceOutlined from '@mui/icons-material/PlaceOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import useMediaQuery from '@mui/material/useMediaQuery'
import { useQuery } from '@tanstack/react-query'
import type { Map as MapLibre } from 'maplibre-gl'
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { api, ApiError } from '../api'
import { served } from './backdrop'
import { goTo } from './flyTo'
import { asking, sourceOf, useMapLayers } from './mapLayers'
import { MapView } from './MapView'
import { useSearchedView } from './useSearchedView'
import { usePickedCards } from './pickedCards'
import { MapLegend } from '../parts/MapLegend'
import { Problems } from '../parts/Problems'
import { Searches } from '../parts/Searches'
import { RecordCard } from '../parts/RecordCard'
import { MapWithTable } from '../table/MapWithTable'
import { useBeside } from '../table/useBeside'
import { t } from '../texts'
import type { WallPhoto } from '../wall/useWall'
import { useWallAddress } from '../wall/wallAddress'
import type { Box as Extent, CardView, MapView as View, Viewpoint } from '../types'

// Most who look at a map never open it.
const PhotoWall = lazy(() => import('../wall/PhotoWall').then((m) => ({ default: m.PhotoWall })))

type Props = {
  /** where its parts are asked for */
  base: string
  /** where the map itself is asked for */
  address: string
  photo: (id: string, size: 'thumb' | 'view') => string
  /** above the map, once it is there */
  head: (view: View) => ReactNode
  /** instead of it, where it is not to be had */
  gone: ReactNode
}

/** A map as it is read: legend, words, searches, viewpoints, cards, and what is beside it. */
export function MapReading({ base, address, photo, head, gone: closed }: Props) {
  // A link may lead to a search; one that is no longer there shows everything.
  const [search, setSearch] = useState(() => new URLSearchParams(location.search).get('search'))
  const view = useQuery({
    queryKey: ['map-read', address, search],
    queryFn: () => api<View>('GET', `${address}${asking(search, '?')}`),
    networkMode: 'always',
    refetchOnReconnect: true,
    retry: 1,
    refetchInterval: 15_000,
  })
  const shown = useSearchedView(view, search)
  // What a visitor has switched, against what its makers chose.
  const [switched, setSwitched] = useState<Record<string, boolean>>({})
  const hidden = useMemo(
    () => new Set(shown.view?.layers.filter((l) => !(switched[l.id] ?? l.visible)).map((l) => l.id)),
    [shown.view, switched],
  )
  const { layers, error } = useMapLayers(base, shown.view?.layers, hidden, shown.search)
  const cards = usePickedCards((part, record) => ({
    queryKey: ['card-read', base, part, record] as const,
    queryFn: () => api<CardView>('GET', `${base}/layers/${part}/records/${record}`),
  }))
  const map = useRef<MapLibre | null>(null)
  const beside = useBeside(base, shown.view, layers, cards, map, shown.search)
  const backdrops = useMemo(() => shown.view?.backdrops.map(served) ?? [], [shown.view])
  // What stands at the side covers nothing that the map opens with.
  const wide = useMediaQuery('(min-width: 900px)')
  // A link may lead to a viewpoint; one that is no longer there opens the whole map.
  const [asked] = useState(location.hash.slice(1))
  // Chosen before the map was there: then it opens at that place.
  const [gone, setGone] = useState<Extent | null>(null)
  const opening = gone ?? shown.view?.viewpoints.find((v) => v.id === asked)?.extent ?? shown.view?.extent
  const wall = useWallAddress()
  const ask = (next: string | null) => {
    setSearch(next)
    cards.pick(null, [])
    history.replaceState(history.state, '', `${location.pathname}${asking(next, '?')}${location.hash}`)
  }
  const onMap = wall.opened === null
  useEffect(() => {
    // What was asked among the photos stands in the address of the map as well, to which one steps back from there.
    if (onMap && new URLSearchParams(location.search).get('search') !== search)
      history.replaceState(history.state, '', `${location.pathname}${asking(search, '?')}${location.hash}`)
  }, [onMap, search])
  const showOnMap = ({ part, record, lon, lat }: WallPhoto) => {
    wall.close()
    // A layer that was switched off is switched on for it.
    setSwitched((s) => ({ ...s, [part]: true }))
    if (lon === null || lat === null) return
    const picked = { id: record, lon, lat, source: sourceOf(part) }
    cards.pick(picked, [picked])
    map.current?.easeTo({ center: [lon, lat], zoom: Math.max(map.current.getZoom(), 14), duration: 400 })
  }
  useEffect(() => {
    if (shown.view) document.title = `${shown.view.title} · ${shown.view.programme}`
  }, [shown.view])

  if (view.error instanceof ApiError && view.error.status === 404) return closed
  if (view.error && !shown.view)
    return (
      <Box sx={{ p: 4 }}>
        <Problems error={view.error} />
      </Box>
    )
  if (!shown.view || !opening) return null
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      {head(shown.view)}
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <MapWithTable panel={beside.panel}>
          <MapView
            label={shown.view.title}
            backdrops={backdrops}
            extent={opening}
            padding={wide ? { top: 20, right: 60, bottom: 20, left: 292 } : 20}
            onReady={(m) => {
              map.current = m
            }}
            layers={beside.layers}
            onMove={({ extent }) => beside.onMove(extent)}
            onPick={cards.pick}
            selected={cards.selected}
            photo={(id) => photo(id, 'thumb')}>
            <Side
              view={shown.view}
              hidden={hidden}
              error={shown.error ?? error ?? cards.error}
              search={shown.error ? shown.search : search}
              onSearch={ask}
              onPhotos={() => wall.open(null)}
              onShow={(part, shown) => setSwitched((s) => ({ ...s, [part]: shown }))}
              onGo={(v) => {
                if (map.current) goTo(map.current, v.extent)
                else setGone(v.extent)
                history.replaceState(null, '', `${location.pathname}${location.search}#${v.id}`)
              }}
            />
            {cards.card && (
              <RecordCard
                card={cards.card}
                photo={(id) => photo(id, 'view')}
                place={cards.place}
                onNext={cards.next}
                onClose={() => cards.pick(null, [])}
              />
            )}
          </MapView>
        </MapWithTable>
      </Box>
      {wall.opened && (
        <Suspense fallback={null}>
          <PhotoWall
            view={shown.view}
            base={base}
            photo={photo}
            search={shown.search}
            onSearch={ask}
            opened={wall.opened.photo}
            onOpen={wall.open}
            onLeave={wall.leave}
            onClose={wall.close}
            onMap={showOnMap}
          />
        </Suspense>
      )}
    </Box>
  )
}

type SideProps = {
  view: View
  hidden: ReadonlySet<string>
  error: Error | null
  search: string | null
  onSearch: (search: string | null) => void
  onPhotos: () => void
  onShow: (part: string, shown: boolean) => void
  onGo: (viewpoint: Viewpoint) => void
}

/** Legend, words about the map, viewpoints; on a small screen a long one is folded, so that there is a map to see. */
function Side({ view, hidden, error, search, onSearch, onPhotos, onShow, onGo }: SideProps) {
  const small = useMediaQuery('(max-width: 899.95px)')
  const long = view.layers.length > 1 || view.about !== ''
  const [opened, setOpened] = useState<boolean | null>(null)
  const open = opened ?? !(small && long)
  const photos = view.photos && (
    <Button
      size="small"
      variant="text"
      color="inherit"
      startIcon={<PhotoLibraryOutlined />}
      onClick={onPhotos}
      sx={{ minHeight: 44 }}>
      {t('photowall.open')}
    </Button>
  )
  return (
    <Paper
      variant="outlined"
      component="aside"
      aria-label={t('legend.title')}
      sx={{
        position: 'absolute',
        left: 12,
        top: 12,
        p: open ? 3 : 0,
        width: open ? { xs: long ? 'min(280px, calc(100% - 76px))' : 180, sm: long ? 260 : 220 } : 'auto',
        maxHeight: 'calc(100% - 76px)',
        overflow: 'auto',
        fontSize: { xs: '0.88rem', sm: '0.95rem' },
      }}>
      {long && small && (
        <Button
          size="small"
          variant="text"
          color="inherit"
          startIcon={<LayersOutlined />}
          aria-expanded={open}
          onClick={() => setOpened(!open)}
          sx={{ minHeight: 44 }}>
          {t(open ? 'legend.close' : 'legend.open')}
        </Button>
      )}
      {!open && photos}
      {open && (
        <>
          <Problems error={error} />
          {view.about !== '' && (
            <Typography variant="body2" sx={{ mb: 2, whiteSpace: 'pre-line', overflowWrap: 'anywhere' }}>
              {view.about}
            </Typography>
          )}
          <Searches list={view.searches} chosen={search} onChoose={onSearch} />
          {photos}
          <MapLegend layers={view.layers} hidden={hidden} onShow={onShow} />
          {view.notes.map((note) => (
            <Typography key={note} variant="body2" color="text.secondary" sx={{ mt: 2 }}>
              {note}
            </Typography>
          ))}
          <Viewpoints list={view.viewpoints} onGo={onGo} />
        </>
      )}
    </Paper>
  )
}

/** Places of the map that its makers kept; each can be linked to. */
function Viewpoints({ list, onGo }: { list: Viewpoint[]; onGo: (viewpoint: Viewpoint) => void }) {
  if (list.length === 0) return null
  return (
    <Box
      component="nav"
      aria-label={t('viewpoints.title')}
      sx={{
        mt: 2,
        pt: 2,
        borderTop: '1px solid',
        borderColor: 'divider',
        display: 'grid',
        maxHeight: { xs: 110, sm: 220 },
        overflow: 'auto',
      }}>
      {list.map((v) => (
        <Button
          key={v.id}
          size="small"
          variant="text"
          color="inherit"
          startIcon={<PlaceOutlined />}
          onClick={() => onGo(v)}
          sx={{ justifyContent: 'flex-start', textAlign: 'left' }}>
          {v.title}
        </Button>
      ))}
    </Box>
  )
}
