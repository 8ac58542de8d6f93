import Box from '@mui/material/Box'
import FormControlLabel from '@mui/material/FormControlLabel'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { Labelled } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Field, Layer, MapLabel } from '../../../shared/types'
import { PartsEditor } from './PartsEditor'
import { ZoomSlider } from './ZoomSlider'

type Props = {
  layer: Layer
  fields: Field[]
  label: MapLabel | null
  /** Its areas are coloured by a number that can be said, too. */
  tallied: boolean
  onChange: (label: MapLabel | null, now?: boolean) => void
}

/** What stands beside each record on the map, put together from its values and words between them. */
export function LabelPart({ layer, fields, label, tallied, onChange }: Props) {
  const named = fields.filter((f) => f.kind !== 'heading')
  const first = named.find((f) => f.kind === 'short_text') ?? named[0]
  if (!first) return <Typography color="text.secondary">{t('map.label.hint')}</Typography>
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <FormControlLabel
        label={t('map.label.on')}
        control={
          <Switch
            checked={label !== null}
            onChange={(e) =>
              onChange(
                e.target.checked ? { parts: [{ field: first.key }], size: 13, zoom: [0, 22] } : null,
                true,
              )
            }
          />
        }
      />
      {label && <Parts layer={layer} fields={named} label={label} tallied={tallied} onChange={onChange} />}
    </Box>
  )
}

function Parts({
  layer,
  fields,
  label,
  tallied,
  onChange,
}: {
  layer: Layer
  fields: Field[]
  label: MapLabel
  tallied: boolean
  onChange: (label: MapLabel, now?: boolean) => void
}) {
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        {t('map.label.hint')}
      </Typography>
      <PartsEditor
        parts={label.parts}
        layer={layer}
        fields={fields}
        tallied={tallied}
        most={12}
        longest={40}
        // Or all records would be called the same.
        needsValue
        words=" · "
        onChange={(parts, now) => onChange({ ...label, parts }, now)}
      />
      <Labelled label={t('map.label.size')}>
        {({ id }) => (
          <NativeSelect
            id={id}
            input={<OutlinedInput size="small" />}
            value={label.size}
            onChange={(e) => onChange({ ...label, size: Number(e.target.value) }, true)}>
            {[...new Set([10, 11, 12, 13, 15, 18, 22, 28, label.size])]
              .toSorted((a, b) => a - b)
              .map((size) => (
                <option key={size} value={size}>
                  {size}
                </option>
              ))}
          </NativeSelect>
        )}
      </Labelled>
      <ZoomSlider
        value={label.zoom}
        zoom={null}
        always={t('map.label.always')}
        range={(from, to) => t('map.label.zoom', { from, to })}
        onChange={(zoom) => onChange({ ...label, zoom })}
      />
    </>
  )
}
