import AddAPhoto from '@mui/icons-material/AddAPhotoOutlined'
import Close from '@mui/icons-material/Close'
import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { v7 as uuid } from 'uuid'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, defaults, filled, type FieldProblem, type Here } from '../../shared/form/rules'
import { ago, t } from '../../shared/texts'
import { db, type Draft, type PackLayer } from '../db'
import { takePhoto } from '../photos'
import { farAway, metres } from '../position'
import { saveRecord } from '../save'
import { syncNow } from '../sync'
import { Head } from './Head'

/** The form for a new record. It is kept as a draft with every change, so a killed app loses nothing. */
export function AddScreen() {
  const { layer: id } = useParams()
  const [search] = useSearchParams()
  const found = useLiveQuery(async () => { const pack = (await db.packs.toArray()).find((p) => p.layers.some((l) => l.id === Number(id))); return pack ? { layer: pack.layers.find((l) => l.id === Number(id))!, zone: pack.time_zone } : null }, [id])
  const [draft, setDraft] = useState<Draft | null>(null)
  useEffect(() => {
    const key = search.get('mend') ?? newKey(Number(id))
    void db.drafts.get(key).then((kept) => setDraft(kept ?? blank(Number(id), search)))
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only when the screen opens
  }, [id])
  if (!found || !draft) return null
  const { layer, zone } = found
  // A new record begins with the design's defaults; one that was begun keeps what it has.
  const first = Object.keys(draft.values).length === 0 && !draft.fixes_op ? { ...draft, values: defaults(layer.design, { zone }) } : draft
  return <Form key={draft.record} layer={layer} zone={zone} first={first} asked={blank(Number(id), search)} onAnew={setDraft} />
}

const newKey = (layer: number) => `new-${layer}`

function blank(layer: number, search: URLSearchParams): Draft {
  const accuracy = search.get('accuracy')
  return {
    key: newKey(layer), begun_at: new Date().toISOString(), layer, values: {}, photos: [], record: uuid(), lon: Number(search.get('lon')), lat: Number(search.get('lat')),
    fix: accuracy === null ? null : { accuracy: Number(accuracy), at: search.get('at') },
  }
}

/** Metres between a kept draft's place and the one asked for, from which on the person is told. */
const ELSEWHERE_M = 20

function Form({ layer, zone, first, asked, onAnew }: { layer: PackLayer; zone: string; first: Draft; asked: Draft; onAnew: (draft: Draft) => void }) {
  const navigate = useNavigate()
  const [draft, setDraft] = useState(first)
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [refused, setRefused] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const top = useRef<HTMLDivElement>(null)
  const rules = useMemo(() => compileRules(layer.design, layer.value_schema, layer.rules), [layer])
  const here: Here = useMemo(() => ({ zone, lon: draft.lon, lat: draft.lat }), [zone, draft.lon, draft.lat])
  const { photos: photoRules } = layer.design
  const change = (part: Partial<Draft>) => {
    const next = { ...draft, ...part }
    setDraft(next)
    void db.drafts.put(next)
  }
  const pick = async (files: FileList | null) => {
    const said: string[] = []
    const taken: Draft['photos'] = []
    for (const file of files ?? []) {
      const photo = await takePhoto(file, photoRules.max_bytes)
      if ('refused' in photo) said.push(photo.refused)
      else taken.push(photo)
    }
    const room = photoRules.most - draft.photos.length
    if (taken.length > room) said.push(t('form.photos.most', { most: photoRules.most }))
    setRefused(said)
    if (taken.length) change({ photos: [...draft.photos, ...taken.slice(0, room)] })
  }
  const save = async () => {
    const judged = rules(filled(draft.values), here)
    const unsure = judged.asks.filter((a) => draft.confirmed?.[a.field] !== draft.values[a.field])
    const found = [...judged.problems, ...unsure.map((a) => ({ ...a, message: t('ask.first', { label: layer.design.fields.find((f) => f.key === a.field)?.label ?? a.field }) }))]
    const poor = draft.fix?.accuracy && layer.design.fix?.refuse_above && draft.fix.accuracy > layer.design.fix.refuse_above
    const outside = !(Math.abs(draft.lon) <= 180 && Math.abs(draft.lat) <= 90)
    const said = [
      ...(draft.photos.length < photoRules.least && photoRules.allowed ? [t('problem.photos_count', { count: draft.photos.length, least: photoRules.least, most: photoRules.most })] : []),
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
    await navigate('/field')
    void syncNow()
  }
  const drop = async () => {
    await db.drafts.delete(draft.key)
    await navigate('/field')
  }
  const count = problems.length + refused.length
  const far = draft.fixes_op || Object.keys(first.values).length === 0 ? 0 : metres(first, asked)
  const anew = async () => {
    await db.drafts.delete(draft.key)
    onAnew(asked)
  }
  return (
    <>
      <Head title={t('record.new.in', { layer: layer.title })} under={`${draft.lat.toFixed(5)}, ${draft.lon.toFixed(5)}${draft.fix?.accuracy ? ` ± ${Math.round(draft.fix.accuracy)} m` : ''}`}>
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
        <RecordForm design={layer.design} rules={rules} here={here} values={draft.values} problems={problems} look={layer.look} today={localToday()}
          confirmed={draft.confirmed ?? {}} onConfirm={(key, value) => { change({ confirmed: { ...draft.confirmed, [key]: value } }); setProblems((p) => p.filter((x) => x.field !== key)) }}
          onChange={(key, value) => { change({ values: { ...draft.values, [key]: value } }); setProblems((p) => p.filter((x) => x.field !== key)) }}>
          {photoRules.allowed && (
            <Box>
              <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>{t('form.photos')}{photoRules.least > 0 && ' *'}</Typography>
              <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2.5 }}>
                {draft.photos.map((p) => <Thumb key={p.id} blob={p.blob} name={p.name} onRemove={() => change({ photos: draft.photos.filter((x) => x.id !== p.id) })} />)}
                {draft.photos.length < photoRules.most && (
                  <Box component="label" sx={{ width: 104, height: 88, border: '2px dashed', borderRadius: 2, display: 'grid', placeItems: 'center', placeContent: 'center', gap: 0.5, fontWeight: 650, cursor: 'pointer', '&:focus-within': { outline: '3px solid #2f5d8a', outlineOffset: 2 } }}>
                    <AddAPhoto aria-hidden /> {t('form.photo.add')}
                    <input type="file" accept="image/jpeg,image/png,image/webp" multiple className="visually-hidden" onChange={(e) => { void pick(e.target.files); e.target.value = '' }} />
                  </Box>
                )}
              </Box>
            </Box>
          )}
        </RecordForm>
      </Box>
      <Box sx={{ p: 3.5, borderTop: '1px solid', borderColor: 'divider', flex: 'none', bgcolor: 'background.paper' }}>
        <Button fullWidth disabled={busy} onClick={save} sx={{ minHeight: 66, fontSize: '1.25rem', fontFamily: '"Archivo Variable"', fontWeight: 760, borderRadius: 2.5 }}>{t('form.save')}</Button>
      </Box>
    </>
  )
}

export function Thumb({ blob, name, onRemove }: { blob: Blob; name: string; onRemove?: () => void }) {
  const [url, setUrl] = useState<string | null>(null)
  useEffect(() => {
    const made = URL.createObjectURL(blob)
    setUrl(made)
    return () => URL.revokeObjectURL(made)
  }, [blob])
  return (
    <Box sx={{ position: 'relative', width: 104, height: 88 }}>
      {url && <img src={url} alt={name} style={{ width: '100%', height: '100%', objectFit: 'cover', borderRadius: 8 }} />}
      {onRemove && <IconButton aria-label={t('form.photo.remove', { name })} onClick={onRemove} sx={{ position: 'absolute', right: -8, top: -8, width: 36, height: 36, bgcolor: 'background.paper', border: '2px solid', borderColor: 'text.primary', '&:hover': { bgcolor: 'background.paper' } }}><Close fontSize="small" /></IconButton>}
    </Box>
  )
}
