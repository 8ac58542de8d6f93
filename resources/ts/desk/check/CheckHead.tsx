import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { Labelled } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Layer, LayerLine } from '../../shared/types'
import { SlicePicker } from '../slices/SlicePicker'

/** Which layer one looks at, and what can be done with its records. */
export function CheckHead({
  total,
  layers,
  layer,
  chosen,
  ticked,
  slice,
  onSlice,
  onChoose,
  onExport,
  onFill,
  onAdd,
}: {
  total: number
  layers: LayerLine[]
  layer: Layer | undefined
  chosen: number | undefined
  /** How many records are ticked. */
  ticked: number
  /** The slice that the list is narrowed to. */
  slice: number | null
  onSlice: (slice: number | null) => void
  onChoose: (layer: number) => void
  onExport: () => void
  onFill: () => void
  onAdd: () => void
}) {
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'end',
        gap: 3,
        flexWrap: 'wrap',
      }}>
      <Box>
        <Typography variant="h1">{t('check.title')}</Typography>
        <Typography color="text.secondary">{t('check.count', { n: total })}</Typography>
      </Box>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'end', flexWrap: 'wrap' }}>
        <Labelled label={t('check.layer')}>
          {({ id }) => (
            <NativeSelect
              id={id}
              input={<OutlinedInput />}
              value={chosen ?? ''}
              onChange={(e) => onChoose(Number(e.target.value))}>
              {layers.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.title}
                </option>
              ))}
            </NativeSelect>
          )}
        </Labelled>
        {layer && (
          <Box sx={{ width: 210 }}>
            <SlicePicker
              key={layer.id}
              label={t('check.slice')}
              layer={layer.id}
              mayMake={layer.rights.design}
              value={slice}
              onChange={(next) => onSlice(next?.id ?? null)}
            />
          </Box>
        )}
        {layer && (
          <Button variant="outlined" onClick={onExport}>
            {ticked > 0 ? t('out.open.some', { n: ticked }) : t('out.open')}
          </Button>
        )}
        {layer?.rights.design && (
          <Button variant="outlined" onClick={onFill}>
            {t('fill.open')}
          </Button>
        )}
        {layer?.rights.add && layer.visits_of === null && <Button onClick={onAdd}>{t('check.add')}</Button>}
      </Box>
    </Box>
  )
}
