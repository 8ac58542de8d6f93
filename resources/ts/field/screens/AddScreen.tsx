import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useRef, useState } from 'react'
import { Navigate, useNavigate, useParams, useSearchParams } from 'react-router'
import { v7 as uuid } from 'uuid'
import { AltitudeInput } from '../../shared/form/AltitudeInput'
import { filePlaces, type Picked } from '../../shared/form/files'
import { FilesInput } from '../../shared/form/FilesInput'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { defaults } from '../../shared/form/rules'
import { t } from '../../shared/texts'
import type { Values } from '../../shared/types'
import type { Draft } from '../db'
import { useDraft, type Opened } from '../drafts'
import { outgrownOf, sameAs } from '../judged'
import { useMeta } from '../phoneState'
import { MarkUp } from '../photos/MarkUp'
import { prepared } from '../photos/picture'
import { metres } from '../position'
import { WideButton } from './WideButton'
import { FormNotices } from './FormNotices'
import { Head } from './Head'
import { PlacePart } from './PlacePart'
import { ShapePart } from './ShapePart'
import { useRecordForm } from './useRecordForm'

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
  const top = useRef<HTMLDivElement>(null)
  const [marking, setMarking] = useState<Picked | null>(null)
  const form = useRecordForm(layer, zone, first, () =>
    requestAnimationFrame(() => top.current?.scrollTo({ top: 0 })),
  )
  const { draft, latest, shape, change, changeField, forget } = form
  const { geometry: kind } = layer.design
  const files = draft.photos.map((p) => ({ ...p, slot: p.slot ?? null }))
  const last = useMeta<Values>(`last-${layer.id}`)
  const far =
    !asked || draft.fixes_op || draft.from || kind !== 'point' || Object.keys(first.values).length === 0
      ? 0
      : metres(first, asked)

  const drop = async () => {
    await forget()
    await navigate(draft.from ? `/field/record/${draft.record}` : '/field', { replace: true })
  }
  const anew = async () => {
    await forget()
    if (asked) onAnew(asked)
  }
  const keepMarked = (copy: Blob) => {
    const from = marking!
    const place = filePlaces(layer.design).find((p) => p.slot === from.slot)
    setMarking(null)
    if (place && latest.current.photos.filter((f) => (f.slot ?? null) === from.slot).length >= place.most)
      return form.setRefused([t('photo.mark.full', { most: place.most })])
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
          unkept={form.unkept}
          since={since}
          outgrown={outgrownOf(layer, draft)}
          far={far}
          begunAt={first.begun_at}
          accuracy={draft.fix?.accuracy}
          warnAbove={layer.design.fix?.warn_above}
          complaints={[...form.refused, ...form.problems.map((p) => p.message)]}
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
            onMap={() => {
              const at = `/field/place/${layer.id}?mend=${draft.key}`
              void form.keepNow().then((isKept) => isKept && navigate(at))
            }}
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
            onClick={() => change({ values: { ...latest.current.values, ...sameAs(last, layer) } })}>
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
          rules={form.rules}
          here={form.here}
          values={draft.values}
          problems={form.problems}
          look={layer.look}
          today={localToday(zone)}
          confirmed={draft.confirmed ?? {}}
          onConfirm={(key, value) =>
            changeField(key, { confirmed: { ...latest.current.confirmed, [key]: value } })
          }
          onChange={(key, value) => changeField(key, { values: { ...latest.current.values, [key]: value } })}>
          {filePlaces(layer.design).map((place) => (
            <FilesInput
              key={place.slot ?? ''}
              place={place}
              files={files}
              onChange={(photos) => change({ photos })}
              onRefused={form.setRefused}
              prepare={(file) => prepared(file, edge)}
              onWork={form.whileWorking}
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
        <WideButton disabled={form.busy || form.preparing > 0} onClick={form.save}>
          {t(form.preparing > 0 ? 'form.photo.preparing' : 'form.save')}
        </WideButton>
      </Box>
    </>
  )
}
