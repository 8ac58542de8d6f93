import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { blank, isAlone, lineOn, subjectOf, type FilterTest, type Line, type Subject } from './rule'
import { RulePlace } from './RulePlace'
import { RuleValue } from './RuleValue'

const keyOf = (of: Pick<Line, 'of' | 'field'>) => `${of.of} ${of.field}`

/** What it is about, how it is asked, and the value. */
export function RuleLine({
  line,
  askable,
  area,
  onChange,
}: {
  line: Line
  askable: Api['Askable']
  area: [number, number, number, number]
  onChange: (line: Line | null) => void
}) {
  const subject = subjectOf(askable.subjects, line)
  const groups: [string, Subject[]][] = [
    [t('rule.fields'), askable.subjects.filter((s) => s.of === 'record' && s.kind !== null)],
    [t('rule.record'), askable.subjects.filter((s) => s.of === 'record' && s.kind === null)],
    [t('rule.visit'), askable.subjects.filter((s) => s.of === 'visit')],
  ]
  // Where there is no area there is nothing to be in, and where there is no crew nobody to be of.
  const offered = (s: Subject) => s.field !== '@crew' || askable.crews.length > 0
  const tests = (subject?.tests ?? []).filter((test) => test !== 'in_area' || askable.areas.length > 0)
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box
        sx={{
          display: 'grid',
          gap: 2,
          alignItems: 'start',
          gridTemplateColumns: {
            xs: 'minmax(0,1fr) 40px',
            sm: 'minmax(0,5fr) minmax(0,4fr) minmax(0,6fr) 40px',
          },
        }}>
        <NativeSelect
          input={<OutlinedInput size="small" />}
          value={subject ? keyOf(line) : ''}
          onChange={(e) => {
            const next = askable.subjects.find((s) => keyOf(s) === e.target.value)
            if (next) onChange(lineOn(next, line.id))
          }}
          inputProps={{ 'aria-label': t('rule.subject') }}>
          {!subject && <option value="">{t('rule.gone', { key: line.field })}</option>}
          {groups.map(
            ([label, subjects]) =>
              subjects.some(offered) && (
                <optgroup key={label} label={label}>
                  {subjects.filter(offered).map((s) => (
                    <option key={keyOf(s)} value={keyOf(s)}>
                      {s.label}
                    </option>
                  ))}
                </optgroup>
              ),
          )}
        </NativeSelect>
        {subject && line.field !== '@own' ? (
          <NativeSelect
            input={<OutlinedInput size="small" />}
            value={line.test}
            onChange={(e) => {
              const test = e.target.value as FilterTest
              onChange({ ...line, test, value: blank(subject, test, line.value) })
            }}
            inputProps={{ 'aria-label': t('rule.test') }}
            sx={{ gridColumn: { xs: '1', sm: 'auto' } }}>
            {tests.map((test) => (
              <option key={test} value={test}>
                {t(`test.${test}`)}
              </option>
            ))}
          </NativeSelect>
        ) : (
          <span />
        )}
        <Box sx={{ minWidth: 0, gridColumn: { xs: '1', sm: 'auto' } }}>
          {subject && !isAlone(line.test) && line.field !== '@place' && line.field !== '@own' && (
            <RuleValue
              line={line}
              subject={subject}
              crews={askable.crews}
              onValue={(value) => onChange({ ...line, value })}
            />
          )}
          {line.test === 'in_area' && (
            <AreaSelect line={line} areas={askable.areas} onValue={(value) => onChange({ ...line, value })} />
          )}
        </Box>
        <IconButton
          aria-label={t('rule.drop')}
          onClick={() => onChange(null)}
          sx={{ gridRow: { xs: '1', sm: 'auto' }, gridColumn: { xs: '2', sm: 'auto' } }}>
          <Close />
        </IconButton>
      </Box>
      {(line.test === 'within' || line.test === 'in_shape') && (
        <RulePlace
          key={line.test}
          test={line.test}
          value={line.value}
          area={area}
          onValue={(value) => onChange({ ...line, value })}
        />
      )}
    </Box>
  )
}

function AreaSelect({
  line,
  areas,
  onValue,
}: {
  line: Line
  areas: Api['AskableAreas'][]
  onValue: (value: unknown) => void
}) {
  const { layer, record } = (line.value ?? {}) as { layer?: number; record?: string }
  return (
    <NativeSelect
      fullWidth
      input={<OutlinedInput size="small" />}
      value={record ? `${layer} ${record}` : ''}
      onChange={(e) => {
        const [of, area] = e.target.value.split(' ')
        onValue(area ? { layer: Number(of), record: area } : null)
      }}
      inputProps={{ 'aria-label': t('rule.area') }}>
      <option value="">{t('rule.choose')}</option>
      {areas.map((of) => (
        <optgroup key={of.layer} label={of.title}>
          {of.areas.map((a) => (
            <option key={a.record} value={`${of.layer} ${a.record}`}>
              {a.name}
            </option>
          ))}
        </optgroup>
      ))}
    </NativeSelect>
  )
}
