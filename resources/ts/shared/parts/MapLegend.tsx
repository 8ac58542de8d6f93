import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { formatNumber, t } from '../texts'
import type { MapViewLayer } from '../types'
import { Legend } from './Legend'
import { PegMark } from './PegMark'
import { SizeLegend } from './SizeLegend'

/** All of its records have one mark, which then stands beside its name. */
const isSingle = (layer: MapViewLayer) =>
  layer.legend.length === 1 && layer.legend[0]?.code === null && layer.by === null

/** What is on a map: each of its layers with what its marks mean; of several, each can be switched off. */
export function MapLegend({
  layers,
  hidden,
  onShow,
}: {
  layers: MapViewLayer[]
  hidden: ReadonlySet<string>
  onShow: (part: string, shown: boolean) => void
}) {
  const told = layers.filter((l) => l.in_legend)
  // What is not in the legend cannot be switched there; of a single layer there is nothing to switch.
  const switched = told.length > 1
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      {told.map((layer) => {
        const shown = !hidden.has(layer.id)
        const head = [layer.title, layer.slice].filter(Boolean).join(': ')
        return (
          <Box component="section" key={layer.id} aria-label={head}>
            <Box
              sx={{
                display: 'flex',
                alignItems: 'center',
                justifyContent: 'space-between',
                gap: 2,
                mb: 1,
              }}>
              {switched ? (
                <FormControlLabel
                  sx={{ mr: 0, minWidth: 0, flex: 1 }}
                  slotProps={{ typography: { variant: 'h3', sx: { overflowWrap: 'anywhere' } } }}
                  label={head}
                  control={
                    <Checkbox
                      size="small"
                      checked={shown}
                      onChange={(e) => onShow(layer.id, e.target.checked)}
                      slotProps={{ input: { 'aria-label': t('legend.layer', { layer: head }) } }}
                    />
                  }
                />
              ) : (
                <Typography variant="h3">{layer.by ?? head}</Typography>
              )}
              {switched && isSingle(layer) && layer.legend[0] && <PegMark {...layer.legend[0]} size={22} />}
              <Typography variant="h3" component="span" sx={{ fontVariantNumeric: 'tabular-nums' }}>
                {formatNumber(layer.total)}
              </Typography>
            </Box>
            {shown && (
              <>
                {switched && layer.by && (
                  <Typography variant="body2" color="text.secondary" sx={{ mb: 0.5 }}>
                    {layer.by}
                  </Typography>
                )}
                {!(switched && isSingle(layer)) && <Legend lines={layer.legend} single={layer.title} />}
                {layer.sizes && (
                  <Box sx={{ mt: 1 }}>
                    <SizeLegend sizes={layer.sizes} line={layer.geometry === 'line'} />
                  </Box>
                )}
                {layer.drawn < layer.total && (
                  <Typography variant="body2" color="text.secondary">
                    {t('legend.cut', { drawn: layer.drawn, total: layer.total })}
                  </Typography>
                )}
              </>
            )}
          </Box>
        )
      })}
    </Box>
  )
}
