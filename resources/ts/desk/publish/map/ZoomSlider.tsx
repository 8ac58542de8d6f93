import Box from '@mui/material/Box'
import Slider from '@mui/material/Slider'
import Typography from '@mui/material/Typography'
import { useId, useState } from 'react'
import { t } from '../../../shared/texts'

type Zooms = [number, number]

const ALL: Zooms = [0, 22]

/** From which zoom up to which something is drawn. */
export function ZoomSlider({
  value,
  zoom,
  always,
  range,
  onChange,
}: {
  value: Zooms
  /** Where the map stands. */
  zoom: number | null
  /** What it is called at every zoom, and in a range. */
  always: string
  range: (from: number, to: number) => string
  onChange: (value: Zooms) => void
}) {
  const id = useId()
  // While it is dragged it is not saved.
  const [dragged, setDragged] = useState<Zooms | null>(null)
  const [from, to] = dragged ?? value
  return (
    <Box>
      <Typography id={id} sx={{ fontWeight: 650, fontSize: '0.92rem' }}>
        {from === ALL[0] && to === ALL[1] ? always : range(from, to)}
      </Typography>
      <Box sx={{ px: 2 }}>
        <Slider
          aria-labelledby={id}
          getAriaLabel={(i) => t(i === 0 ? 'map.zoom.from' : 'map.zoom.to')}
          min={ALL[0]}
          max={ALL[1]}
          step={0.5}
          disableSwap
          value={[from, to]}
          marks={zoom === null ? [] : [{ value: Math.min(ALL[1], Math.max(ALL[0], zoom)) }]}
          onChange={(_, next) => {
            const [a, b] = next as Zooms
            // Something is left in between.
            if (a < b) setDragged([a, b])
          }}
          onChangeCommitted={(_, next) => {
            const [a, b] = next as Zooms
            if (a < b) onChange([a, b])
            setDragged(null)
          }}
        />
      </Box>
      {zoom !== null && (
        <Typography variant="body2" color="text.secondary">
          {t('map.zoom.now', { zoom: Math.round(zoom * 2) / 2 })}
        </Typography>
      )}
    </Box>
  )
}
