import DeleteOutline from '@mui/icons-material/DeleteOutline'
import PlaceOutlined from '@mui/icons-material/PlaceOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { t } from '../../shared/texts'
import type { Box as Extent, Viewpoint } from '../../shared/types'
import { setMeta } from '../db'
import { useMeta } from '../phoneState'

const NONE: Viewpoint[] = []

/** Places to go back to: those of the programme's maps, and those that were kept on this phone. */
export function ViewpointsPart({
  shared,
  view,
  onGo,
}: {
  shared: Viewpoint[]
  view: Extent | null
  onGo: (extent: Extent) => void
}) {
  const own = useMeta<Viewpoint[]>('viewpoints') ?? NONE
  const [name, setName] = useState<string | null>(null)
  const keep = () => {
    const title = name?.trim()
    if (!title || !view) return
    void setMeta('viewpoints', [...own, { id: String(Date.now()), title, extent: view }])
    setName(null)
  }
  const place = (v: Viewpoint) => (
    <Button
      key={v.id}
      variant="outlined"
      color="inherit"
      startIcon={<PlaceOutlined />}
      sx={{ minHeight: 52, flex: 1, justifyContent: 'flex-start', textAlign: 'left' }}
      onClick={() => onGo(v.extent)}>
      {v.title}
    </Button>
  )
  return (
    <Box
      component="section"
      aria-label={t('viewpoints.title')}
      sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 3, display: 'grid', gap: 2 }}>
      <b>{t('viewpoints.title')}</b>
      {shared.map(place)}
      {own.map((v) => (
        <Box key={v.id} sx={{ display: 'flex', gap: 2 }}>
          {place(v)}
          <IconButton
            aria-label={t('viewpoints.remove', { title: v.title })}
            sx={{ width: 52 }}
            onClick={() =>
              void setMeta(
                'viewpoints',
                own.filter((o) => o.id !== v.id),
              )
            }>
            <DeleteOutline />
          </IconButton>
        </Box>
      ))}
      {name === null ? (
        <Button
          variant="text"
          color="inherit"
          sx={{ minHeight: 52, justifyContent: 'flex-start' }}
          disabled={!view}
          onClick={() => setName('')}>
          {t('viewpoints.keep.here')}
        </Button>
      ) : (
        <Box
          component="form"
          onSubmit={(e) => {
            e.preventDefault()
            keep()
          }}
          sx={{ display: 'flex', gap: 2 }}>
          <OutlinedInput
            autoFocus
            fullWidth
            value={name}
            onChange={(e) => setName(e.target.value)}
            inputProps={{ 'aria-label': t('viewpoints.new'), maxLength: 60, enterKeyHint: 'done' }}
          />
          <Button type="submit" variant="contained" disabled={!name.trim()}>
            {t('viewpoints.keep')}
          </Button>
        </Box>
      )}
    </Box>
  )
}
