import Close from '@mui/icons-material/Close'
import PlaceOutlined from '@mui/icons-material/PlaceOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useParams } from 'react-router'
import { api, ApiError } from '../shared/api'
import { goTo } from '../shared/map/flyTo'
import { MapView, type Picked } from '../shared/map/MapView'
import { Legend } from '../shared/parts/Legend'
import { Problems } from '../shared/parts/Problems'
import { formatDate, formatInstant, formatNumber, t } from '../shared/texts'
import type { Box as Extent, CardView, MapView as View, Viewpoint } from '../shared/types'
import { Closed } from './Closed'
import { OpenHead } from './OpenHead'

/** A shared map: anyone with the link, no account. */
export function OpenMap() {
  const { token } = useParams()
  const base = `/open/maps/${token}`
  const [picked, setPicked] = useState<Picked | null>(null)
  const view = useQuery({
    queryKey: ['open-map', token],
    queryFn: () => api<View>('GET', base),
    refetchInterval: 15_000,
  })
  const card = useQuery({
    queryKey: ['open-card', token, picked?.id],
    queryFn: () => api<CardView>('GET', `${base}/records/${picked?.id}`),
    enabled: picked !== null,
  })
  const layers = useMemo(
    () =>
      view.data ? [{ source: view.data.source, data: view.data.features, layers: view.data.layers }] : [],
    [view.data],
  )
  const backdrops = useMemo(
    () => view.data?.backdrops.map((b) => ({ key: b.key, data: b.address })) ?? [],
    [view.data],
  )
  const map = useRef<MapLibre | null>(null)
  // A link may lead to a viewpoint; one that is no longer there opens the whole map.
  const [asked] = useState(location.hash.slice(1))
  // Chosen before the map was there: then it opens at that place.
  const [gone, setGone] = useState<Extent | null>(null)
  const opening = gone ?? view.data?.viewpoints.find((v) => v.id === asked)?.extent ?? view.data?.extent
  useEffect(() => {
    if (view.data) document.title = `${view.data.title} · ${view.data.programme}`
  }, [view.data])

  if (view.error instanceof ApiError && view.error.status === 404) return <Closed />
  if (view.error && !view.data)
    return (
      <Box sx={{ p: 4 }}>
        <Problems error={view.error} />
      </Box>
    )
  if (!view.data || !opening) return null
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <OpenHead title={view.data.title} programme={view.data.programme} />
      <Box component="main" sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <MapView
          label={view.data.title}
          backdrops={backdrops}
          extent={opening}
          onReady={(m) => {
            map.current = m
          }}
          layers={layers}
          onPick={setPicked}
          selected={picked}>
          <Paper
            variant="outlined"
            component="aside"
            aria-label={t('legend.title')}
            sx={{
              position: 'absolute',
              left: 12,
              top: 12,
              p: 3,
              width: { xs: 180, sm: 220 },
              fontSize: { xs: '0.88rem', sm: '0.95rem' },
            }}>
            <Typography variant="h3" sx={{ display: 'flex', justifyContent: 'space-between', mb: 1.5 }}>
              {view.data.by ?? view.data.title}
              <span>{formatNumber(view.data.total)}</span>
            </Typography>
            <Legend lines={view.data.legend} single={view.data.title} />
            <Viewpoints
              list={view.data.viewpoints}
              onGo={(v) => {
                if (map.current) goTo(map.current, v.extent)
                else setGone(v.extent)
                history.replaceState(null, '', `#${v.id}`)
              }}
            />
          </Paper>
          {picked && card.data?.id === picked.id && (
            <Card card={card.data} token={token ?? ''} onClose={() => setPicked(null)} />
          )}
        </MapView>
      </Box>
    </Box>
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

function Card({ card, token, onClose }: { card: CardView; token: string; onClose: () => void }) {
  const [index, setIndex] = useState(0)
  const photos = card.photos.filter((p) => p.state === 'stored')
  const photo = photos[index % Math.max(1, photos.length)]
  const onWay = card.photos.some((p) => p.state === 'on_way')
  return (
    <Paper
      component="section"
      aria-label={card.name ?? t('record.unnamed')}
      sx={{
        position: 'absolute',
        boxShadow: '0 8px 28px #1d2b2e40',
        overflow: 'auto',
        border: '1px solid #D8CFBC',
        left: { xs: 0, sm: 'auto' },
        right: { xs: 0, sm: 12 },
        bottom: { xs: 0, sm: 'auto' },
        top: { sm: 108 },
        width: { sm: 320 },
        maxHeight: { xs: '62%', sm: 'calc(100% - 150px)' },
      }}>
      <IconButton
        onClick={onClose}
        aria-label={t('close')}
        sx={{
          position: 'absolute',
          right: 8,
          top: 8,
          bgcolor: '#FFFCF5',
          border: '1px solid #D8CFBC',
          '&:hover': { bgcolor: '#F4EFE4' },
        }}>
        <Close fontSize="small" />
      </IconButton>
      {photo && (
        <Box
          component="button"
          type="button"
          onClick={() => setIndex((i) => i + 1)}
          disabled={photos.length < 2}
          aria-label={t('card.photo', { n: (index % photos.length) + 1, of: photos.length })}
          sx={{
            display: 'block',
            border: 0,
            p: 0,
            width: '100%',
            cursor: photos.length > 1 ? 'pointer' : 'default',
            bgcolor: '#E9DFC8',
          }}>
          <img
            src={`/api/v1/open/maps/${token}/photos/${photo.id}/view`}
            alt={t('record.photo', { name: card.name ?? '' })}
            style={{ display: 'block', width: '100%', height: 190, objectFit: 'cover' }}
          />
        </Box>
      )}
      <Box sx={{ p: 4 }}>
        <Typography variant="h2" sx={{ pr: photo ? 0 : 9, mb: 2 }}>
          {card.name ?? t('record.unnamed')}
        </Typography>
        {onWay && (
          <Typography variant="body2" sx={{ mb: 2, color: 'info.main' }}>
            {t('record.photo.on_way')}
          </Typography>
        )}
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'auto 1fr',
            columnGap: 4,
            rowGap: 1,
            '& dt': { color: 'text.secondary', fontSize: '0.9rem' },
            '& dd': { m: 0, fontWeight: 600 },
          }}>
          {card.values
            .filter((v) => v.text !== card.name)
            .map((v) => (
              <Box key={v.label} sx={{ display: 'contents' }}>
                <dt>{v.label}</dt>
                <dd>{v.kind === 'date' ? formatDate(v.text) : v.text}</dd>
              </Box>
            ))}
          <dt>{t('record.collected')}</dt>
          <dd>{formatInstant(card.collected_at)}</dd>
        </Box>
      </Box>
    </Paper>
  )
}
