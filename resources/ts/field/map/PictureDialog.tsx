import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import type { Map as MapLibre } from 'maplibre-gl'
import { useEffect, useState } from 'react'
import { formatInstant, t } from '../../shared/texts'
import { showPlace } from '../../shared/form/coordinates'
import { useFormat } from '../format'
import { pictureOf, sharePicture } from '../../shared/map/picture'

/** A picture of what the map shows, looked at before it is handed on. */
export function PictureDialog({
  map,
  title,
  onClose,
}: {
  map: MapLibre
  title: string
  onClose: () => void
}) {
  const format = useFormat()
  const [made, setMade] = useState<{ blob: Blob; url: string } | null>(null)
  useEffect(() => {
    let url: string | null = null
    let gone = false
    const { lng: lon, lat } = map.getCenter()
    void pictureOf(
      map,
      title,
      t('picture.under', {
        at: formatInstant(new Date().toISOString()),
        place: showPlace({ lon, lat }, format),
      }),
    ).then((blob) => {
      if (gone) return
      url = URL.createObjectURL(blob)
      setMade({ blob, url })
    })
    return () => {
      gone = true
      if (url) URL.revokeObjectURL(url)
    }
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- one picture, of the moment that it was asked for
  }, [])
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-label={t('picture.title')}>
      <Box sx={{ p: 3, display: 'grid', gap: 3 }}>
        {made && (
          <img
            src={made.url}
            alt={t('picture.alt', { title })}
            style={{ width: '100%', maxHeight: '60dvh', objectFit: 'contain', border: '1px solid #0003' }}
          />
        )}
        <Button
          disabled={!made}
          onClick={() =>
            made &&
            void sharePicture(
              made.blob,
              `${title.replace(/[^\p{L}\p{N}]+/gu, '-')}-${new Date().toISOString().slice(0, 10)}.png`,
            )
          }
          sx={{ minHeight: 56 }}>
          {t('picture.share')}
        </Button>
        <Button variant="text" color="inherit" onClick={onClose} sx={{ minHeight: 48 }}>
          {t('close')}
        </Button>
      </Box>
    </Dialog>
  )
}
