import Box from '@mui/material/Box'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Field, Gathering, Layer, Look } from '../../../shared/types'
import { without } from './lookEdits'

const UNTIL = [8, 10, 12, 14, 16, 18]
const FIRST = 14

/** How points that lie close together are drawn, and whether photos stand for records. */
export function GatherPart({
  layer,
  look,
  numbers,
  photos,
  onChange,
}: {
  layer: Layer
  look: Look
  numbers: Field[]
  photos: boolean
  onChange: (look: Look, now?: boolean) => void
}) {
  const gather = look.gather
  const classes =
    look.kind === 'category'
      ? (layer.design.fields.find((f) => f.key === look.field)?.choices ?? []).filter((c) => !c.retired)
      : []
  // Shares of something say nothing together.
  const summed = numbers.filter((f) => f.unit !== '%' || f.key === gather?.field)
  const until = gather?.until ?? FIRST
  const choose = (value: string) => {
    const [tell, of] = parted(value)
    if (tell === '') return onChange(without(look, 'gather'), true)
    onChange({ ...look, gather: told(tell as Gathering['tell'], of, until) }, true)
  }
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Select
        label={t('gather')}
        value={gather ? `${gather.tell} ${gather.field ?? gather.code ?? ''}`.trim() : ''}
        onChange={choose}>
        <option value="">{t('gather.none')}</option>
        <option value="count">{t('gather.count')}</option>
        {summed.map((f) => (
          <option key={f.key} value={`sum ${f.key}`}>
            {t('gather.sum', { field: f.label })}
          </option>
        ))}
        {classes.map((c) => (
          <option key={c.code} value={`share ${c.code}`}>
            {t('gather.share', { of: c.label })}
          </option>
        ))}
      </Select>
      {gather && (
        <Select
          label={t('gather.until')}
          value={until}
          hint={gather.tell === 'sum' ? t('gather.tells') : ''}
          onChange={(v) => onChange({ ...look, gather: { ...gather, until: Number(v) } }, true)}>
          {[...new Set([...UNTIL, until])]
            .toSorted((a, b) => a - b)
            .map((z) => (
              <option key={z} value={z}>
                {z}
              </option>
            ))}
        </Select>
      )}
      <Box>
        <FormControlLabel
          label={t('map.photos.marks')}
          disabled={!photos}
          control={
            <Switch
              checked={photos && look.photos === true}
              onChange={(e) =>
                onChange(e.target.checked ? { ...look, photos: true } : without(look, 'photos'), true)
              }
            />
          }
        />
        {!photos && (
          <Typography variant="body2" color="text.secondary">
            {t('map.photos.closed')}
          </Typography>
        )}
      </Box>
    </Box>
  )
}

/** Codes of choices may have spaces in them. */
function parted(value: string): [string, string] {
  const at = value.indexOf(' ')
  return at === -1 ? [value, ''] : [value.slice(0, at), value.slice(at + 1)]
}

const told = (tell: Gathering['tell'], of: string, until: number): Gathering =>
  tell === 'sum' ? { tell, field: of, until } : tell === 'share' ? { tell, code: of, until } : { tell, until }
