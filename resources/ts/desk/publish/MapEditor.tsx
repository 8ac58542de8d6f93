import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { Map as MapLibre } from 'maplibre-gl'
import { useMemo, useRef, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import { goTo } from '../../shared/map/flyTo'
import { LazyMap } from '../../shared/map/LazyMap'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Box as Extent, Layer, MapDoc } from '../../shared/types'
import { clamp } from '../shelves/NewProgramme'
import { BACKDROPS } from '../../shared/map/backdrop'
import { useProgramme } from '../ProgrammePage'
import { AudiencePart } from './AudiencePart'
import { LookPart } from './LookPart'
import { SaveLine, SaveTrouble } from '../unsaved/SaveState'
import { titled } from '../unsaved/titled'
import { useAutosave } from '../unsaved/useAutosave'
import { ViewpointsPart } from './ViewpointsPart'
import { keys } from '../queries/keys'
import { layerOf } from '../queries/layers'
import { editedMap, mapViewOf, mapWarningsOf } from '../queries/publish'

/** Where a map is made: marks, card, audience; the map itself beside them. */
export function MapEditor() {
  const { map: id } = useParams()
  const map = useQuery(editedMap(Number(id)))
  const layer = useQuery(layerOf(map.data?.layer))
  if (map.error ?? layer.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={map.error ?? layer.error} />
      </Box>
    )
  return map.data && layer.data ? <Bench key={id} saved={map.data} layer={layer.data} /> : null
}

function Bench({ saved, layer }: { saved: MapDoc; layer: Layer }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const view = useQuery({ ...mapViewOf(saved.id), refetchInterval: 15_000 })
  const warnings = useQuery(mapWarningsOf(saved.id))
  const autosave = useAutosave(
    `/maps/${saved.id}`,
    saved,
    (next) => {
      client.setQueryData(keys.map(saved.id), next)
      void client.invalidateQueries({ queryKey: keys.mapView(saved.id) })
      void client.invalidateQueries({ queryKey: keys.mapWarnings(saved.id) })
      void client.invalidateQueries({ queryKey: keys.maps(programme.id) })
    },
    { incomplete: (d) => (titled(d.title) ? null : t('save.title')) },
  )
  const { doc, change } = autosave
  const shown = useRef<Extent>(saved.extent)
  const map = useRef<MapLibre | null>(null)
  const [opening, setOpening] = useState(saved.extent)
  const layers = useMemo(
    () =>
      view.data ? [{ source: view.data.source, data: view.data.features, layers: view.data.layers }] : [],
    [view.data],
  )

  return (
    <BenchShowing
      plain
      benchWidth="400px"
      bench={
        <Box sx={{ display: 'grid', gap: 3.5 }}>
          <Box>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('publish.maps')}
              </Link>{' '}
              › {layer.design.title}
            </Typography>
            <Typography variant="h1">{doc.title || saved.title}</Typography>
            <SaveLine autosave={autosave} />
          </Box>
          <SaveTrouble autosave={autosave} />
          <TextInput
            label={t('map.title')}
            value={doc.title}
            error={doc.title.trim() ? null : t('save.title')}
            onChange={(title) => change({ title })}
          />
          <LookPart
            layer={layer}
            look={doc.look}
            legend={view.data?.legend}
            warnings={warnings.data?.warnings ?? []}
            onChange={(look, now) => change({ look }, now)}
          />
          <Sheet title={t('map.card')}>
            <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
              {t('map.card.hint')}
            </Typography>
            <Box sx={{ display: 'grid' }}>
              {layer.design.fields
                .filter((f) => f.kind !== 'heading')
                .map((f) => (
                  <FormControlLabel
                    key={f.key}
                    label={f.label}
                    control={
                      <Checkbox
                        size="small"
                        checked={doc.card.fields.includes(f.key)}
                        onChange={(e) =>
                          change(
                            {
                              card: {
                                ...doc.card,
                                fields: layer.design.fields
                                  .map((x) => x.key)
                                  .filter((k) =>
                                    k === f.key ? e.target.checked : doc.card.fields.includes(k),
                                  ),
                              },
                            },
                            true,
                          )
                        }
                      />
                    }
                  />
                ))}
              {layer.design.photos.allowed && (
                <FormControlLabel
                  label={t('form.photos')}
                  control={
                    <Checkbox
                      size="small"
                      checked={doc.card.photos}
                      onChange={(e) => change({ card: { ...doc.card, photos: e.target.checked } }, true)}
                    />
                  }
                />
              )}
            </Box>
          </Sheet>
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
            audience={doc.audience}
            address={doc.address}
            onChange={(audience) => change({ audience }, true)}
            onNewLink={() => change({ new_link: true }, true)}
          />
        </Box>
      }
      showing={
        <LazyMap
          label={doc.title}
          backdrops={BACKDROPS}
          extent={opening}
          layers={layers}
          onReady={(m) => {
            map.current = m
          }}
          onMove={({ extent }) => {
            shown.current = extent
          }}>
          <Button
            variant="contained"
            sx={{ position: 'absolute', left: 12, top: 12 }}
            onClick={() => change({ extent: clamp(shown.current) }, true)}>
            {t('map.open_here')}
          </Button>
        </LazyMap>
      }
    />
  )
}
