import Box from '@mui/material/Box'
import FormControlLabel from '@mui/material/FormControlLabel'
import Slider from '@mui/material/Slider'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useId, useState } from 'react'
import { TextInput } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { LayerOnMap } from '../../../shared/types'
import { SlicePicker } from '../../slices/SlicePicker'
import { ZoomSlider } from './ZoomSlider'

type Props = {
  part: LayerOnMap
  zoom: number | null
  onChange: (change: Partial<LayerOnMap>, now?: boolean) => void
}

/** Which records of a layer are drawn, when, and how solid. */
export function DrawingPart({ part, zoom, onChange }: Props) {
  return (
    <Box sx={{ display: 'grid', gap: 3.5 }}>
      <SlicePicker
        label={t('map.layer.which')}
        layer={part.layer}
        mayMake
        value={part.slice}
        onChange={(slice) => onChange({ slice: slice?.id ?? null }, true)}
      />
      <TextInput
        label={t('map.layer.name')}
        value={part.title ?? ''}
        placeholder={part.called}
        inputProps={{ maxLength: 80 }}
        onChange={(title) => onChange({ title: title === '' ? null : title })}
      />
      <Solid value={part.opacity} onChange={(opacity) => onChange({ opacity })} />
      <ZoomSlider
        value={part.zoom}
        zoom={zoom}
        always={t('map.zoom.always')}
        range={(from, to) => t('map.zoom', { from, to })}
        onChange={(next) => onChange({ zoom: next })}
      />
      <Box sx={{ display: 'grid' }}>
        <FormControlLabel
          label={t('map.visible')}
          control={
            <Switch checked={part.visible} onChange={(e) => onChange({ visible: e.target.checked }, true)} />
          }
        />
        <FormControlLabel
          label={t('map.in_legend')}
          control={
            <Switch
              checked={part.in_legend}
              onChange={(e) => onChange({ in_legend: e.target.checked }, true)}
            />
          }
        />
      </Box>
    </Box>
  )
}

function Solid({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  const id = useId()
  const [dragged, setDragged] = useState<number | null>(null)
  const percent = Math.round((dragged ?? value) * 100)
  return (
    <Box>
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <Typography id={id} sx={{ fontWeight: 650, fontSize: '0.92rem' }}>
          {t('map.opacity')}
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {t('map.opacity.value', { percent })}
        </Typography>
      </Box>
      <Box sx={{ px: 2 }}>
        <Slider
          aria-labelledby={id}
          min={0.1}
          max={1}
          step={0.05}
          value={dragged ?? value}
          getAriaValueText={() => t('map.opacity.value', { percent })}
          onChange={(_, next) => setDragged(next as number)}
          onChangeCommitted={(_, next) => {
            // By keys it comes in one breath with the change, before what is dragged is known here.
            onChange(Math.round((next as number) * 100) / 100)
            setDragged(null)
          }}
        />
      </Box>
    </Box>
  )
}
