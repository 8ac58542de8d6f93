import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useRef, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import { goTo } from '../../../shared/map/flyTo'
import { LazyMap } from '../../../shared/map/LazyMap'
import { useMapLayers } from '../../../shared/map/mapLayers'
import { useSearchedView } from '../../../shared/map/useSearchedView'
import { usePickedCards } from '../../../shared/map/pickedCards'
import { BenchShowing } from '../../../shared/parts/BenchShowing'
import { TextInput } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { RecordCard } from '../../../shared/parts/RecordCard'
import { Sheet } from '../../../shared/parts/Sheet'
import { MapWithTable } from '../../../shared/table/MapWithTable'
import { useBeside } from '../../../shared/table/useBeside'
import { t } from '../../../shared/texts'
import type { Box as Extent, LayerOnMap, MapDoc } from '../../../shared/types'
import { clamp } from '../../shelves/NewProgramme'
import { useProgramme } from '../../ProgrammePage'
import { AudiencePart } from '../AudiencePart'
import { SaveLine, SaveTrouble } from '../../unsaved/SaveState'
import { titled } from '../../unsaved/titled'
import { useAutosave } from '../../unsaved/useAutosave'
import { keys } from '../../queries/keys'
import { cardOf, editedMap, mapAdviceOf, mapViewOf } from '../../queries/publish'
import { BesidePart } from './BesidePart'
import { MapLayersPart } from './MapLayersPart'
import { MapNotes } from './MapNotes'
import { PartSettings } from './PartSettings'
import { SearchesPart } from './SearchesPart'
import { ViewpointsPart } from './ViewpointsPart'
import { WeightMeter } from './WeightMeter'
import { withPart } from './mapEdits'

/** Where a map is made: its layers, their marks, labels and cards, its audience; the map itself beside them. */
export function MapEditor() {
  const { map: id } = useParams()
  const map = useQuery(editedMap(Number(id)))
  if (map.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={map.error} />
      </Box>
    )
  return map.data ? <Bench key={id} saved={map.data} /> : null
}

function Bench({ saved }: { saved: MapDoc }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const [search, setSearch] = useState<string | null>(null)
  const asked = useQuery({ ...mapViewOf(saved.id, search), refetchInterval: 15_000 })
  const seen = useSearchedView(asked, search)
  // While a view is there, only what was asked and did not come is worth a word: documents say themselves how they are saved.
  const view = { data: seen.view, error: seen.view ? seen.error : asked.error }
  const advice = useQuery(mapAdviceOf(saved.id))
  const autosave = useAutosave(
    `/maps/${saved.id}`,
    saved,
    (next) => {
      client.setQueryData(keys.map(saved.id), next)
      for (const queryKey of [
        keys.mapView(saved.id),
        keys.mapAdvice(saved.id),
        keys.reach(`/maps/${saved.id}`),
        keys.mapCards(saved.id),
        keys.maps(programme.id),
      ])
        void client.invalidateQueries({ queryKey })
    },
    { incomplete: (d) => (titled(d.title) ? null : t('save.title')) },
  )
  const { doc, change } = autosave
  const shown = useRef<Extent>(saved.extent)
  const map = useRef<MapLibre | null>(null)
  const [opening, setOpening] = useState(saved.extent)
  const [zoom, setZoom] = useState<number | null>(null)
  const [openPart, setOpenPart] = useState<string | null>(
    saved.layers.length === 1 ? (saved.layers[0]?.id ?? null) : null,
  )
  // Whether a part is drawn when the map opens is seen at once.
  const hidden = useMemo(() => new Set(doc.layers.filter((l) => !l.visible).map((l) => l.id)), [doc.layers])
  const parts = useMemo(
    () => view.data?.layers.filter((l) => doc.layers.some((d) => d.id === l.id)),
    [view.data, doc.layers],
  )
  const { layers, error } = useMapLayers(`/maps/${saved.id}`, parts, hidden, seen.search)
  const cards = usePickedCards((part, record) => cardOf(saved.id, part, record))
  const beside = useBeside(`/maps/${saved.id}`, view.data, layers, cards, map, seen.search)
  const open = doc.layers.find((l) => l.id === openPart)
  const put = (next: LayerOnMap[], now = false) => change({ layers: next }, now)

  return (
    <BenchShowing
      plain
      benchWidth="400px"
      bench={
        <Box sx={{ display: 'grid', gap: 3.5, '& > *': { minWidth: 0 } }}>
          <Box>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('publish.maps')}
              </Link>
            </Typography>
            <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
              {doc.title || saved.title}
            </Typography>
            <SaveLine autosave={autosave} />
          </Box>
          <SaveTrouble autosave={autosave} />
          <Problems error={view.error ?? error ?? cards.error} />
          <MapNotes notes={view.data?.notes ?? []} />
          <MapLayersPart
            map={saved.id}
            parts={doc.layers}
            views={view.data?.layers ?? []}
            open={openPart}
            onOpen={setOpenPart}
            onChange={put}
          />
          <WeightMeter weight={advice.data?.weight} layers={doc.layers.filter((l) => l.visible).length} />
          {open && (
            <PartSettings
              key={open.id}
              part={open}
              view={view.data?.layers.find((l) => l.id === open.id)}
              why={advice.data?.why[open.id]}
              warnings={advice.data?.warnings[open.id] ?? []}
              zoom={zoom}
              lat={(doc.extent[1] + doc.extent[3]) / 2}
              // As the document is when a change comes: some are worked out first.
              onChange={(part, now) =>
                put(withPart(autosave.saver.snapshot().doc.layers, open.id, part), now)
              }
            />
          )}
          <Sheet>
            <Box sx={{ display: 'grid', gap: 3 }}>
              <TextInput
                label={t('map.title')}
                value={doc.title}
                error={doc.title.trim() ? null : t('save.title')}
                onChange={(title) => change({ title })}
              />
              <TextInput
                label={t('map.about')}
                hint={t('map.about.hint')}
                value={doc.about}
                multiline
                rows={3}
                onChange={(about) => change({ about })}
              />
            </Box>
          </Sheet>
          <BesidePart
            table={doc.beside}
            parts={doc.layers}
            views={view.data?.layers ?? []}
            onChange={(next) => change({ beside: next }, true)}
          />
          <SearchesPart
            list={doc.searches}
            parts={doc.layers}
            titleOf={(p) => p.title ?? view.data?.layers.find((l) => l.id === p.id)?.title ?? p.called}
            tried={seen.search}
            onTry={setSearch}
            onChange={(searches, now) => change({ searches }, now)}
          />
          <ViewpointsPart
            list={doc.viewpoints}
            shown={() => clamp(shown.current)}
            onGo={(extent) => {
              if (map.current) goTo(map.current, extent)
              else setOpening(extent)
            }}
            onChange={(viewpoints) => change({ viewpoints })}
          />
          <AudiencePart
            thing={`/maps/${saved.id}`}
            doc={doc}
            onChange={(shown) => change(shown, true)}
            onNewLink={() => change({ new_link: true }, true)}
            onLeave={(layer) =>
              put(
                doc.layers.filter((l) => l.layer !== layer),
                true,
              )
            }
          />
        </Box>
      }
      showing={
        <MapWithTable panel={beside.panel} comes={doc.layers.some((l) => l.id === doc.beside?.part)}>
          <LazyMap
            label={doc.title}
            extent={opening}
            layers={beside.layers}
            onPick={cards.pick}
            selected={cards.selected}
            photo={(id) => `/api/v1/attachments/${id}/thumb`}
            onReady={(m) => {
              map.current = m
              setZoom(m.getZoom())
            }}
            onMove={({ extent }) => {
              shown.current = extent
              beside.onMove(extent)
              if (map.current) setZoom(map.current.getZoom())
            }}>
            <Button
              variant="contained"
              sx={{ position: 'absolute', left: 12, top: 12 }}
              onClick={() => change({ extent: clamp(shown.current) }, true)}>
              {t('map.open_here')}
            </Button>
            {cards.card && (
              <RecordCard
                card={cards.card}
                photo={(id) => `/api/v1/attachments/${id}/view`}
                place={cards.place}
                onNext={cards.next}
                onClose={() => cards.pick(null, [])}
              />
            )}
          </LazyMap>
        </MapWithTable>
      }
    />
  )
}
