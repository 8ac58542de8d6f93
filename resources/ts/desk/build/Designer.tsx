import Add from '@mui/icons-material/Add'
import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import ListSubheader from '@mui/material/ListSubheader'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type KeyboardEvent } from 'react'
import { Link as RouterLink, useLocation, useNavigate, useParams, useSearchParams } from 'react-router'
import { api } from '../../shared/api'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { Design, Field, Layer } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { DraftTaken } from '../unsaved/DraftTaken'
import { readKept } from '../unsaved/kept'
import { useKeptDraft } from '../unsaved/useKeptDraft'
import { About } from './DesignParts'
import { FilesPart } from './FilesPart'
import { PlacePart } from './PlacePart'
import { RightsPart } from './RightsPart'
import { alike, blankDesign, finished, KIND_GROUPS, KIND_MARK, keyFrom, newField } from './design'
import { FieldRow } from './FieldRow'
import { FormShowing } from './FormShowing'
import { ReviewDialog, type Decisions, type Review } from './ReviewDialog'
import { useDesignCheck } from './useDesignCheck'
import { keys } from '../queries/keys'
import { layerOf } from '../queries/layers'

/** What is kept of a design that was not given out: it belongs to the version that it was begun from. */
type Begun = { design: Design; base: number }

type Part = 'about' | 'fields' | 'photos' | 'place' | 'rights'

/** Where a layer is designed, with its working form beside it. */
export function Designer() {
  const { layer: id } = useParams()
  const layer = useQuery(layerOf(Number(id)))
  if (id === undefined) return <Bench saved={null} />
  if (layer.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={layer.error} />
      </Box>
    )
  return layer.data ? <Bench key={`${id}-${layer.data.design_version}`} saved={layer.data} /> : null
}

function Bench({ saved }: { saved: Layer | null }) {
  const programme = useProgramme()
  const navigate = useNavigate()
  const begun = (useLocation().state as { design?: Design } | null)?.design
  const [search] = useSearchParams()
  const client = useQueryClient()
  const thing = `design-${programme.id}-${saved?.id ?? 'new'}`
  const [kept] = useState(() => (begun ? null : readKept<Begun>(thing)))
  const first = () => saved?.design ?? begun ?? blankDesign()
  const [design, setDesign] = useState<Design>(() => kept?.value.design ?? first())
  const [part, setPart] = useState<Part>(
    (search.get('part') as Part | null) ?? (saved || begun || kept ? 'fields' : 'about'),
  )
  const [open, setOpen] = useState<number | null>(null)
  const [past, setPast] = useState<Design[]>([])
  const [ahead, setAhead] = useState<Design[]>([])
  const [error, setError] = useState<unknown>(null)
  const [base, setBase] = useState(kept?.value.base ?? saved?.design_version ?? 0)
  const [review, setReview] = useState<Review | null>(null)
  const [decisions, setDecisions] = useState<Decisions>({})
  const [merged, setMerged] = useState(false)
  const [dragged, setDragged] = useState<number | null>(null)
  const check = useDesignCheck(design, saved?.id ?? null)
  const lockedKeys = saved?.design.fields.map((f) => f.key) ?? []
  const changed = !alike(finished(design), finished(saved?.design ?? blankDesign()))
  const draft = useKeptDraft<Begun>(thing, changed ? { design, base } : null)
  const dropDraft = () => {
    setDesign(first())
    setBase(saved?.design_version ?? 0)
    setPast([])
    setAhead([])
    draft.known()
  }

  const put = (next: Design) => {
    setPast((p) => [...p.slice(-49), design])
    setAhead([])
    setDesign(next)
    setError(null)
  }
  const undo = () => {
    const last = past.at(-1)
    if (!last) return
    setDesign(last)
    setPast(past.slice(0, -1))
    setAhead([...ahead, design])
  }
  const redo = () => {
    const next = ahead.at(-1)
    if (!next) return
    setDesign(next)
    setAhead(ahead.slice(0, -1))
    setPast([...past, design])
  }
  const byKeys = (e: KeyboardEvent<HTMLElement>) => {
    // Inside an input the browser's own undo is the one that people expect.
    const typing = (e.target as HTMLElement).closest(
      'input:not([type=checkbox]):not([type=radio]), textarea, select',
    )
    if (typing || !(e.ctrlKey || e.metaKey)) return
    if (e.key.toLowerCase() === 'y' || (e.key.toLowerCase() === 'z' && e.shiftKey)) redo()
    else if (e.key.toLowerCase() === 'z') undo()
    else return
    e.preventDefault()
  }
  const putField = (i: number, change: Partial<Field>) =>
    put({
      ...design,
      fields: design.fields.map((f, j) => {
        if (j !== i) return f
        const next = { ...f, ...change }
        // The key follows the label until the layer is made or someone writes a key.
        const others = design.fields.filter((_, k) => k !== i).map((o) => o.key)
        if (change.label !== undefined && !lockedKeys.includes(f.key) && f.key === keyFrom(f.label, others))
          next.key = keyFrom(change.label, others)
        return next
      }),
    })
  const move = (i: number, by: number) => {
    const fields = [...design.fields]
    fields.splice(i + by, 0, ...fields.splice(i, 1))
    put({ ...design, fields })
    setOpen(open === i ? i + by : null)
  }
  const dragOver = (i: number) => {
    if (dragged === null || dragged === i) return
    move(dragged, i - dragged)
    setDragged(i)
  }
  const copy = (i: number) => {
    const field = design.fields[i]
    if (!field) return
    const label = t('design.copy.label', { label: field.label })
    const fields = [...design.fields]
    fields.splice(i + 1, 0, {
      ...field,
      label,
      key: keyFrom(
        label,
        fields.map((f) => f.key),
      ),
    })
    put({ ...design, fields })
    setOpen(i + 1)
  }
  /**
   * A design that is in use is looked over first: what it does to records, and what others changed meanwhile.
   */
  const give = async () => {
    if (!saved) return save()
    try {
      const answer = await api<Review>('POST', `/layers/${saved.id}/design/review`, {
        base,
        design: finished(design),
        decisions: {},
      })
      setDecisions({})
      if (answer.stale || answer.effects.length > 0) setReview(answer)
      else await save()
    } catch (caught) {
      setError(caught)
    }
  }
  const merge = () => {
    if (!review?.merged) return
    put(review.merged)
    setBase(review.current)
    setReview(null)
    setMerged(true)
  }
  const retire = (key: string, code: string) => {
    const gone = saved?.design.fields.find((f) => f.key === key)?.choices?.find((c) => c.code === code)
    if (gone)
      put({
        ...design,
        fields: design.fields.map((f) =>
          f.key === key ? { ...f, choices: [...(f.choices ?? []), { ...gone, retired: true }] } : f,
        ),
      })
    setReview(null)
  }
  const save = async () => {
    try {
      const document = finished(design)
      const made = saved
        ? await api<Layer>('PUT', `/layers/${saved.id}/design`, { base, design: document, decisions })
        : await api<Layer>('POST', `/programmes/${programme.id}/layers`, document)
      draft.end()
      client.setQueryData(keys.layer(made.id), made)
      // A new layer has an address from now on. Who saved an older one may have gone elsewhere meanwhile, and
      // stays there.
      if (!saved) await navigate(`/desk/p/${programme.id}/build/${made.id}`)
      for (const kind of [
        'layers',
        'ready',
        'designSheet',
        'questions',
        'lists',
        'things',
        'programme',
      ] as const)
        await client.invalidateQueries({ queryKey: keys[kind](programme.id) })
    } catch (caught) {
      setError(caught)
    }
  }

  const version = base + 1
  const ready = design.title.trim() !== '' && design.fields.length > 0
  return (
    <BenchShowing
      bench={
        <Box sx={{ display: 'grid', gap: 3.5 }} onKeyDown={byKeys}>
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'end',
              gap: 3,
              flexWrap: 'wrap',
            }}>
            <Box sx={{ minWidth: 0 }}>
              <Typography variant="caption" sx={{ fontWeight: 600 }}>
                <Link component={RouterLink} to={`/desk/p/${programme.id}/build`}>
                  {t('build.title')}
                </Link>{' '}
                › {saved ? t('design.in_use', { n: saved.design_version }) : t('design.fresh')}
              </Typography>
              <Typography variant="h1">{design.title || t('build.new')}</Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
              <Typography variant="caption" color="text.secondary" role="status">
                {saved && !changed ? t('saved') : changed ? t('design.unsaved') : ''}
              </Typography>
              <Button variant="outlined" onClick={undo} disabled={past.length === 0}>
                {t('undo')}
              </Button>
              <Button variant="outlined" onClick={redo} disabled={ahead.length === 0}>
                {t('redo')}
              </Button>
              <Button onClick={() => void give()} disabled={!ready || !changed}>
                {saved ? t('design.give', { n: version }) : t('design.make')}
              </Button>
            </Box>
          </Box>
          <Problems error={error} />
          {kept && draft.taken && (
            <DraftTaken
              at={draft.taken.at}
              zone={programme.time_zone}
              onDrop={dropDraft}
              onKnown={draft.known}
            />
          )}
          {merged && (
            <Alert severity="info" variant="outlined" onClose={() => setMerged(false)}>
              {t('merge.done')}
            </Alert>
          )}
          {review && (
            <ReviewDialog
              review={review}
              design={design}
              zone={programme.time_zone}
              decisions={decisions}
              onDecide={setDecisions}
              onGive={() => {
                setReview(null)
                void save()
              }}
              onMerge={merge}
              onRetire={retire}
              onClose={() => setReview(null)}
            />
          )}
          <Segments<Part>
            label={t('design.parts')}
            value={part}
            onChange={setPart}
            options={[
              { value: 'about', label: t('design.about') },
              { value: 'fields', label: t('design.fields', { n: design.fields.length }) },
              { value: 'photos', label: t('design.photos') },
              { value: 'place', label: t('design.place') },
              { value: 'rights', label: t('design.rights') },
            ]}
          />
          {part === 'about' && (
            <About
              design={design}
              onChange={(c) => put({ ...design, ...c })}
              problems={check.problems}
              onNext={() => setPart('fields')}
            />
          )}
          {part === 'photos' && (
            <FilesPart
              design={design}
              problems={check.problems}
              locked={saved?.design.slots?.map((s) => s.key) ?? []}
              onChange={(c) => put({ ...design, ...c })}
            />
          )}
          {part === 'place' && <PlacePart design={design} onChange={(c) => put({ ...design, ...c })} />}
          {part === 'rights' && <RightsPart design={design} onChange={(c) => put({ ...design, ...c })} />}
          {part === 'fields' && (
            <>
              {design.fields.length > 0 && (
                <Paper
                  variant="outlined"
                  component="ol"
                  sx={{ m: 0, p: 0, listStyle: 'none', overflow: 'hidden' }}>
                  {design.fields.map((field, i) => (
                    <FieldRow
                      key={i}
                      field={field}
                      design={design}
                      result={check.checked?.results[field.key]}
                      layer={saved?.id ?? null}
                      zone={programme.time_zone}
                      onCopy={() => copy(i)}
                      drag={{
                        onDragStart: () => {
                          setOpen(null)
                          setDragged(i)
                        },
                        onDragOver: () => dragOver(i),
                        onDragEnd: () => setDragged(null),
                      }}
                      open={open === i}
                      locked={lockedKeys.includes(field.key)}
                      first={i === 0}
                      last={i === design.fields.length - 1}
                      problems={check.problems.filter(
                        (p) => p.field?.startsWith(`/fields/${i}/`) && (field.label !== '' || open !== i),
                      )}
                      onOpen={() => setOpen(open === i ? null : i)}
                      onChange={(c) => putField(i, c)}
                      onMove={(by) => move(i, by)}
                      onRemove={() => {
                        put({ ...design, fields: design.fields.filter((_, j) => j !== i) })
                        setOpen(null)
                      }}
                    />
                  ))}
                </Paper>
              )}
              <AddField
                first={design.fields.length === 0}
                onAdd={(kind) => {
                  put({ ...design, fields: [...design.fields, newField(kind, design.fields)] })
                  setOpen(design.fields.length)
                }}
              />
            </>
          )}
        </Box>
      }
      showing={
        <FormShowing
          design={finished(design)}
          checked={check.checked}
          sound={check.problems.length === 0}
          zone={programme.time_zone}
        />
      }
    />
  )
}

function AddField({ first, onAdd }: { first: boolean; onAdd: (kind: Field['kind']) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  // The menu holds the focus until it is gone; then the new field gets it, unless the person is elsewhere by
  // then.
  const gone = () => {
    const at = document.activeElement
    if (!at || at === document.body || at.closest('[role=menu], [role=presentation]'))
      document.querySelector<HTMLInputElement>('[data-open-field] input')?.focus()
  }
  return (
    <Box>
      {first && (
        <Typography color="text.secondary" sx={{ mb: 3 }}>
          {t('design.nofields')}
        </Typography>
      )}
      <Button
        variant={first ? 'contained' : 'outlined'}
        startIcon={<Add />}
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}>
        {t('design.addfield')}
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        disableRestoreFocus
        slotProps={{ transition: { onExited: gone } }}>
        {KIND_GROUPS.flatMap((group) => [
          <ListSubheader key={group.key} sx={{ lineHeight: 2.2, bgcolor: 'background.paper' }}>
            {t(`kinds.${group.key}`)}
          </ListSubheader>,
          ...group.kinds.map((kind) => (
            <MenuItem
              key={kind}
              onClick={() => {
                setAnchor(null)
                onAdd(kind)
              }}
              sx={{ gap: 3, py: 1 }}>
              <Box component="b" aria-hidden sx={{ width: 32, textAlign: 'center' }}>
                {KIND_MARK[kind]}
              </Box>
              <Box>
                {t(`kind.${kind}`)}
                <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
                  {t(`kind.${kind}.hint`)}
                </Typography>
              </Box>
            </MenuItem>
          )),
        ])}
      </Menu>
    </Box>
  )
}
