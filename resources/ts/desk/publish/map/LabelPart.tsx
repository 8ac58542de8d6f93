import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { Labelled } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import { paint } from '../../../shared/theme'
import type { Field, MapLabel } from '../../../shared/types'
import { ZoomSlider } from './ZoomSlider'

type Props = {
  fields: Field[]
  label: MapLabel | null
  /** Its areas are coloured by a number that can be said, too. */
  tallied: boolean
  onChange: (label: MapLabel | null, now?: boolean) => void
}

const MOST_PARTS = 12

/** What stands beside each record on the map, put together from its values and words between them. */
export function LabelPart({ fields, label, tallied, onChange }: Props) {
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
      {label && <Parts fields={named} label={label} tallied={tallied} onChange={onChange} />}
    </Box>
  )
}

function Parts({
  fields,
  label,
  tallied,
  onChange,
}: {
  fields: Field[]
  label: MapLabel
  tallied: boolean
  onChange: (label: MapLabel, now?: boolean) => void
}) {
  const put = (parts: MapLabel['parts'], now = true) => onChange({ ...label, parts }, now)
  const full = label.parts.length >= MOST_PARTS
  const values = label.parts.filter(isValue).length
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        {t('map.label.hint')}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        {label.parts.map((part, i) => {
          const words =
            'text' in part ? part.text : 'field' in part ? titleOf(part.field, fields) : t('map.label.tally')
          return (
            <Box
              component="li"
              key={i}
              sx={{
                display: 'flex',
                alignItems: 'center',
                border: `1px solid ${paint.line}`,
                borderRadius: 1.5,
                pl: isValue(part) ? 2 : 0,
                bgcolor: isValue(part) ? paint.kelpWash : undefined,
                fontWeight: 600,
              }}>
              {!('text' in part) ? (
                words
              ) : (
                <OutlinedInput
                  size="small"
                  value={part.text}
                  inputProps={{
                    'aria-label': t('map.label.words'),
                    maxLength: 40,
                    size: Math.max(3, words.length),
                  }}
                  sx={{ '& fieldset': { border: 0 }, '& input': { px: 1.5, py: 0.75 } }}
                  onChange={(e) =>
                    put(
                      label.parts.map((p, at) => (at === i ? { text: e.target.value } : p)),
                      false,
                    )
                  }
                />
              )}
              <IconButton
                size="small"
                aria-label={t('map.label.part.out', { part: words })}
                // At least one value stays, or all records would be called the same.
                disabled={isValue(part) && values === 1}
                onClick={() => put(label.parts.filter((_, at) => at !== i))}>
                <Close fontSize="inherit" />
              </IconButton>
            </Box>
          )
        })}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'end' }}>
        <Labelled label={t('map.label.field')}>
          {({ id }) => (
            <NativeSelect
              id={id}
              fullWidth
              disabled={full}
              input={<OutlinedInput size="small" />}
              value=""
              onChange={(e) => {
                const last = label.parts.at(-1)
                // A value after a value would run into it.
                put([
                  ...label.parts,
                  ...(last && isValue(last) && label.parts.length + 2 <= MOST_PARTS ? [{ text: ' ' }] : []),
                  e.target.value === TALLY ? { tally: true } : { field: e.target.value },
                ])
              }}>
              <option value="" disabled />
              {tallied && <option value={TALLY}>{t('map.label.tally')}</option>}
              {fields.map((f) => (
                <option key={f.key} value={f.key}>
                  {f.label}
                </option>
              ))}
            </NativeSelect>
          )}
        </Labelled>
        <Button disabled={full} onClick={() => put([...label.parts, { text: ' · ' }])}>
          {t('map.label.text')}
        </Button>
      </Box>
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

/** No key of a field. */
const TALLY = '@tally'

const isValue = (part: MapLabel['parts'][number]) => !('text' in part)

const titleOf = (key: string, fields: Field[]) => fields.find((f) => f.key === key)?.label ?? key
