import Undo from '@mui/icons-material/Undo'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { paint } from '../../shared/paint'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import { WideButton } from '../screens/WideButton'
import { draw, type Sign } from './markSigns'
import { asJpeg } from './picture'

/** Draws arrows and circles on a copy of a photo; the photo itself stays as it was taken. */
export function MarkUp({
  blob,
  name,
  onDone,
  onClose,
}: {
  blob: Blob
  name: string
  onDone: (copy: Blob) => void
  onClose: () => void
}) {
  const [picture, setPicture] = useState<ImageBitmap | null>(null)
  const [kind, setKind] = useState<Sign['kind']>('arrow')
  const [signs, setSigns] = useState<Sign[]>([])
  const [going, setGoing] = useState<Sign | null>(null)
  const [making, setMaking] = useState(false)
  const [trouble, setTrouble] = useState<'unread' | 'failed' | null>(null)
  const canvas = useRef<HTMLCanvasElement | null>(null)
  useEffect(() => {
    let made: ImageBitmap | null = null
    let gone = false
    createImageBitmap(blob).then(
      (bitmap) => {
        made = bitmap
        if (gone) bitmap.close()
        else setPicture(bitmap)
      },
      () => !gone && setTrouble('unread'),
    )
    return () => {
      gone = true
      made?.close()
    }
  }, [blob])
  useEffect(() => {
    const pen = canvas.current?.getContext('2d')
    if (!pen || !picture) return
    pen.drawImage(picture, 0, 0)
    for (const sign of going ? [...signs, going] : signs) draw(pen, sign)
  }, [picture, signs, going])
  /** A touch in pixels of the picture. */
  const spot = (e: PointerEvent): [number, number] => {
    const box = canvas.current!.getBoundingClientRect()
    return [
      ((e.clientX - box.left) / box.width) * canvas.current!.width,
      ((e.clientY - box.top) / box.height) * canvas.current!.height,
    ]
  }
  const begin = (e: PointerEvent) => {
    e.currentTarget.setPointerCapture(e.pointerId)
    setGoing({ kind, from: spot(e), to: spot(e) })
  }
  const end = () => {
    // A tap that was not moved is no sign.
    if (
      going &&
      Math.hypot(going.to[0] - going.from[0], going.to[1] - going.from[1]) >
        Math.max(picture!.width, picture!.height) / 60
    )
      setSigns([...signs, going])
    setGoing(null)
  }
  // Tapped twice it is one copy.
  const keep = async () => {
    setMaking(true)
    try {
      onDone(await asJpeg(canvas.current!, blob))
    } catch {
      setTrouble('failed')
      setMaking(false)
    }
  }
  return (
    <Dialog fullScreen open onClose={onClose} aria-label={t('photo.mark')}>
      <Box sx={{ height: '100dvh', display: 'flex', flexDirection: 'column', bgcolor: 'background.paper' }}>
        <Box sx={{ display: 'flex', gap: 2, p: 2.5, flex: 'none', '& button': { minHeight: 48 } }}>
          <Segments
            label={t('photo.mark.with')}
            value={kind}
            onChange={setKind}
            options={[
              { value: 'arrow', label: t('photo.mark.arrow') },
              { value: 'circle', label: t('photo.mark.circle') },
            ]}
          />
          <Button
            variant="outlined"
            color="inherit"
            aria-label={t('sketch.back')}
            disabled={signs.length === 0}
            onClick={() => setSigns(signs.slice(0, -1))}
            sx={{ minWidth: 48, px: 0 }}>
            <Undo />
          </Button>
          <Box sx={{ flex: 1 }} />
          <Button variant="text" color="inherit" onClick={onClose}>
            {t('cancel')}
          </Button>
        </Box>
        <Box
          sx={{
            flex: 1,
            minHeight: 0,
            display: 'grid',
            placeItems: 'center',
            bgcolor: paint.darkroom,
            p: 1,
          }}>
          {picture && (
            <canvas
              ref={canvas}
              width={picture.width}
              height={picture.height}
              role="img"
              aria-label={name}
              style={{
                maxWidth: '100%',
                maxHeight: '100%',
                minHeight: 0,
                touchAction: 'none',
                cursor: 'crosshair',
              }}
              onPointerDown={begin}
              onPointerMove={(e) => {
                const to = spot(e)
                setGoing((sign) => sign && { ...sign, to })
              }}
              onPointerUp={end}
              onPointerCancel={() => setGoing(null)}
            />
          )}
        </Box>
        <Box sx={{ p: 3.5, display: 'grid', gap: 2, flex: 'none' }}>
          {trouble ? (
            <Box role="alert" sx={{ textAlign: 'center', color: 'error.main', fontWeight: 650 }}>
              {t(`photo.mark.${trouble}`)}
            </Box>
          ) : (
            <Box sx={{ textAlign: 'center', color: 'text.secondary' }}>{t('photo.mark.hint')}</Box>
          )}
          <WideButton disabled={signs.length === 0 || making} onClick={() => void keep()}>
            {t('photo.mark.keep')}
          </WideButton>
        </Box>
      </Box>
    </Dialog>
  )
}
