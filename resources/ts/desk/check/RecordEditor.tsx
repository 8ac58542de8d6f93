import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useEffect, useMemo, useRef, useState } from 'react'
import { ApiError, sentences } from '../../shared/api'
import { AltitudeInput } from '../../shared/form/AltitudeInput'
import { declare, filePlaces, filesMissing, type Picked } from '../../shared/form/files'
import { FilesInput } from '../../shared/form/FilesInput'
import { RecordForm, localToday } from '../../shared/form/RecordForm'
import { compileRules, defaults, filled, type FieldProblem } from '../../shared/form/rules'
import { t } from '../../shared/texts'
import type { Layer, RecordRow, Values } from '../../shared/types'
import { sendFile } from '../../shared/upload'
import { DraftTaken } from '../unsaved/DraftTaken'
import { readKept } from '../unsaved/kept'
import { useKeptDraft } from '../unsaved/useKeptDraft'
import { geometryOf, surroundings, type Placing } from './placing'
import { draftName, pickedFiles, type RecordDraft } from './recordDrafts'
import { PlaceInput } from './PlaceInput'
import { changeRecord, makeRecord, readRecord } from '../queries/records'

type Props = {
  /** The layer that is looked at: drafts are listed under it. */
  under: number
  layer: Layer
  zone: string
  record: RecordRow | null
  /** In a layer of visits, for a new one: the record that was visited. */
  visited?: RecordRow | null
  placing: Placing
  onPlacing: (placing: Placing, typed: boolean) => void
  onDone: (record: RecordRow) => void
  onCancel: () => void
}

/**
 * The form of the phone, at the desk: for a new record or for changing one. The place is tapped on the map or
 * typed; no fix is asked for.
 */
export function RecordEditor({
  under,
  layer,
  zone,
  record: now,
  visited,
  placing,
  onPlacing,
  onDone,
  onCancel,
}: Props) {
  const { design } = layer
  const thing = draftName(under, layer.id, now, visited ?? null)
  const [kept] = useState(() => readKept<RecordDraft>(thing))
  // What was begun on an earlier version goes on from there, so that what others changed since is merged.
  const record = kept?.value.record ?? now
  const rules = useMemo(() => compileRules(design, layer.value_schema, layer.rules), [design, layer])
  const [values, setValues] = useState<Values>(
    () => kept?.value.values ?? record?.values ?? defaults(design, { zone }),
  )
  const [confirmed, setConfirmed] = useState<Values>(() => kept?.value.confirmed ?? record?.values ?? {})
  const [altitude, setAltitude] = useState<number | null>(
    kept ? kept.value.altitude : (record?.altitude ?? null),
  )
  const [files, setFiles] = useState<Picked[]>(() => pickedFiles.get(thing) ?? [])
  const [problems, setProblems] = useState<FieldProblem[]>([])
  const [other, setOther] = useState<string[]>([])
  const [busy, setBusy] = useState(false)
  const form = useRef<HTMLDivElement>(null)
  const [untouched] = useState(() =>
    JSON.stringify([now?.values ?? defaults(design, { zone }), now?.altitude ?? null]),
  )
  const [begunAt] = useState(() => JSON.stringify(placing))
  const changed =
    JSON.stringify([values, altitude]) !== untouched ||
    JSON.stringify(placing) !== begunAt ||
    kept !== null ||
    files.length > 0
  const draft = useKeptDraft<RecordDraft>(
    thing,
    changed
      ? { layer: layer.id, record, visited: visited ?? null, values, confirmed, altitude, placing }
      : null,
  )
  useEffect(() => {
    if (kept) onPlacing(kept.value.placing, true)
  }, []) // oxlint-disable-line react-hooks/exhaustive-deps -- where it was left, once
  useEffect(() => {
    // Files are not kept in the browser's store: they stay while this page lives, and it asks before it goes.
    if (files.length === 0) return
    pickedFiles.set(thing, files)
    const ask = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [thing, files])
  const end = () => {
    draft.end()
    pickedFiles.delete(thing)
  }
  const throwAway = () => {
    end()
    onCancel()
  }
  const here = useMemo(
    () => ({ zone, ...surroundings(design.geometry, placing), altitude, visits: record?.visits ?? 0 }),
    [zone, design.geometry, placing, altitude, record],
  )
  const save = async () => {
    const judged = rules(filled(values), here)
    const unsure = judged.asks
      .filter((a) => confirmed[a.field] !== values[a.field])
      .map((a) => ({
        ...a,
        message: t('ask.first', { label: design.fields.find((f) => f.key === a.field)?.label ?? a.field }),
      }))
    const found = [...judged.problems, ...unsure]
    // A record that has a place may keep it without being drawn: its line may come later.
    const geometry = geometryOf(design.geometry, placing)
    const missing = [
      ...(geometry || record
        ? []
        : [t(design.geometry === 'point' ? 'check.place.needed' : `draw.${design.geometry}.needed`)]),
      ...(record ? [] : filesMissing(design, files)),
    ]
    setProblems(found)
    setOther(missing)
    if (found.length || missing.length) {
      // The first of them may be far above the button.
      requestAnimationFrame(() =>
        form.current?.querySelector('[aria-invalid=true]')?.scrollIntoView({ block: 'center' }),
      )
      return
    }
    setBusy(true)
    try {
      const made = record ? await change(record, judged.values, geometry) : await add(judged.values, geometry)
      end()
      onDone(made)
    } catch (e) {
      const told =
        e instanceof ApiError
          ? e.problems.filter((p) => p.field && design.fields.some((f) => f.key === p.field))
          : []
      setProblems(told.map((p) => ({ field: p.field!, code: p.code, message: p.message })))
      setOther(told.length ? [] : sentences(e))
    } finally {
      setBusy(false)
    }
  }
  const add = async (judged: Values, geometry: GeoJSON.Geometry | null) => {
    const photos = await Promise.all(files.map(declare))
    const made = await makeRecord(layer.id, {
      values: filled(judged),
      geometry,
      photos,
      ...(design.altitude ? { altitude } : {}),
      ...(visited ? { visited: visited.id } : {}),
    })
    for (const file of files) await sendFile(file)
    return files.length ? readRecord(layer.id, made.id) : made
  }
  const change = (before: RecordRow, judged: Values, geometry: GeoJSON.Geometry | null) => {
    // Only what was changed goes out, so that what others changed meanwhile stays.
    const changes = Object.fromEntries(
      Object.entries(judged).filter(
        ([key, v]) => JSON.stringify(v) !== JSON.stringify(before.values[key] ?? null),
      ),
    )
    const was = before.geometry ?? { type: 'Point', coordinates: [before.lon, before.lat] }
    const moved = geometry !== null && JSON.stringify(geometry) !== JSON.stringify(was)
    return changeRecord(layer.id, before.id, {
      base: before.version,
      values: changes,
      geometry: moved ? geometry : null,
      ...(design.altitude && altitude !== before.altitude ? { altitude } : {}),
    })
  }
  return (
    <>
      <Box
        ref={form}
        sx={{
          display: 'grid',
          gap: 4,
          gridTemplateColumns: 'minmax(0,1fr)',
          p: 4,
          flex: 1,
          minHeight: 0,
          overflow: 'auto',
          alignContent: 'start',
        }}>
        <Typography variant="h2">
          {record
            ? (record.name ?? t('record.unnamed'))
            : visited
              ? t('visits.new', { name: visited.name ?? t('record.unnamed') })
              : t('check.new')}
        </Typography>
        {kept && draft.taken && (
          <DraftTaken at={kept.at} zone={zone} onDrop={throwAway} onKnown={draft.known} />
        )}
        <PlaceInput kind={design.geometry} placing={placing} onPlacing={onPlacing} />
        {design.altitude && (
          <AltitudeInput rules={design.altitude} metres={altitude} onChange={setAltitude} />
        )}
        <RecordForm
          design={design}
          rules={rules}
          here={here}
          values={values}
          problems={problems}
          look={layer.look}
          today={localToday(zone)}
          confirmed={confirmed}
          onConfirm={(key, value) => {
            setConfirmed({ ...confirmed, [key]: value })
            setProblems((p) => p.filter((x) => x.field !== key))
          }}
          onChange={(key, value) => {
            setValues({ ...values, [key]: value })
            setProblems((p) => p.filter((x) => x.field !== key))
          }}>
          {!record &&
            filePlaces(design).map((place) => (
              <FilesInput
                key={place.slot ?? ''}
                place={place}
                files={files}
                onChange={setFiles}
                onRefused={setOther}
              />
            ))}
        </RecordForm>
      </Box>
      <Box sx={{ p: 3, borderTop: '1px solid', borderColor: 'divider', flex: 'none' }}>
        {other.length + problems.length > 0 && (
          <Box role="alert" sx={{ color: 'error.main', mb: 2 }}>
            {problems.length > 0 && <div>{t('form.tofix', { n: problems.length })}</div>}
            {other.map((line) => (
              <div key={line}>{line}</div>
            ))}
          </Box>
        )}
        <Box sx={{ display: 'flex', gap: 2 }}>
          <Button onClick={save} disabled={busy}>
            {t('check.save')}
          </Button>
          <Button variant="outlined" onClick={onCancel}>
            {t('check.cancel')}
          </Button>
        </Box>
      </Box>
    </>
  )
}
