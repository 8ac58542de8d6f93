import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { v7 as uuid } from 'uuid'
import { AltitudeInput } from '../../shared/form/AltitudeInput'
import { filePlaces, filesMissing, type Picked } from '../../shared/form/files'
import { FilesInput } from '../../shared/form/FilesInput'
import { measure, shapeOf, shownArea, shownLength } from '../../shared/form/geodesic'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, defaults, filled, type FieldProblem, type Here } from '../../shared/form/rules'
import { ago, t } from '../../shared/texts'
import { useAreas } from '../areas'
import type { Values } from '../../shared/types'
import { db, type Draft, type PackLayer } from '../db'
import { useMeta } from '../here'
import { MarkUp } from '../photos/MarkUp'
import { prepared } from '../photos/picture'
import { farAway, metres, readFix } from '../position'
import { saveRecord } from '../save'
import { syncNow } from '../sync/sync'
import { WideButton } from './WideButton'
import { Head } from './Head'
import { PlacePart } from './PlacePart'

/** The form for a new record. It is kept as a draft with every change, so a killed app loses nothing. */
export function AddScreen() {
  const { layer: id } = useParams()
  const [search] = useSearchParams()
  const found = useLiveQuery(async () => { const pack = (await db.packs.toArray()).find((p) => p.layers.some((l) => l.id === Number(id))); return pack ? { layer: pack.layers.find((l) => l.id === Number(id))!, zone: pack.time_zone, edge: pack.photo_edge ?? null } : null }, [id])
  const [draft, setDraft] = useState<Draft | null>(null)
  useEffect(() => {
    const key = search.get('mend') ?? newKey(Number(id))
    const visited = search.get('visited')
    // A visit that was begun to another record is another visit.
    void db.drafts.get(key).then((kept) => setDraft(kept && (!visited || kept.visited === visited) ? kept : blank(Number(id), search)))
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only when the screen opens
  }, [id])
  if (!found || !draft) return null
  const { layer, zone, edge } = found
  // A new record begins with the design's defaults; one that was begun keeps what it has.
  const first = Object.keys(draft.values).length === 0 && !draft.fixes_op && !draft.from ? { ...draft, values: defaults(layer.design, { zone }) } : draft
  return <Form key={draft.record} layer={layer} zone={zone} edge={edge} first={first} asked={search.has('lon') ? blank(Number(id), search) : null} onAnew={setDraft} />
}

export const newKey = (layer: number) => `new-${layer}`

export function blank(layer: number, search: URLSearchParams): Draft {
  const altitude = search.get('altitude')
  const visited = search.get('visited')
  return {
    key: newKey(layer), begun_at: new Date().toISOString(), layer, values: {}, photos: [], record: uuid(), lon: Number(search.get('lon')), lat: Number(search.get('lat')),
    fix: readFix(search), altitude: altitude === null ? null : Number(altitude), ...(visited ? { visited } : {}),
  }
}

/** Metres between a kept draft's place and the one asked for, from which on the person is told. */
const ELSEWHERE_M = 20

function Form({ layer, zone, edge, first, asked, onAnew }: { layer: PackLayer; zone: string; edge: number | null; first: Draft; asked: Draft | null; onAnew: (draft: Draft) => void }) {
  const navigate = useNavigate()
  const [draft, setDraft] = useState(first)
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [refused, setRefused] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const [preparing, setPreparing] = useState(0)
  const [marking, setMarking] = useState<Picked | null>(null)
  const top = useRef<HTMLDivElement>(null)
  const rules = useMemo(() => compileRules(layer.design, layer.value_schema, layer.rules), [layer])
  const { geometry: kind } = layer.design
  const areas = useAreas()
  const shape = useMemo(() => (kind === 'point' ? null : shapeOf(kind, draft.corners ?? [])), [kind, draft.corners])
  const here: Here = useMemo(() => ({ zone, ...(shape ? measure(shape) : { lon: draft.lon, lat: draft.lat }), altitude: layer.design.altitude ? (draft.altitude ?? null) : null, areas }), [zone, shape, areas, draft.lon, draft.lat, draft.altitude, layer])
  const files = draft.photos.map((p) => ({ ...p, slot: p.slot ?? null }))
  // What comes after a wait (a photo that was made smaller) must not undo what was typed meanwhile.
  const latest = useRef(draft)
  const change = (part: Partial<Draft>) => {
    const next = { ...latest.current, ...part }
    latest.current = next
    setDraft(next)
    void db.drafts.put(next)
  }
  const save = async () => {
    const judged = rules(filled(draft.values), here)
    const unsure = judged.asks.filter((a) => draft.confirmed?.[a.field] !== draft.values[a.field])
    const found = [...judged.problems, ...unsure.map((a) => ({ ...a, message: t('ask.first', { label: layer.design.fields.find((f) => f.key === a.field)?.label ?? a.field }) }))]
    const poor = draft.fix?.accuracy && layer.design.fix?.refuse_above && draft.fix.accuracy > layer.design.fix.refuse_above
    const outside = kind === 'point' && !(Math.abs(draft.lon) <= 180 && Math.abs(draft.lat) <= 90)
    const said = [
      ...(draft.from ? [] : filesMissing(layer.design, files)),
      ...(kind !== 'point' && !shape ? [t(`draw.${kind}.needed`)] : []),
      ...(layer.design.altitude?.required && (draft.altitude ?? null) === null ? [t('problem.altitude_required')] : []),
      ...(poor ? [t('form.fix.poor', { accuracy: Math.round(draft.fix!.accuracy!), wanted: layer.design.fix!.refuse_above! })] : []),
      ...(outside ? [t('problem.position_outside_world', { lon: draft.lon, lat: draft.lat })] : []),
    ]
    setProblems(found)
    setRefused(said)
    if (found.length || said.length) {
      requestAnimationFrame(() => top.current?.scrollTo({ top: 0 }))
      return
    }
    setBusy(true)
    try {
      await saveRecord(layer, { ...draft, values: judged.values })
    } catch (e) {
      setBusy(false)
      setRefused([t('form.notsaved', { why: e instanceof Error ? e.message : String(e) })])
      return
    }
    await navigate(draft.from ? `/field/record/${draft.record}` : draft.visited ? `/field/record/${draft.visited}` : '/field')
    void syncNow()
  }
  const drop = async () => {
    await db.drafts.delete(draft.key)
    await navigate(draft.from ? `/field/record/${draft.record}` : '/field')
  }
  const last = useMeta<Values>(`last-${layer.id}`)
  // What names a record is never the same as last, and neither is what is worked out.
  const sameAsLast = Object.fromEntries(layer.design.fields.filter((f) => f.key !== layer.name_field && f.kind !== 'calculated' && last?.[f.key] !== undefined && last[f.key] !== null).map((f) => [f.key, last![f.key]!]))
  const count = problems.length + refused.length
  const far = !asked || draft.fixes_op || draft.from || kind !== 'point' || Object.keys(first.values).length === 0 ? 0 : metres(first, asked)
  const anew = async () => {
    await db.drafts.delete(draft.key)
    if (asked) onAnew(asked)
  }
  const prepare = async (file: Picked) => {
    setPreparing((n) => n + 1)
    return prepared(file, edge).finally(() => setPreparing((n) => n - 1))
  }
  const keepMarked = (copy: Blob) => {
    const from = marking!
    const place = filePlaces(layer.design).find((p) => p.slot === from.slot)
    setMarking(null)
    if (place && files.filter((f) => f.slot === from.slot).length >= place.most) return setRefused([t('photo.mark.full', { most: place.most })])
    change({ photos: [...draft.photos, { id: uuid(), blob: copy, name: from.name.replace(/(\.\w+)?$/, '-marked.jpg'), slot: from.slot }] })
  }
  return (
    <>
      {marking && <MarkUp blob={marking.blob} name={marking.name} onDone={keepMarked} onClose={() => setMarking(null)} />}
      <Head title={t(draft.from ? 'record.changing' : 'record.new.in', { layer: layer.title })} {...(draft.from ? { to: `/field/record/${draft.record}` } : draft.visited ? { to: `/field/record/${draft.visited}` } : {})} under={kind === 'point' ? null : t('draw.corners', { n: draft.corners?.length ?? 0 })}>
        <Button color="inherit" variant="text" onClick={drop}>{t('form.drop')}</Button>
      </Head>
      <Box ref={top} sx={{ flex: 1, overflow: 'auto', p: 4 }}>
        {far > ELSEWHERE_M && (
          <Alert severity="info" variant="outlined" sx={{ mb: 4 }} action={<Button size="small" variant="outlined" onClick={anew}>{t('form.draft.anew')}</Button>}>
            {t('form.draft', { ago: ago(first.begun_at), far: farAway(far) })}
          </Alert>
        )}
        {draft.fix?.accuracy && layer.design.fix?.warn_above && draft.fix.accuracy > layer.design.fix.warn_above && (
          <Alert severity="warning" variant="outlined" sx={{ mb: 4 }}>{t('form.fix.weak', { accuracy: Math.round(draft.fix.accuracy), wanted: layer.design.fix.warn_above })}</Alert>
        )}
        {count > 0 && <Alert severity="error" variant="outlined" sx={{ mb: 4 }}>{t('form.tofix', { n: count })}{[...refused, ...problems.map((p) => p.message)].map((r) => <div key={r}>{r}</div>)}</Alert>}
        {kind !== 'point' && (
          <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 3, mb: 4, p: 3, border: '2px solid', borderColor: 'divider', borderRadius: 2 }}>
            <span>{t(`draw.${kind}`)}{shape && <>: <b>{shape.type === 'Polygon' ? shownArea(measure(shape).area ?? 0) : shownLength(measure(shape).length ?? 0)}</b></>}</span>
            <Button variant="outlined" color="inherit" onClick={() => void navigate(`/field/draw/${layer.id}${draft.fixes_op || draft.from ? `?mend=${draft.key}` : ''}`)}>{t('draw.change')}</Button>
          </Box>
        )}
        {kind === 'point' && (
          <PlacePart place={draft} accuracy={draft.fix?.accuracy ?? null} photo={draft.photos.find((p) => p.at)?.at ?? null} onMap={() => void db.drafts.put(draft).then(() => navigate(`/field/place/${layer.id}?mend=${draft.key}`))}
            onPlace={({ altitude, ...place }) => change({ ...place, ...(layer.design.altitude && altitude !== undefined ? { altitude } : {}) })} />
        )}
        {last && !draft.from && <Button variant="outlined" color="inherit" sx={{ mb: 4, minHeight: 48 }} onClick={() => change({ values: { ...draft.values, ...sameAsLast } })}>{t('form.same')}</Button>}
        {layer.design.altitude && <Box sx={{ mb: 4 }}><AltitudeInput rules={layer.design.altitude} metres={draft.altitude ?? null} onChange={(altitude) => change({ altitude })} /></Box>}
        <RecordForm design={layer.design} rules={rules} here={here} values={draft.values} problems={problems} look={layer.look} today={localToday()}
          confirmed={draft.confirmed ?? {}} onConfirm={(key, value) => { change({ confirmed: { ...draft.confirmed, [key]: value } }); setProblems((p) => p.filter((x) => x.field !== key)) }}
          onChange={(key, value) => { change({ values: { ...draft.values, [key]: value } }); setProblems((p) => p.filter((x) => x.field !== key)) }}>
          {filePlaces(layer.design).map((place) => <FilesInput key={place.slot ?? ''} place={place} files={files} onChange={(photos) => change({ photos })} onRefused={setRefused} prepare={prepare} onOpen={setMarking} />)}
        </RecordForm>
      </Box>
      <Box sx={{ p: 3.5, borderTop: '1px solid', borderColor: 'divider', flex: 'none', bgcolor: 'background.paper' }}>
        <WideButton disabled={busy || preparing > 0} onClick={save}>{t(preparing > 0 ? 'form.photo.preparing' : 'form.save')}</WideButton>
      </Box>
    </>
  )
}
