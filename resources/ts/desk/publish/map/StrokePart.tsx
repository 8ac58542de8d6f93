import Box from '@mui/material/Box'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Layer, Look } from '../../../shared/types'
import { without } from './lookEdits'

const LINES = [1, 2, 3, 4, 6, 8, 12]
const OUTLINES = [0, 1, 2, 3, 4, 6]

/** How wide lines and the outlines of areas are. */
export function StrokePart({
  layer,
  look,
  onChange,
}: {
  layer: Layer
  look: Look
  onChange: (look: Look, now?: boolean) => void
}) {
  const area = layer.design.geometry === 'area'
  // Lines that differ in width by a number have their own.
  if (!area && look.size) return null
  return (
    <Box sx={{ mt: 3 }}>
      <Select
        label={t(area ? 'stroke.outline' : 'stroke.line')}
        value={look.width ?? ''}
        onChange={(v) => onChange(v === '' ? without(look, 'width') : { ...look, width: Number(v) }, true)}>
        <option value="">{t('stroke.usual')}</option>
        {(area ? OUTLINES : LINES).map((n) => (
          <option key={n} value={n}>
            {n === 0 ? t('stroke.none') : t('stroke.pixels', { n })}
          </option>
        ))}
      </Select>
    </Box>
  )
}
