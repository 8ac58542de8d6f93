import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useMemo, useState } from 'react'
import { api, ApiError, sentences } from '../../shared/api'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, defaults, filled, type FieldProblem } from '../../shared/form/rules'
import { TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Layer, RecordRow, Values } from '../../shared/types'

export type Spot = { lon: number; lat: number }
type Props = { layer: Layer; zone: string; record: RecordRow | null; spot: Spot | null; /** `typed` asks the map to go there; a tap is in view already. */
  onSpot: (spot: Spot, typed: boolean) => void; onDone: (record: RecordRow) => void; onCancel: () => void }

/** The form of the phone, at the desk: for a new record or for changing one. The place is tapped on the map or typed. */
export function RecordEditor({ layer, zone, record, spot, onSpot, onDone, onCancel }: Props) {
  const rules = useMemo(() => compileRules(layer.design, layer.value_schema, layer.rules), [layer])
  const [values, setValues] = useState<Values>(() => record?.values ?? defaults(layer.design, { zone }))
  const [confirmed, setConfirmed] = useState<Values>(() => record?.values ?? {})
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [other, setOther] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const here = useMemo(() => ({ zone, lon: spot?.lon ?? null, lat: spot?.lat ?? null }), [zone, spot])
  const save = async () => {
    const judged = rules(filled(values), here)
    const unsure = judged.asks.filter((a) => confirmed[a.field] !== values[a.field]).map((a) => ({ ...a, message: t('ask.first', { label: layer.design.fields.find((f) => f.key === a.field)?.label ?? a.field }) }))
    const found = [...judged.problems, ...unsure]
    setProblems(found)
    setOther(spot ? [] : [t('check.place.needed')])
    if (found.length || !spot) return
    const geometry = { type: 'Point', coordinates: [spot.lon, spot.lat] }
    setBusy(true)
    try {
      if (!record) return onDone(await api<RecordRow>('POST', `/layers/${layer.id}/records`, { values: filled(judged.values), geometry }))
      // Only what was changed goes out, so that what others changed meanwhile stays.
      const changes = Object.fromEntries(Object.entries(judged.values).filter(([key, v]) => JSON.stringify(v) !== JSON.stringify(record.values[key] ?? null)))
      onDone(await api<RecordRow>('PATCH', `/layers/${layer.id}/records/${record.id}`, { base: record.version, values: changes, geometry: spot.lon === record.lon && spot.lat === record.lat ? null : geometry }))
    } catch (e) {
      const told = e instanceof ApiError ? e.problems.filter((p) => p.field && layer.design.fields.some((f) => f.key === p.field)) : []
      setProblems(told.map((p) => ({ field: p.field!, code: p.code, message: p.message })))
      setOther(told.length ? [] : sentences(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <>
    <Box sx={{ display: 'grid', gap: 4, gridTemplateColumns: 'minmax(0,1fr)', p: 4, flex: 1, minHeight: 0, overflow: 'auto', alignContent: 'start' }}>
      <Typography variant="h2">{record ? (record.name ?? t('record.unnamed')) : t('check.new')}</Typography>
      <PlaceInput spot={spot} onSpot={onSpot} />
      <RecordForm design={layer.design} rules={rules} here={here} values={values} problems={problems} look={layer.look} today={localToday()} confirmed={confirmed}
        onConfirm={(key, value) => { setConfirmed({ ...confirmed, [key]: value }); setProblems((p) => p.filter((x) => x.field !== key)) }}
        onChange={(key, value) => { setValues({ ...values, [key]: value }); setProblems((p) => p.filter((x) => x.field !== key)) }} />
    </Box>
    <Box sx={{ p: 3, borderTop: '1px solid', borderColor: 'divider', flex: 'none' }}>
      {other.length > 0 && <Box role="alert" sx={{ color: 'error.main', mb: 2 }}>{other.map((line) => <div key={line}>{line}</div>)}</Box>}
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Button onClick={save} disabled={busy}>{t('check.save')}</Button>
        <Button variant="outlined" onClick={onCancel}>{t('check.cancel')}</Button>
      </Box>
    </Box>
    </>
  )
}

/** Where the record is: what was typed is read by the server, which says how it understood it. */
function PlaceInput({ spot, onSpot }: Pick<Props, 'spot' | 'onSpot'>) {
  const shown = spot ? `${spot.lat.toFixed(5)}, ${spot.lon.toFixed(5)}` : ''
  const [typed, setTyped] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  const read = async () => {
    if (typed === null || typed.trim() === '') return setTyped(null)
    try {
      const place = await api<Spot & { said: string }>('POST', '/places/read', { text: typed })
      onSpot({ lon: place.lon, lat: place.lat }, true)
      setSaid(place.said)
      setError(null)
      setTyped(null)
    } catch (e) {
      setError(sentences(e)[0] ?? null)
    }
  }
  return (
    <TextInput label={t('check.place')} hint={said ?? t('check.place.hint')} needed error={error} value={typed ?? shown} onChange={(text) => { setTyped(text); setError(null); setSaid(null) }}
      onBlur={() => void read()} onKeyDown={(e) => { if (e.key === 'Enter') { e.preventDefault(); void read() } }} inputProps={{ autoComplete: 'off' }} />
  )
}
