import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useRef, useState } from 'react'
import { paint } from '../../paint'
import { ago, t } from '../../texts'
import { asFollowed, followedIn, type Crew } from '../crews'
import { usePicking } from '../picks'

/** Near enough to see where a crew walks. */
const NEAR = 14

/** Follows a crew as it is heard from, until it is let go or the map is moved by hand; opens the card of one. */
export function useCrews(map: { current: MapLibre | null }, ready: boolean, tile: string) {
  const { picks, show, crews } = usePicking()
  const [opened, setOpened] = useState<string | null>(null)
  const followed = followedIn(picks)
  const crew = crews?.find((c) => c.key === followed?.key) ?? null
  const [lon, lat] = [crew?.place?.lon ?? null, crew?.place?.lat ?? null]
  const began = useRef<string | null>(null)
  useEffect(() => {
    if (lon === null || lat === null || !map.current) {
      began.current = null
      return
    }
    const first = began.current !== (followed?.key ?? null)
    began.current = followed?.key ?? null
    map.current.flyTo({
      center: [lon, lat],
      // How near one looks is chosen once; after that it is whoever looks that chooses.
      ...(first ? { zoom: Math.max(NEAR, map.current.getZoom()) } : {}),
      duration: 400,
    })
  }, [map, ready, lon, lat, followed?.key])
  const key = opened ?? followed?.key ?? null
  return {
    card: crews?.find((c) => c.key === key) ?? null,
    following: key !== null && key === followed?.key,
    open: setOpened,
    follow: () => key !== null && show(followed?.tile ?? tile, asFollowed(key)),
    leave: () => followed && show(followed.tile, null),
  }
}

type CardProps = { crew: Crew; following: boolean; onFollow: () => void; onClose: () => void }

/** Who it is, when last heard, with how much to send. */
export function CrewCard({ crew, following, onFollow, onClose }: CardProps) {
  return (
    <Paper
      component="section"
      aria-label={crew.called}
      sx={{
        position: 'absolute',
        zIndex: 3,
        right: 12,
        bottom: 44,
        width: 250,
        maxWidth: 'calc(100% - 24px)',
        p: 3,
        border: `1px solid ${paint.line}`,
        boxShadow: `0 8px 28px ${paint.ink}40`,
      }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
        <Typography variant="h3" sx={{ overflowWrap: 'anywhere' }}>
          {crew.called}
        </Typography>
        {!following && (
          <IconButton size="small" aria-label={t('close')} onClick={onClose} sx={{ m: -1 }}>
            <Close fontSize="small" />
          </IconButton>
        )}
      </Box>
      {crew.name && crew.crew && <Box>{crew.crew}</Box>}
      <Box sx={{ color: 'text.secondary', fontSize: '0.9rem' }}>
        {crew.place && <div>{t('crews.place', { ago: ago(crew.place.at) })}</div>}
        <div>{crew.heard_at === null ? t('crews.never') : t('crews.heard', { ago: ago(crew.heard_at) })}</div>
        {crew.waiting > 0 && <div>{t('crews.waiting', { n: crew.waiting })}</div>}
      </Box>
      <Button size="small" variant="outlined" onClick={onFollow} aria-pressed={following} sx={{ mt: 2 }}>
        {t(following ? 'crews.leave' : 'crews.follow')}
      </Button>
    </Paper>
  )
}
