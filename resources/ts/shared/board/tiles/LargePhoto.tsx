import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import { t } from '../../texts'

type Props = { src: string; words: string; onClose: () => void; onStep: (by: 1 | -1) => void }

/** One photo as large as the window, with a way to the next. */
export function LargePhoto({ src, words, onClose, onStep }: Props) {
  return (
    <Dialog
      open
      maxWidth="lg"
      onClose={onClose}
      aria-label={words || t('photos.large')}
      onKeyDown={(e) => {
        if (e.key === 'ArrowRight') onStep(1)
        if (e.key === 'ArrowLeft') onStep(-1)
      }}>
      <Box
        component="img"
        src={src}
        alt={words}
        sx={{ maxWidth: '100%', maxHeight: '78vh', objectFit: 'contain', display: 'block' }}
      />
      <Box sx={{ display: 'flex', gap: 2, p: 2, alignItems: 'center' }}>
        <Box sx={{ flex: 1 }}>{words}</Box>
        <Button variant="outlined" onClick={() => onStep(-1)}>
          {t('photos.before')}
        </Button>
        <Button variant="outlined" onClick={() => onStep(1)}>
          {t('photos.next')}
        </Button>
        <Button onClick={onClose}>{t('close')}</Button>
      </Box>
    </Dialog>
  )
}
