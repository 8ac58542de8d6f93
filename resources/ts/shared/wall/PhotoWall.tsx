import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useEffect, useRef, useState } from 'react'
import { Select } from '../parts/Labelled'
import { Problems } from '../parts/Problems'
import { Searches } from '../parts/Searches'
import { t } from '../texts'
import type { MapView } from '../types'
import { PhotoGrid } from './PhotoGrid'
import { PhotoPage } from './PhotoPage'
import { useWall, type WallPhoto } from './useWall'

type Props = {
  view: MapView
  base: string
  /** A photo's address. */
  photo: (id: string, size: 'thumb' | 'view') => string
  search: string | null
  onSearch: (search: string | null) => void
  /** The photo that is open; null: all of them. */
  opened: string | null
  onOpen: (photo: string) => void
  onLeave: () => void
  onClose: () => void
  /** Where it lies on the map, with its card. */
  onMap: (photo: WallPhoto) => void
}

/** The records of a map leafed through by their photos. */
export function PhotoWall(props: Props) {
  const { view, opened, onLeave, onClose } = props
  const [part, setPart] = useState<string | null>(null)
  // Whoever comes by a photo's own address begins with that one; whoever came to all of them stays there.
  const [from, setFrom] = useState(opened)
  const wall = useWall(props.base, props.search, part, from)
  const narrow = (change: () => void) => {
    setFrom(null)
    change()
  }
  const one = opened === null ? -1 : wall.photos.findIndex((p) => p.id === opened)
  const last = useRef<string | null>(null)
  if (opened !== null) last.current = opened
  const missing = opened !== null && one < 0 && wall.isSuccess && !wall.isFetching
  useEffect(() => {
    // The address leads to one that is not among these: one begins anew with it.
    if (missing) setFrom(opened)
  }, [missing, opened])
  return (
    <Dialog
      open
      fullScreen
      onClose={opened === null ? onClose : onLeave}
      slotProps={{
        paper: {
          'aria-label': t('photowall.title', { title: view.title }),
          sx: { bgcolor: 'background.default' },
        },
      }}>
      {opened === null ? (
        <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 3, alignContent: 'start', overflow: 'auto' }}>
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'start' }}>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
                {t('photowall.title', { title: view.title })}
              </Typography>
              <Typography color="text.secondary" role="status">
                {wall.data
                  ? t(wall.count === 0 ? 'photowall.none' : 'photowall.count', { n: wall.count })
                  : wall.isFetching && t('photowall.coming')}
              </Typography>
            </Box>
            <IconButton aria-label={t('photowall.back')} onClick={onClose}>
              <Close />
            </IconButton>
          </Box>
          <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'center' }}>
            {view.layers.length > 1 && (
              <Box sx={{ mb: 2 }}>
                <Select
                  label={t('photowall.layer')}
                  value={part ?? ''}
                  onChange={(v) => narrow(() => setPart(v || null))}>
                  <option value="">{t('photowall.layer.all')}</option>
                  {view.layers.map((l) => (
                    <option key={l.id} value={l.id}>
                      {l.title}
                    </option>
                  ))}
                </Select>
              </Box>
            )}
            <Searches
              list={view.searches}
              chosen={props.search}
              onChoose={(next) => narrow(() => props.onSearch(next))}
            />
          </Box>
          <Problems error={wall.error} />
          <PhotoGrid wall={wall} photo={props.photo} onOpen={props.onOpen} last={last.current} />
        </Box>
      ) : (
        <PhotoPage
          {...props}
          opened={opened}
          shown={wall.photos[one] ?? null}
          error={wall.error}
          before={wall.photos[one - 1] ?? null}
          next={one < 0 ? null : (wall.photos[one + 1] ?? null)}
          wall={wall}
          onAll={onLeave}
          again={
            <Button onClick={() => narrow(onLeave)} variant="outlined">
              {t('photowall.all')}
            </Button>
          }
        />
      )}
    </Dialog>
  )
}
