import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import Typography from '@mui/material/Typography'
import { paint } from '../../shared/paint'
import { t, type TextKey } from '../../shared/texts'
import type { Design, FieldKind } from '../../shared/types'
import type { Column, Found, Settings } from './import'

const KINDS: FieldKind[] = [
  'short_text',
  'long_text',
  'whole_number',
  'decimal',
  'yes_no',
  'date',
  'time',
  'date_time',
  'one_choice',
  'several_choices',
]
const ORDERS = ['dmy', 'mdy', 'ymd'] as const
const small = {
  font: 'inherit',
  fontWeight: 600,
  fontSize: '0.84rem',
  border: `1px solid ${paint.frame}`,
  borderRadius: 1,
  bgcolor: paint.sheet,
  color: 'text.primary',
  p: 0.5,
  maxWidth: 170,
}

type Props = {
  found: Found
  index: number
  settings: Settings
  unfit: number
  undecided: boolean
  into: Design | null
  onChange: (part: Partial<Column>) => void
}

/**
 * The head of a column: its name, what was seen in it, and what it is taken for; each can be corrected here.
 */
export function ColumnHead({ found, index, settings, unfit, undecided, into, onChange }: Props) {
  const column = settings.columns[index]
  if (!column) return <th />
  const isPlace = settings.location.columns.includes(index) && settings.location.way !== 'none'
  const joined = settings.columns.find((c) => c.take && c.with === index)
  const timeColumn = column.with === null ? null : settings.columns[column.with]
  const dated = column.take && (column.kind === 'date' || column.kind === 'date_time')
  const what = isPlace
    ? t('bring.column.place')
    : joined
      ? t('bring.column.joined', { column: joined.label })
      : unfit > 0
        ? t('bring.column.unfit', { n: unfit })
        : found.filled === 0
          ? t('bring.column.empty')
          : found.distinct === null
            ? t('bring.column.many')
            : t('bring.column.different', { n: Object.keys(found.distinct).length })
  return (
    <th scope="col" title={found.samples.join(' · ')}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <Checkbox
          size="small"
          sx={{ p: 0.25 }}
          checked={column.take}
          onChange={(_, take) => onChange({ take })}
          slotProps={{ input: { 'aria-label': t('bring.column.take', { column: found.name }) } }}
        />
        {into || !column.take ? (
          <b>{found.name}</b>
        ) : (
          <Box
            component="input"
            aria-label={t('bring.column.label', { column: found.name })}
            value={column.label}
            onChange={(e: React.ChangeEvent<HTMLInputElement>) => onChange({ label: e.target.value })}
            sx={{
              font: 'inherit',
              fontWeight: 700,
              border: 0,
              borderBottom: `1px dashed ${paint.frame}`,
              bgcolor: 'transparent',
              width: `${Math.max(6, Math.min(20, column.label.length + 1))}ch`,
            }}
          />
        )}
      </Box>
      <Typography
        variant="body2"
        sx={{
          color: unfit > 0 ? paint.buoyDark : 'text.secondary',
          fontWeight: unfit > 0 ? 700 : 400,
          my: 0.5,
        }}>
        {what}
        {timeColumn ? ` · ${t('bring.column.with', { column: timeColumn.label })}` : ''}
      </Typography>
      {column.take && (
        <Box sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap' }}>
          {into ? (
            <Box
              component="select"
              aria-label={t('bring.column.field', { column: found.name })}
              value={column.key}
              onChange={(e: React.ChangeEvent<HTMLSelectElement>) => {
                const f = into.fields.find((x) => x.key === e.target.value)
                if (f) onChange({ key: f.key, kind: f.kind })
              }}
              sx={small}>
              {!into.fields.some((f) => f.key === column.key) && (
                <option value={column.key}>{t('bring.column.choose')}</option>
              )}
              {into.fields
                .filter((f) => f.kind !== 'heading' && f.kind !== 'calculated')
                .map((f) => (
                  <option key={f.key} value={f.key}>
                    → {f.label}
                  </option>
                ))}
            </Box>
          ) : (
            <Box
              component="select"
              aria-label={t('bring.column.kind', { column: found.name })}
              value={column.kind}
              onChange={(e: React.ChangeEvent<HTMLSelectElement>) =>
                onChange({ kind: e.target.value as FieldKind, order: column.order ?? found.order })
              }
              sx={{ ...small, ...(unfit > 0 ? { borderColor: paint.buoy, borderWidth: 2 } : {}) }}>
              {KINDS.map((k) => (
                <option key={k} value={k}>
                  {t(`kind.${k}` as TextKey)}
                </option>
              ))}
            </Box>
          )}
          {column.take && (column.kind === 'decimal' || column.kind === 'whole_number') && (
            <Box
              component="select"
              aria-label={t('bring.column.sign', { column: found.name })}
              value={column.comma ? 'comma' : 'point'}
              onChange={(e: React.ChangeEvent<HTMLSelectElement>) =>
                onChange({ comma: e.target.value === 'comma' })
              }
              sx={small}>
              <option value="point">{t('bring.sign.point')}</option>
              <option value="comma">{t('bring.sign.comma')}</option>
            </Box>
          )}
          {dated && (
            <Box
              component="select"
              aria-label={t('bring.column.order', { column: found.name })}
              value={column.order ?? ''}
              onChange={(e: React.ChangeEvent<HTMLSelectElement>) =>
                onChange({ order: e.target.value as Column['order'] })
              }
              sx={{ ...small, ...(undecided ? { borderColor: paint.buoy, borderWidth: 2 } : {}) }}>
              {column.order === null && <option value="">{t('bring.order.ask')}</option>}
              {ORDERS.map((o) => (
                <option key={o} value={o}>
                  {t(`bring.order.${o}`)}
                </option>
              ))}
            </Box>
          )}
        </Box>
      )}
    </th>
  )
}
