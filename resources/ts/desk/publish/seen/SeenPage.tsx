import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import Link from '@mui/material/Link'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { visuallyHidden } from '@mui/utils'
import { Fragment, useRef, useState } from 'react'
import { Link as RouterLink, useSearchParams } from 'react-router'
import { paint } from '../../../shared/paint'
import { Pill } from '../../../shared/parts/Pill'
import { Problems } from '../../../shared/parts/Problems'
import { t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'
import {
  audiencesOf,
  saveRule,
  sayWork,
  type AudienceOf,
  type AudienceRule,
  type SeenLayer,
} from '../../queries/audiences'
import { keys } from '../../queries/keys'
import { readKept } from '../../unsaved/kept'
import { useKeptDraft } from '../../unsaved/useKeptDraft'
import { Caught } from './Caught'
import { CELL, CELLS, Nothing, Part } from './cells'
import { ruleOf, titleOf, unsaidOf, wordsOf } from './rule'
import { RulePanel } from './RulePanel'
import { seeAs } from './seenAs'
import { ThingRows } from './ThingRows'
import { WorkPanel } from './WorkPanel'
import { WorkRows, type WorkAt } from './WorkRows'

/**
 * What was begun, and what it began from: somebody else may save meanwhile. Without a rule it is to be what goes
 * without saying.
 */
type Draft = { rule: AudienceRule | null; was: AudienceRule }

/** One cell: what one audience sees of one layer. */
type At = { layer: number; audience: string }

const nameOf = (at: At) => `${at.layer}/${at.audience}`

/** The rule alone, without what the server says of it. */
const bare = ({
  rows,
  slice,
  accepted,
  place,
  metres,
  areas,
  fields,
  photos,
  least,
}: AudienceRule): AudienceRule => ({
  rows,
  slice,
  accepted,
  place,
  metres,
  areas,
  fields,
  photos,
  least,
})

const SAVING = ['seen-by']

const same = (a: AudienceRule, b: AudienceRule) => JSON.stringify(a) === JSON.stringify(b)

/** Who sees what: layers and shown things down, audiences across; one layer open beside it. */
export function SeenPage() {
  const programme = useProgramme()
  const client = useQueryClient()
  const { data, error } = useQuery(audiencesOf(programme.id))
  const [asked] = useSearchParams()
  const [open, setOpen] = useState<At | null>(
    asked.has('layer')
      ? { layer: Number(asked.get('layer')), audience: asked.get('audience') ?? 'link' }
      : null,
  )
  const panel = useRef<HTMLDivElement>(null)
  const [work, setWork] = useState<WorkAt | null>(null)
  const look = (at: At) => {
    setWork(null)
    setOpen(at)
    below()
  }
  const below = () => {
    // In a narrow window it stands below the table.
    if (window.matchMedia('(max-width: 899.95px)').matches)
      requestAnimationFrame(() => panel.current?.scrollIntoView({ block: 'start' }))
  }
  // What was begun for a layer stays while another is looked at.
  const thing = `seen-by/${programme.id}`
  const [drafts, setDrafts] = useState(() => readKept<Record<string, Draft>>(thing)?.value ?? {})
  const drop = (at: At) =>
    setDrafts((all) => Object.fromEntries(Object.entries(all).filter(([name]) => name !== nameOf(at))))
  const save = useMutation({
    mutationKey: SAVING,
    // What another has saved is looked at before anything is saved over it.
    onError: () => client.invalidateQueries({ queryKey: keys.audiences(programme.id) }),
    mutationFn: ({ at, draft }: { at: At; draft: Draft }) =>
      saveRule(at.layer, at.audience, draft.rule, draft.was),
    onSuccess: async (_, { at }) => {
      await client.invalidateQueries({ queryKey: keys.audiences(programme.id) })
      drop(at)
    },
    networkMode: 'always',
  })
  useKeptDraft(thing, Object.keys(drafts).length > 0 ? drafts : null)
  if (error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={error} />
      </Box>
    )
  if (!data) return null
  const layer = data.layers.find((l) => l.id === open?.layer) ?? data.layers[0] ?? null
  const audience = data.audiences.find((a) => a.name === open?.audience) ?? data.audiences[0] ?? null
  const worker = data.audiences.find((a) => a.name === work?.audience)
  const at = layer && audience ? { layer: layer.id, audience: audience.name } : null
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 432px' },
        alignItems: 'stretch',
        minHeight: '100%',
      }}>
      <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4, alignContent: 'start' }}>
        <Box>
          <Typography variant="caption" sx={{ fontWeight: 600 }}>
            <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
              {t('stage.publish')}
            </Link>
          </Typography>
          <Typography variant="h1">{t('seen.title')}</Typography>
        </Box>
        <Caught things={data.things.filter((thing) => thing.closed.length > 0)} onOpen={look} />
        <Paper variant="outlined" sx={{ overflowX: 'auto' }}>
          <Box component="table" sx={{ width: '100%', borderCollapse: 'collapse', ...CELLS }}>
            <thead>
              <tr>
                <td />
                {data.audiences.map((a) => (
                  <th scope="col" key={a.name}>
                    <Head audience={a} programme={programme.id} />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <Part title={t('seen.layers')} columns={data.audiences.length + 1} />
              {data.layers.map((l) => (
                <tr key={l.id}>
                  <th scope="row">{l.title}</th>
                  {data.audiences.map((a) => (
                    <Box component="td" key={a.name} sx={{ p: '0 !important' }}>
                      <Cell
                        layer={l}
                        audience={a}
                        open={!work && l.id === layer?.id && a.name === audience?.name}
                        draft={drafts[nameOf({ layer: l.id, audience: a.name })] !== undefined}
                        onOpen={() => look({ layer: l.id, audience: a.name })}
                      />
                    </Box>
                  ))}
                </tr>
              ))}
              <WorkRows
                all={data}
                open={work}
                onOpen={(at) => {
                  setWork(at)
                  below()
                }}
              />
              <ThingRows all={data} />
            </tbody>
          </Box>
        </Paper>
        <Typography variant="body2" color="text.secondary">
          {t('seen.note')}
        </Typography>
      </Box>
      {layer && audience && at && (
        <Box
          ref={panel}
          sx={{
            p: { xs: 3, md: 4 },
            bgcolor: paint.note,
            borderLeft: { md: '1px solid' },
            borderColor: { md: 'divider' },
          }}>
          {worker && work ? (
            <WorkPanel
              key={`${work.what}/${worker.name}/${data.work[work.what].includes(worker.name)}`}
              what={work.what}
              audience={worker}
              all={data.work[work.what].includes(worker.name)}
              onSave={(all) =>
                sayWork(programme.id, worker.name, work.what, all).then(() =>
                  client.invalidateQueries({ queryKey: keys.audiences(programme.id) }),
                )
              }
            />
          ) : (
            <Opened
              key={nameOf(at)}
              layer={layer}
              audience={audience}
              visits={data.layers.find((l) => l.visits_of === layer.id) ?? null}
              draft={drafts[nameOf(at)] ?? null}
              saving={save.isPending}
              error={save.variables && nameOf(save.variables.at) === nameOf(at) ? save.error : null}
              onDraft={(draft) =>
                draft === null ? drop(at) : setDrafts((all) => ({ ...all, [nameOf(at)]: draft }))
              }
              onSave={(draft) => {
                // Two taps before the screen has answered are one.
                if (client.isMutating({ mutationKey: SAVING }) > 0) return
                save.mutate({ at, draft })
              }}
            />
          )}
        </Box>
      )}
    </Box>
  )
}

type OpenedProps = {
  layer: SeenLayer
  audience: AudienceOf
  visits: SeenLayer | null
  draft: Draft | null
  saving: boolean
  error: unknown
  onDraft: (draft: Draft | null) => void
  onSave: (draft: Draft) => void
}

/** The panel with what was begun in it, or what stands. */
function Opened({ layer, audience, visits, draft, saving, error, onDraft, onSave }: OpenedProps) {
  const stands = ruleOf(layer, audience.name)
  const was = draft?.was ?? bare(stands)
  const canBeUnsaid = unsaidOf(audience) !== null
  return (
    <RulePanel
      layer={layer}
      audience={audience}
      visits={visits}
      rule={draft?.rule ?? bare(stands)}
      unsaid={canBeUnsaid && (draft ? draft.rule === null : !stands.said)}
      changed={draft !== null}
      saving={saving}
      error={error}
      onChange={(rule) =>
        onDraft(same(rule, bare(stands)) && (stands.said || !canBeUnsaid) ? null : { rule, was })
      }
      onUnsay={() => onDraft(stands.said ? { rule: null, was } : null)}
      onSave={() => draft && onSave(draft)}
      onUndo={() => onDraft(null)}
    />
  )
}

/** What a column is called, who is meant, and the way to see it as they do. */
function Head({ audience: a, programme }: { audience: AudienceOf; programme: number }) {
  return (
    <Box
      sx={{ display: 'grid', justifyItems: 'start', minWidth: 92, maxWidth: 180, overflowWrap: 'anywhere' }}>
      <span>{titleOf(a)}</span>
      {a.people && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.84rem', whiteSpace: 'nowrap' }}>
          {t('seen.count', { n: a.people.length })}
        </Box>
      )}
      {a.kind !== 'link' && (
        <Link
          component="button"
          aria-label={t('seen.as.of', { audience: titleOf(a) })}
          sx={{ textAlign: 'left', whiteSpace: 'nowrap' }}
          onClick={() =>
            seeAs({ programme, audience: a.name, title: titleOf(a) }, `/desk/p/${programme}/publish`)
          }>
          {t('seen.as')}
        </Link>
      )}
    </Box>
  )
}

type CellProps = { layer: SeenLayer; audience: AudienceOf; open: boolean; draft: boolean; onOpen: () => void }

function Cell({ layer, audience, open, draft, onOpen }: CellProps) {
  const rule = ruleOf(layer, audience.name)
  const words = wordsOf(layer, rule, rule.lost)
  return (
    <ButtonBase
      aria-pressed={open}
      onClick={onOpen}
      sx={{
        ...CELL,
        outline: open ? '2px solid' : 'none',
        outlineColor: 'primary.main',
        outlineOffset: -2,
        '&:hover': { bgcolor: paint.pointed },
      }}>
      {/* What the eye takes from the table the ear hears first. */}
      <Box component="span" sx={visuallyHidden}>
        {t('seen.cell', { layer: layer.title, audience: titleOf(audience) })}
      </Box>
      {words.length === 0 && <Nothing />}
      {words.map((w, i) => (
        <Fragment key={w.text}>
          {i > 0 && (
            <Box component="span" sx={visuallyHidden}>
              ,
            </Box>
          )}
          <Pill tone={w.tone}>{w.text}</Pill>
        </Fragment>
      ))}
      {draft && <Pill tone="warn">{t('seen.draft')}</Pill>}
    </ButtonBase>
  )
}
