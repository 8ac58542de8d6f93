import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { ThemeProvider } from '@mui/material/styles'
import Typography from '@mui/material/Typography'
import { useMemo, useState } from 'react'
import { AltitudeInput } from '../../shared/form/AltitudeInput'
import { filePlaces, filesMissing, type Picked } from '../../shared/form/files'
import { FilesInput } from '../../shared/form/FilesInput'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, filled, type FieldProblem } from '../../shared/form/rules'
import { PhoneFrame } from '../../shared/parts/PhoneFrame'
import { Segments } from '../../shared/parts/Segments'
import { Strip } from '../../shared/parts/Strip'
import { t } from '../../shared/texts'
import { makeTheme } from '../../shared/theme'
import type { Design, Values } from '../../shared/types'
import type { Checked } from './useDesignCheck'

/** The form as the crew gets it, working: it can be filled in and saved to nowhere. */
export function FormShowing({
  design,
  checked,
  sound,
  zone,
}: {
  design: Design
  checked: Checked | null
  sound: boolean
  zone: string
}) {
  const [light, setLight] = useState<'sun' | 'night'>('sun')
  const [values, setValues] = useState<Values>({})
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [done, setDone] = useState(false)
  const theme = useMemo(() => makeTheme(18, light === 'night'), [light])
  const rules = useMemo(
    () => checked && compileRules(checked.design, checked.value_schema, checked.rules),
    [checked],
  )
  const [files, setFiles] = useState<Picked[]>([])
  const [refused, setRefused] = useState<string[]>([])
  const [altitude, setAltitude] = useState<number | null>(null)
  const here = useMemo(() => ({ zone, altitude }), [zone, altitude])
  const [confirmed, setConfirmed] = useState<Values>({})
  // A design that is not sound yet is shown as far as its fields have a label, by the rules that last were.
  const shown =
    checked && sound ? checked.design : { ...design, fields: design.fields.filter((f) => f.label) }
  const fields = new Set(shown.fields.map((f) => f.key))
  const own = Object.fromEntries(Object.entries(values).filter(([k]) => fields.has(k)))
  const tryIt = () => {
    const known = new Set(checked?.design.fields.map((f) => f.key))
    const judged = rules?.(
      filled(Object.fromEntries(Object.entries(own).filter(([key]) => known.has(key)))),
      here,
    )
    const unsure = judged?.asks.filter((a) => confirmed[a.field] !== own[a.field]) ?? []
    const found = [
      ...(judged?.problems ?? []),
      ...unsure.map((a) => ({
        ...a,
        message: t('ask.first', { label: shown.fields.find((f) => f.key === a.field)?.label ?? a.field }),
      })),
    ]
    const missing = [
      ...filesMissing(shown, files),
      ...(shown.altitude?.required && altitude === null ? [t('problem.altitude_required')] : []),
    ]
    setProblems(found)
    setRefused(missing)
    setDone(found.length === 0 && missing.length === 0)
  }
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 3 }}>
        <Typography variant="h3">{t('showing.crew')}</Typography>
        <Segments
          label={t('showing.light')}
          value={light}
          onChange={setLight}
          options={[
            { value: 'sun', label: t('showing.sun') },
            { value: 'night', label: t('showing.night') },
          ]}
        />
      </Box>
      <ThemeProvider theme={theme}>
        <PhoneFrame label={t('showing.phone')}>
          <Strip left={t('strip.trial')} right={t('strip.nosignal')} tone="well" />
          <Box sx={{ flex: 1, overflow: 'auto', p: 4, pb: 6 }}>
            <Typography variant="h1" sx={{ mb: 4, fontSize: '1.35rem' }}>
              {t('record.new.in', { layer: shown.title || t('design.untitled') })}
            </Typography>
            {shown.fields.length === 0 && (
              <Typography color="text.secondary">{t('showing.nofields')}</Typography>
            )}
            {refused.length > 0 && (
              <Box role="alert" sx={{ color: 'error.main', mb: 3 }}>
                {refused.map((line) => (
                  <div key={line}>{line}</div>
                ))}
              </Box>
            )}
            {shown.geometry !== 'point' && (
              <Typography color="text.secondary" sx={{ mb: 4 }}>
                {t(`showing.drawn.${shown.geometry}`)}
              </Typography>
            )}
            {shown.altitude && (
              <Box sx={{ mb: 4 }}>
                <AltitudeInput rules={shown.altitude} metres={altitude} onChange={setAltitude} />
              </Box>
            )}
            <RecordForm
              design={shown}
              rules={rules}
              here={here}
              confirmed={confirmed}
              onConfirm={(key, value) => {
                setConfirmed((c) => ({ ...c, [key]: value }))
                setProblems((p) => p.filter((x) => x.field !== key))
              }}
              values={own}
              problems={problems}
              today={localToday(zone)}
              {...(checked ? { look: checked.look } : {})}
              onChange={(key, value) => {
                setValues((v) => ({ ...v, [key]: value }))
                setProblems((p) => p.filter((x) => x.field !== key))
                setDone(false)
              }}>
              {filePlaces(shown).map((place) => (
                <FilesInput
                  key={place.slot ?? ''}
                  place={place}
                  files={files}
                  onChange={(next) => {
                    setFiles(next)
                    setDone(false)
                  }}
                  onRefused={setRefused}
                />
              ))}
            </RecordForm>
          </Box>
          <Box sx={{ p: 3, borderTop: '1px solid', borderColor: 'divider' }}>
            {done && (
              <Typography
                role="status"
                sx={{ mb: 2, textAlign: 'center', color: 'primary.main', fontWeight: 650 }}>
                {t('showing.fits')}
              </Typography>
            )}
            <Button
              fullWidth
              size="large"
              onClick={tryIt}
              disabled={!rules}
              sx={{ minHeight: 56, fontSize: '1.1rem' }}>
              {t('form.save')}
            </Button>
          </Box>
        </PhoneFrame>
      </ThemeProvider>
    </>
  )
}
