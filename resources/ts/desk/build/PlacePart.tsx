import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { TextInput } from '../../shared/parts/Labelled'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Design, FixDetail } from '../../shared/types'

type Props = { design: Design; onChange: (change: Partial<Design>) => void }
const DETAILS: FixDetail[] = ['altitude', 'satellites', 'type', 'time']

/** How good a fix must be in the field, what of it is kept, and whether records carry an altitude. */
export function PlacePart({ design, onChange }: Props) {
  const keep = design.fix?.keep ?? []
  const putFix = (change: Partial<NonNullable<Design['fix']>>) =>
    onChange({ fix: { ...design.fix, ...change } })
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Sheet title={t('fix.title')}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
          {(['warn_above', 'refuse_above'] as const).map((end) => (
            <TextInput
              key={end}
              label={t(end === 'warn_above' ? 'fix.warn' : 'fix.refuse')}
              value={design.fix?.[end] ?? ''}
              inputProps={{ inputMode: 'numeric' }}
              onChange={(text) => {
                const { [end]: _, ...others } = design.fix ?? {}
                const n = Number.parseInt(text, 10)
                onChange({ fix: Number.isNaN(n) || n < 1 ? others : { ...others, [end]: n } })
              }}
            />
          ))}
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          {t('fix.note')}
        </Typography>
        <Typography sx={{ fontWeight: 650, mt: 3 }}>{t('fix.keep')}</Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          {DETAILS.map((d) => (
            <FormControlLabel
              key={d}
              control={
                <Checkbox
                  checked={keep.includes(d)}
                  onChange={(e) =>
                    putFix({ keep: DETAILS.filter((x) => (x === d ? e.target.checked : keep.includes(x))) })
                  }
                />
              }
              label={t(`fix.keep.${d}`)}
            />
          ))}
        </Box>
      </Sheet>
      <Sheet title={t('altitude.title')}>
        <FormControlLabel
          control={
            <Checkbox
              checked={Boolean(design.altitude)}
              onChange={(e) => onChange({ altitude: e.target.checked ? { unit: 'm' } : null })}
            />
          }
          label={t('altitude.asked')}
        />
        {design.altitude && (
          <Box sx={{ display: 'flex', gap: 4, alignItems: 'center', flexWrap: 'wrap', mt: 2 }}>
            <Segments<'m' | 'ft'>
              label={t('altitude.unit')}
              value={design.altitude.unit}
              onChange={(unit) => onChange({ altitude: { ...design.altitude, unit } })}
              options={[
                { value: 'm', label: t('altitude.unit.m') },
                { value: 'ft', label: t('altitude.unit.ft') },
              ]}
            />
            <FormControlLabel
              control={
                <Checkbox
                  checked={design.altitude.required ?? false}
                  onChange={(e) =>
                    onChange({
                      altitude: {
                        unit: design.altitude?.unit ?? 'm',
                        ...(e.target.checked ? { required: true } : {}),
                      },
                    })
                  }
                />
              }
              label={t('altitude.required')}
            />
          </Box>
        )}
      </Sheet>
    </Box>
  )
}
