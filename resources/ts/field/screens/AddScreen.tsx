import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useMemo, useRef, useState } from 'react'
import { Navigate, useNavigate, useParams, useSearchParams } from 'react-router'
import { v7 as uuid } from 'uuid'
import { AltitudeInput } from '../../shared/form/AltitudeInput'
import { filePlaces, filesMissing, type Picked } from '../../shared/form/files'
import { FilesInput } from '../../shared/form/FilesInput'
import { measure, shapeOf } from '../../shared/form/geodesic'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, defaults, filled, type FieldProblem, type Here } from '../../shared/form/rules'
import { t } from '../../shared/texts'
import { useAreas } from '../areas'
import type { Values } from '../../shared/types'
import { db, type Draft } from '../db'
import { useDraft, type Opened } from '../drafts'
import { useMeta } from '../phoneState'
import { MarkUp } from '../photos/MarkUp'
import { prepared } from '../photos/picture'
import { metres } from '../position'
import { dropDraft, saveRecord } from '../save'
import { storeTrouble } from '../storeTrouble'
import { syncNow } from '../sync/sync'
import { WideButton } from './WideButton'
import { FormNotices } from './FormNotices'
import { Head } from './Head'
import { PlacePart } from './PlacePart'
import { ShapePart } from './ShapePart'

/** The form for a new record. It is kept as a draft with every change, so a killed app loses nothing. */
export function AddScreen() {
  const id = Number(useParams().layer)
  const [search] = useSearchParams()
  const opened = useDraft(id, search)
  const [anew, setAnew] = useState<Draft | null>(null)
  if (opened === null) return null
  if (opened === 'none') return <NothingBegun from={search.get('mend')} />
  if (opened === 'elsewhere') return <Head title={t('form.elsewhere')} under={t('form.elsewhere.text')} />
  const draft = anew ?? opened.draft
  // A new record begins with the design's defaults; one that was begun keeps what it has.
  const first =
    Object.keys(draft.values).length === 0 && !draft.fixes_op && !draft.from
      ? { ...draft, values: defaults(opened.layer.design, { zone: opened.zone }) }
      : draft
  return <Form key={draft.record} {...opened} first={first} onAnew={setAnew} />
}

/** One came back to a form that was saved or thrown away: the record itself, or the map, is where it went. */
function NothingBegun({ from }: { from: string | null }) {
  return <Navigate to={from?.startsWith('change-') ? `/field/record/${from.slice(7)}` : '/field'} replace />
}

function Form({
  layer,
  zone,
  edge,
  first,
  asked,
  since,
  onAnew,
}: Omit<Opened, 'draft'> & { first: Draft; onAnew: (draft: Draft) => void }) {
  const navigate = useNavigate()
  const [draft, setDraft] = useState(first)
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [refused, setRefused] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const [preparing, setPreparing] = useState(0)
  const [unkept, setUnkept] = useState(false)
  // Once saved or thrown away nothing of this form is kept any more, whatever still comes in.
  const over = useRef(false)
  const work = useRef(new Set<Promise<void>>())
  const [marking, setMarking] = useState<Picked | null>(null)
  const top = useRef<HTMLDivElement>(null)
  const rules = useMemo(() => compileRules(layer.design, layer.value_schema, layer.rules), [layer])
  const { geometry: kind } = layer.design
  const areas = useAreas()
  const shape = useMemo(
    () => (kind === 'point' ? null : shapeOf(kind, draft.corners ?? [])),
    [kind, draft.corners],
  )
  const here: Here = useMemo(
    () => ({
      zone,
      ...(shape ? measure(shape) : { lon: draft.lon, lat: draft.lat }),
      altitude: layer.design.altitude ? (draft.altitude ?? null) : null,
      areas,
    }),
    [zone, shape, areas, draft.lon, draft.lat, draft.altitude, layer],
  )
  const files = draft.photos.map((p) => ({ ...p, slot: p.slot ?? null }))
  // What comes after a wait (a photo that was made smaller) must not undo what was typed meanwhile.
  const latest = useRef(draft)
  const change = (part: Partial<Draft>) => {
    if (over.current) return
    const next = { ...latest.current, ...part }
    latest.current = next
    setDraft(next)
    db.drafts.put(next).then(
      () => setUnkept(false),
      () => setUnkept(true),
    )
  }
  const whileWorking = (job: Promise<void>) => {
    work.current.add(job)
    setPreparing((n) => n + 1)
    void job.finally(() => {
      work.current.delete(job)
      setPreparing((n) => n - 1)
    })
  }
  const save = async () => {
    if (busy || over.current) return
    // A picked photo that is still being read belongs to this record.
    while (work.current.size > 0) await Promise.allSettled(work.current)
    const draft = latest.current
    const files = draft.photos.map((p) => ({ ...p, slot: p.slot ?? null }))
    const judged = rules(known(filled(draft.values)), here)
    const unsure = judged.asks.filter((a) => draft.confirmed?.[a.field] !== draft.values[a.field])
    const found = [
      ...judged.problems,
      ...unsure.map((a) => ({
        ...a,
        message: t('ask.first', {
          label: layer.design.fields.find((f) => f.key === a.field)?.label ?? a.field,
        }),
      })),
    ]
    const poor =
      draft.fix?.accuracy &&
      layer.design.fix?.refuse_above &&
      draft.fix.accuracy > layer.design.fix.refuse_above
    const outside = kind === 'point' && !(Math.abs(draft.lon) <= 180 && Math.abs(draft.lat) <= 90)
    const said = [
      ...(draft.from ? [] : filesMissing(layer.design, files)),
      ...(kind !== 'point' && !shape ? [t(`draw.${kind}.needed`)] : []),
      ...(layer.design.altitude?.required && (draft.altitude ?? null) === null
        ? [t('problem.altitude_required')]
        : []),
      ...(poor
        ? [
            t('form.fix.poor', {
              accuracy: Math.round(draft.fix!.accuracy!),
              wanted: layer.design.fix!.refuse_above!,
            }),
          ]
        : []),
      ...(outside ? [t('problem.position_outside_world', { lon: draft.lon, lat: draft.lat })] : []),
    ]
    setProblems(found)
    setRefused(said)
    if (found.length || said.length) {
      requestAnimationFrame(() => top.current?.scrollTo({ top: 0 }))
      return
    }
    setBusy(true)
    over.current = true
    try {
      await saveRecord(layer, {
        ...draft,
        values: judged.values,
        ...(outgrown.length
          ? { outgrown: outgrown.map(([key, value]) => `${key}: ${String(value)}`).join(', ') }
          : {}),
      })
    } catch (e) {
      over.current = false
      setBusy(false)
      setRefused([t('form.notsaved', { why: storeTrouble(e) })])
      return
    }
    // In place of the form: one does not come back to it.
    await navigate(
      draft.from
        ? `/field/record/${draft.record}`
        : draft.visited
          ? `/field/record/${draft.visited}`
          : '/field',
      { replace: true },
    )
    void syncNow()
  }
  const drop = async () => {
    over.current = true
    await db.transaction('rw', [db.drafts, db.forms], () => dropDraft(draft.key))
    await navigate(draft.from ? `/field/record/${draft.record}` : '/field', { replace: true })
  }
  const known = (values: Values): Values =>
    Object.fromEntries(
      Object.entries(values).filter(([key]) => layer.design.fields.some((f) => f.key === key)),
    )
  const last = useMeta<Values>(`last-${layer.id}`)
  // What names a record is never the same as last, and neither is what is worked out.
  const sameAsLast = Object.fromEntries(
    layer.design.fields
      .filter(
        (f) =>
          f.key !== layer.name_field &&
          f.kind !== 'calculated' &&
          last?.[f.key] !== undefined &&
          last[f.key] !== null,
      )
      .map((f) => [f.key, last![f.key]!]),
  )
  // A draft of an older app, whose form nobody kept: what today's form has no place for is shown, and goes
  // into the note that stays here.
  const outgrown = Object.entries(draft.values).filter(
    ([key, value]) => value !== null && value !== '' && !layer.design.fields.some((f) => f.key === key),
  )
  const far =
    !asked || draft.fixes_op || draft.from || kind !== 'point' || Object.keys(first.values).length === 0
      ? 0
      : metres(first, asked)
  const anew = async () => {
    over.current = true
    await db.transaction('rw', [db.drafts, db.forms], () => dropDraft(draft.key))
    if (asked) onAnew(asked)
  }
  const keepMarked = (copy: Blob) => {
    const from = marking!
    const place = filePlaces(layer.design).find((p) => p.slot === from.slot)
    setMarking(null)
    if (place && latest.current.photos.filter((f) => (f.slot ?? null) === from.slot).length >= place.most)
      return setRefused([t('photo.mark.full', { most: place.most })])
    change({
      photos: [
        ...latest.current.photos,
        { id: uuid(), blob: copy, name: from.name.replace(/(\.\w+)?$/, '-marked.jpg'), slot: from.slot },
      ],
    })
  }
  return (
    <>
      {marking && (
        <MarkUp
          blob={marking.blob}
          name={marking.name}
          onDone={keepMarked}
          onClose={() => setMarking(null)}
        />
      )}
      <Head
        title={t(draft.from ? 'record.changing' : 'record.new.in', { layer: layer.title })}
        {...(draft.from
          ? { to: `/field/record/${draft.record}` }
          : draft.visited
            ? { to: `/field/record/${draft.visited}` }
            : {})}
        under={kind === 'point' ? null : t('draw.corners', { n: draft.corners?.length ?? 0 })}>
        <Button color="inherit" variant="text" onClick={drop}>
          {t('form.drop')}
        </Button>
      </Head>
      <Box ref={top} sx={{ flex: 1, overflow: 'auto', p: 4 }}>
        <FormNotices
          unkept={unkept}
          since={since}
          outgrown={outgrown}
          far={far}
          begunAt={first.begun_at}
          accuracy={draft.fix?.accuracy}
          warnAbove={layer.design.fix?.warn_above}
          complaints={[...refused, ...problems.map((p) => p.message)]}
          onAnew={() => void anew()}
        />
        {kind !== 'point' && (
          <ShapePart
            kind={kind}
            shape={shape}
            onDraw={() => void navigate(`/field/draw/${layer.id}?mend=${draft.key}`)}
          />
        )}
        {kind === 'point' && (
          <PlacePart
            place={draft}
            accuracy={draft.fix?.accuracy ?? null}
            photo={draft.photos.find((p) => p.at)?.at ?? null}
            onMap={() =>
              void db.drafts
                .put(latest.current)
                .then(() => navigate(`/field/place/${layer.id}?mend=${draft.key}`))
            }
            onPlace={({ altitude, ...place }) =>
              change({ ...place, ...(layer.design.altitude && altitude !== undefined ? { altitude } : {}) })
            }
          />
        )}
        {last && !draft.from && (
          <Button
            variant="outlined"
            color="inherit"
            sx={{ mb: 4, minHeight: 48 }}
            onClick={() => change({ values: { ...latest.current.values, ...sameAsLast } })}>
            {t('form.same')}
          </Button>
        )}
        {layer.design.altitude && (
          <Box sx={{ mb: 4 }}>
            <AltitudeInput
              rules={layer.design.altitude}
              metres={draft.altitude ?? null}
              onChange={(altitude) => change({ altitude })}
            />
          </Box>
        )}
        <RecordForm
          design={layer.design}
          rules={rules}
          here={here}
          values={draft.values}
          problems={problems}
          look={layer.look}
          today={localToday(zone)}
          confirmed={draft.confirmed ?? {}}
          onConfirm={(key, value) => {
            change({ confirmed: { ...latest.current.confirmed, [key]: value } })
            setProblems((p) => p.filter((x) => x.field !== key))
          }}
          onChange={(key, value) => {
            change({ values: { ...latest.current.values, [key]: value } })
            setProblems((p) => p.filter((x) => x.field !== key))
          }}>
          {filePlaces(layer.design).map((place) => (
            <FilesInput
              key={place.slot ?? ''}
              place={place}
              files={files}
              onChange={(photos) => change({ photos })}
              onRefused={setRefused}
              prepare={(file) => prepared(file, edge)}
              onWork={whileWorking}
              onOpen={setMarking}
            />
          ))}
        </RecordForm>
      </Box>
      <Box
        sx={{
          p: 3.5,
          borderTop: '1px solid',
          borderColor: 'divider',
          flex: 'none',
          bgcolor: 'background.paper',
        }}>
        <WideButton disabled={busy || preparing > 0} onClick={save}>
          {t(preparing > 0 ? 'form.photo.preparing' : 'form.save')}
        </WideButton>
      </Box>
    </>
  )
}
