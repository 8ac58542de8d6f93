import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { paint } from '../../shared/paint'
import { sentences } from '../../shared/api'
import { t } from '../../shared/texts'
import { sendFiles } from './import'

/** Begins bringing files in, and goes to where it is seen. */
export function useBring(programme: number) {
  const navigate = useNavigate()
  const [share, setShare] = useState<number | null>(null)
  const [failed, setFailed] = useState<string[]>([])
  const bring = async (files: File[], options: { like?: number; layer?: number } = {}) => {
    if (files.length === 0) return
    setFailed([])
    setShare(0)
    try {
      const made = await sendFiles(programme, files, options, setShare)
      await navigate(`/desk/p/${programme}/build/bring/${made.id}`)
    } catch (e) {
      setFailed(sentences(e))
    } finally {
      setShare(null)
    }
  }
  return { bring, share, failed, clear: () => setFailed([]) }
}

const carriesFiles = (e: DragEvent) => Boolean(e.dataTransfer?.types.includes('Files'))

/**
 * Wherever in a programme files are dropped, they are brought in. Places that take files themselves stop the
 * event before.
 */
export function DropAnywhere({ programme }: { programme: number }) {
  const [over, setOver] = useState(false)
  const { bring, share, failed, clear } = useBring(programme)
  useEffect(() => {
    let depth = 0
    const enter = (e: DragEvent) => {
      if (carriesFiles(e)) {
        depth++
        setOver(true)
      }
    }
    const leave = (e: DragEvent) => {
      if (carriesFiles(e) && --depth <= 0) {
        depth = 0
        setOver(false)
      }
    }
    const hover = (e: DragEvent) => {
      if (carriesFiles(e)) e.preventDefault()
    }
    const drop = (e: DragEvent) => {
      depth = 0
      setOver(false)
      if (!carriesFiles(e) || e.defaultPrevented) return
      e.preventDefault()
      void bring([...(e.dataTransfer?.files ?? [])])
    }
    window.addEventListener('dragenter', enter)
    window.addEventListener('dragleave', leave)
    window.addEventListener('dragover', hover)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragenter', enter)
      window.removeEventListener('dragleave', leave)
      window.removeEventListener('dragover', hover)
      window.removeEventListener('drop', drop)
    }
  })
  if (!over && share === null && failed.length === 0) return null
  return (
    <Box
      onClick={failed.length ? clear : undefined}
      sx={{
        position: 'fixed',
        inset: 0,
        zIndex: 1400,
        bgcolor: `${paint.ink}B8`,
        color: paint.white,
        display: 'grid',
        placeItems: 'center',
        p: 5,
        pointerEvents: failed.length ? 'auto' : 'none',
      }}>
      <Box
        role={failed.length ? 'alert' : 'status'}
        sx={{
          border: `3px dashed ${paint.page}`,
          borderRadius: 3,
          p: 8,
          textAlign: 'center',
          maxWidth: 560,
        }}>
        <Typography variant="h1" component="p" sx={{ color: paint.white }}>
          {failed.length
            ? t('bring.failed')
            : share === null
              ? t('bring.drop')
              : t('bring.sending', { share: Math.round(share * 100) })}
        </Typography>
        <Typography>{failed.length ? failed.join(' ') : t('bring.kinds')}</Typography>
      </Box>
    </Box>
  )
}
