import { useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { measure, shapeOf } from '../../shared/form/geodesic'
import { compileRules, type FieldProblem, type Here } from '../../shared/form/rules'
import { t } from '../../shared/texts'
import { useAreas } from '../areas'
import { db, type Draft, type PackLayer } from '../db'
import { judged, outgrownOf } from '../judged'
import { dropDraft, saveRecord } from '../save'
import { storeTrouble } from '../storeTrouble'
import { syncNow } from '../sync/sync'

/**
 * A form that is kept as a draft with every change, so a killed app loses nothing, until it is saved or thrown away.
 *
 * @param onRefused is told when it could not be saved as it stands
 */
export function useRecordForm(layer: PackLayer, zone: string, first: Draft, onRefused: () => void) {
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
  // What comes after a wait (a photo that was made smaller) must not undo what was typed meanwhile.
  const latest = useRef(draft)

  const { geometry: kind } = layer.design
  const areas = useAreas()
  const rules = useMemo(() => compileRules(layer.design, layer.value_schema, layer.rules), [layer])
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

  /** @returns whether the phone has room for it */
  const keepNow = async (): Promise<boolean> => {
    const isKept = await db.drafts.put(latest.current).then(
      () => true,
      () => false,
    )
    setUnkept(!isKept)
    return isKept
  }
  const change = (part: Partial<Draft>) => {
    if (over.current) return
    const next = { ...latest.current, ...part }
    latest.current = next
    setDraft(next)
    void keepNow()
  }
  /** A field is answered anew: what was said against it is said no more. */
  const changeField = (key: string, part: Partial<Draft>) => {
    change(part)
    setProblems((all) => all.filter((p) => p.field !== key))
  }
  /** Counts work on a photo that belongs to this record. */
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
    // Tapped twice meanwhile, it is saved once.
    if (over.current) return
    const draft = latest.current
    const found = judged(layer, draft, rules, here, shape)
    setProblems(found.problems)
    setRefused(found.refused)
    if (found.problems.length || found.refused.length) return onRefused()
    setBusy(true)
    over.current = true
    const outgrown = outgrownOf(layer, draft)
    try {
      await saveRecord(layer, {
        ...draft,
        values: found.values,
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
    const shown = draft.from ? draft.record : draft.visited
    await navigate(shown ? `/field/record/${shown}` : '/field', { replace: true })
    void syncNow()
  }
  /** Throws away what is kept of it. */
  const forget = () => {
    over.current = true
    return db.transaction('rw', [db.drafts, db.forms], () => dropDraft(draft.key))
  }

  return {
    draft,
    latest,
    shape,
    here,
    rules,
    problems,
    refused,
    setRefused,
    unkept,
    busy,
    preparing,
    keepNow,
    change,
    changeField,
    whileWorking,
    save,
    forget,
  }
}
