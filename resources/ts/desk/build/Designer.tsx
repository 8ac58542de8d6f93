import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink, useLocation, useNavigate, useParams, useSearchParams } from 'react-router'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { Design, Layer } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { DraftTaken } from '../unsaved/DraftTaken'
import { readKept } from '../unsaved/kept'
import { useKeptDraft } from '../unsaved/useKeptDraft'
import { About } from './DesignParts'
import { FilesPart } from './FilesPart'
import { PlacePart } from './PlacePart'
import { RightsPart } from './RightsPart'
import { alike, blankDesign, finished } from './design'
import { withRetired } from './fieldEdits'
import { FieldList } from './FieldList'
import { FormShowing } from './FormShowing'
import { ReviewDialog, type Decisions, type Review } from './ReviewDialog'
import { useDesignCheck } from './useDesignCheck'
import { useUndo } from './useUndo'
import { keys } from '../queries/keys'
import { layerOf, makeLayer, reviewDesign, saveDesign } from '../queries/layers'

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
  const [part, setPart] = useState<Part>(
    (search.get('part') as Part | null) ?? (saved || begun || kept ? 'fields' : 'about'),
  )
  const [open, setOpen] = useState<number | null>(null)
  const [error, setError] = useState<unknown>(null)
  const edits = useUndo<Design>(
    () => kept?.value.design ?? first(),
    () => setError(null),
  )
  const { now: design, put } = edits
  const [base, setBase] = useState(kept?.value.base ?? saved?.design_version ?? 0)
  const [review, setReview] = useState<Review | null>(null)
  const [decisions, setDecisions] = useState<Decisions>({})
  const [merged, setMerged] = useState(false)
  const check = useDesignCheck(design, saved?.id ?? null)
  const changed = !alike(finished(design), finished(saved?.design ?? blankDesign()))
  const draft = useKeptDraft<Begun>(thing, changed ? { design, base } : null)
  const dropDraft = () => {
    edits.startOver(first())
    setBase(saved?.design_version ?? 0)
    draft.known()
  }
  /**
   * A design that is in use is looked over first: what it does to records, and what others changed meanwhile.
   */
  const give = async () => {
    if (!saved) return save()
    try {
      const answer = await reviewDesign(saved.id, {
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
    if (saved) put(withRetired(design, saved.design, key, code))
    setReview(null)
  }
  const save = async () => {
    try {
      const document = finished(design)
      const made = saved
        ? await saveDesign(saved.id, { base, design: document, decisions })
        : await makeLayer(programme.id, document)
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
        <Box sx={{ display: 'grid', gap: 3.5 }} onKeyDown={edits.byKeys}>
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
              <Button variant="outlined" onClick={edits.undo} disabled={!edits.canUndo}>
                {t('undo')}
              </Button>
              <Button variant="outlined" onClick={edits.redo} disabled={!edits.canRedo}>
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
            <FieldList
              design={design}
              saved={saved}
              zone={programme.time_zone}
              problems={check.problems}
              results={check.checked?.results}
              open={open}
              onOpen={setOpen}
              onPut={put}
            />
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
