import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { Select, TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import type { AlertInput } from '../queries/alerts'

type Props = {
  draft: AlertInput
  crews: Api['Crew'][]
  at: (field: string) => string | null
  onChange: (part: Partial<AlertInput>) => void
}

/** Who is told, in which ways, and when it keeps still. */
export function AlertWays({ draft, crews, at, onChange }: Props) {
  const { to, rest } = draft
  return (
    <>
      <Box role="group" aria-label={t('alert.to')}>
        <Typography sx={{ fontWeight: 650, fontSize: '0.92rem' }}>{t('alert.to')}</Typography>
        <Check
          label={t('alert.to.coordinators')}
          checked={to.coordinators}
          onChange={(coordinators) => onChange({ to: { ...to, coordinators } })}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
          {crews.map((c) => (
            <Check
              key={c.id}
              label={c.name}
              checked={to.crews.includes(c.id)}
              onChange={(on) =>
                onChange({
                  to: { ...to, crews: on ? [...to.crews, c.id] : to.crews.filter((id) => id !== c.id) },
                })
              }
            />
          ))}
        </Box>
        {to.crews.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('alert.to.crews')}
          </Typography>
        )}
        {at('to') && (
          <Typography variant="body2" color="error" role="alert">
            {at('to')}
          </Typography>
        )}
      </Box>
      <Box role="group" aria-label={t('alert.ways')}>
        <Typography sx={{ fontWeight: 650, fontSize: '0.92rem' }}>{t('alert.ways')}</Typography>
        <Check label={t('alert.ways.desk')} checked disabled onChange={() => {}} />
        <Check
          label={t('alert.ways.mail')}
          checked={draft.by_mail}
          onChange={(by_mail) => onChange({ by_mail })}
        />
        <Check
          label={t('alert.ways.phones')}
          checked={draft.on_phones}
          onChange={(on_phones) => onChange({ on_phones })}
        />
      </Box>
      <Select
        label={t('alert.rest')}
        value={rest.minutes}
        error={at('rest/minutes')}
        onChange={(v) => onChange({ rest: { ...rest, minutes: Number(v) } })}>
        {[...new Set([0, 15, 60, 180, 720, 1440, 10080, rest.minutes])]
          .sort((a, b) => a - b)
          .map((n) => (
            <option key={n} value={n}>
              {t('alert.rest.n', { n: n % 1440 === 0 ? n / 1440 : n % 60 === 0 ? n / 60 : n, unit: unit(n) })}
            </option>
          ))}
      </Select>
      <Box>
        <Check
          label={t('alert.quiet')}
          checked={rest.from !== null}
          onChange={(on) =>
            onChange({ rest: { ...rest, from: on ? '21:00' : null, until: on ? '06:00' : null } })
          }
        />
        {rest.from !== null && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, mt: 1 }}>
            {(['from', 'until'] as const).map((key) => (
              <TextInput
                key={key}
                label={t(`alert.quiet.${key}`)}
                size="small"
                type="time"
                value={rest[key] ?? ''}
                error={at(`rest/${key}`)}
                onChange={(time) => time && onChange({ rest: { ...rest, [key]: time.slice(0, 5) } })}
              />
            ))}
          </Box>
        )}
      </Box>
    </>
  )
}

const unit = (minutes: number) =>
  minutes === 0 ? 'none' : minutes % 1440 === 0 ? 'days' : minutes % 60 === 0 ? 'hours' : 'minutes'

type CheckProps = { label: string; checked: boolean; disabled?: boolean; onChange: (on: boolean) => void }

const Check = ({ label, checked, disabled = false, onChange }: CheckProps) => (
  <FormControlLabel
    label={label}
    sx={{ display: 'flex', width: 'fit-content' }}
    control={
      <Checkbox
        size="small"
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
      />
    }
  />
)
