import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import { formatInstant, t } from '../../shared/texts'
import type { Sketch } from '../db'
import { dropSketch } from './sketches'

/** What was noted beside a sketch, and the way to take it off the map. */
export function SketchNote({ sketch, onClose }: { sketch: Sketch | undefined; onClose: () => void }) {
  return (
    <Drawer
      anchor="bottom"
      open={sketch !== undefined}
      onClose={onClose}
      slotProps={{ paper: { sx: { maxWidth: 640, mx: 'auto', p: 4, display: 'grid', gap: 3 } } }}>
      <Box>{sketch?.note || t('sketch.nonote')}</Box>
      <Box sx={{ color: 'text.secondary' }}>{sketch && formatInstant(sketch.at)}</Box>
      <Button
        variant="outlined"
        color="inherit"
        sx={{ minHeight: 56 }}
        onClick={() => {
          if (sketch) void dropSketch(sketch.id)
          onClose()
        }}>
        {t('sketch.drop')}
      </Button>
    </Drawer>
  )
}
