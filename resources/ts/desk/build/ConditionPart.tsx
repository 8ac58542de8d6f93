import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import Link from '@mui/material/Link'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'
import type { Design, Field, Problem } from '../../shared/types'
import { simple, testsFor, written, type Simple, type Test } from './condition'
import { FormulaEditor } from './FormulaEditor'

type Props = {
  kind: 'show' | 'require'
  text: string
  onChange: (text: string | undefined) => void
  design: Design
  field: Field
  problem: Problem | undefined
  layer: number | null
}

/** When a field is shown or needed: chosen from lists, or written as a formula. */
export function ConditionPart({ kind, text, onChange, design, field, problem, layer }: Props) {
  const others = design.fields.filter(
    (f) => f.kind !== 'heading' && f.kind !== 'calculated' && f.key !== field.key && f.label,
  )
  const read = text === '' ? null : simple(text, design)
  const [begun, setBegun] = useState<Simple | null>(read)
  const [asFormula, setAsFormula] = useState(text !== '' && read === null)
  const now = read ?? begun ?? { field: others[0]?.key ?? '', test: testsFor(others[0])[0]!, value: '' }
  const about = design.fields.find((f) => f.key === now.field)
  const put = (part: Partial<Simple>) => {
    const next = { ...now, ...part }
    if (part.field !== undefined) {
      next.test = testsFor(design.fields.find((f) => f.key === part.field))[0]!
      next.value = ''
    }
    setBegun(next)
    onChange(written(next, design))
  }
  const title = t(kind === 'show' ? 'condition.show' : 'condition.require')
  return (
    <Box
      role="group"
      aria-label={title}
      sx={{ bgcolor: paint.tideWash, borderRadius: 1.5, p: 2.5, display: 'grid', gap: 1.5 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
        <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', color: paint.tideDark }}>{title}</Typography>
        <IconButton size="small" aria-label={t('condition.drop')} onClick={() => onChange(undefined)}>
          <Close fontSize="small" />
        </IconButton>
      </Box>
      {asFormula ? (
        <FormulaEditor
          label={t('formula.title')}
          value={text}
          onChange={onChange}
          design={design}
          field={field}
          problem={problem}
          condition
          layer={layer}
        />
      ) : others.length === 0 ? (
        <Typography variant="body2">{t('condition.nofields')}</Typography>
      ) : (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(130px, 1fr))', gap: 1.5 }}>
          <NativeSelect
            input={<OutlinedInput size="small" />}
            value={now.field}
            inputProps={{ 'aria-label': t('condition.field') }}
            onChange={(e) => put({ field: e.target.value })}>
            {others.map((f) => (
              <option key={f.key} value={f.key}>
                {f.label}
              </option>
            ))}
          </NativeSelect>
          <NativeSelect
            input={<OutlinedInput size="small" />}
            value={now.test}
            inputProps={{ 'aria-label': t('condition.test') }}
            onChange={(e) => put({ test: e.target.value as Test })}>
            {testsFor(about).map((test) => (
              <option key={test} value={test}>
                {t(`condition.${test}`)}
              </option>
            ))}
          </NativeSelect>
          {now.test !== 'given' && now.test !== 'missing' && (
            <ValueOf about={about} value={now.value} onChange={(value) => put({ value })} />
          )}
        </Box>
      )}
      {!asFormula && problem && text !== '' && (
        <Typography variant="body2" color="error">
          {problem.message}
        </Typography>
      )}
      {(asFormula ? simple(text, design) !== null || text === '' : true) && others.length > 0 && (
        <Box>
          <Link component="button" type="button" variant="body2" onClick={() => setAsFormula(!asFormula)}>
            {t(asFormula ? 'condition.simple' : 'condition.formula')}
          </Link>
        </Box>
      )}
    </Box>
  )
}

function ValueOf({
  about,
  value,
  onChange,
}: {
  about: Field | undefined
  value: string
  onChange: (value: string) => void
}) {
  const label = t('condition.value')
  const options =
    about?.kind === 'yes_no'
      ? [
          ['true', t('form.yes')],
          ['false', t('form.no')],
        ]
      : about?.choices?.filter((c) => c.label).map((c) => [c.code || c.label, c.label])
  if (options) {
    return (
      <NativeSelect
        input={<OutlinedInput size="small" />}
        value={value}
        inputProps={{ 'aria-label': label }}
        onChange={(e) => onChange(e.target.value)}>
        <option value="">{t('form.choose')}</option>
        {options.map(([code, text]) => (
          <option key={code} value={code}>
            {text}
          </option>
        ))}
      </NativeSelect>
    )
  }
  const type = about?.kind === 'date' ? 'date' : about?.kind === 'time' ? 'time' : 'text'
  return (
    <OutlinedInput
      size="small"
      type={type}
      value={value}
      inputProps={{ 'aria-label': label }}
      onChange={(e) => onChange(e.target.value)}
    />
  )
}
