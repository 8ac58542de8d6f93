import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Link from '@mui/material/Link'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { Pill } from '../../../shared/parts/Pill'
import { Problems } from '../../../shared/parts/Problems'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import { useProgramme } from '../../ProgrammePage'
import {
  audiencesOf,
  saveLinkRule,
  type AudienceRule,
  type SeenLayer,
  type ShownThing,
} from '../../queries/audiences'
import { keys } from '../../queries/keys'
import { readKept } from '../../unsaved/kept'
import { useKeptDraft } from '../../unsaved/useKeptDraft'
import { wordsOf } from './rule'
import { RulePanel } from './RulePanel'

/** What was begun, and what it began from: somebody else may save meanwhile. */
type Draft = { rule: AudienceRule; was: AudienceRule }

const SAVING = ['seen-by']

const same = (a: AudienceRule, b: AudienceRule) => JSON.stringify(a) === JSON.stringify(b)

/** Who sees what: layers and shown things down, audiences across; one layer open beside it. */
export function SeenPage() {
  const programme = useProgramme()
  const client = useQueryClient()
  const { data, error } = useQuery(audiencesOf(programme.id))
  const [open, setOpen] = useState<number | null>(null)
  const panel = useRef<HTMLDivElement>(null)
  const look = (at: number) => {
    setOpen(at)
    // In a narrow window it stands below the table.
    if (window.matchMedia('(max-width: 899.95px)').matches)
      requestAnimationFrame(() => panel.current?.scrollIntoView({ block: 'start' }))
  }
  // What was begun for a layer stays while another is looked at.
  const thing = `seen/${programme.id}`
  const [drafts, setDrafts] = useState(() => readKept<Record<number, Draft>>(thing)?.value ?? {})
  const drop = (layer: number) =>
    setDrafts((all) => Object.fromEntries(Object.entries(all).filter(([id]) => Number(id) !== layer)))
  const save = useMutation({
    mutationKey: SAVING,
    // What another has saved is looked at before anything is saved over it.
    onError: () => client.invalidateQueries({ queryKey: keys.audiences(programme.id) }),
    mutationFn: ({ layer, draft }: { layer: number; draft: Draft }) =>
      saveLinkRule(layer, draft.rule, draft.was),
    onSuccess: async (_, { layer }) => {
      await client.invalidateQueries({ queryKey: keys.audiences(programme.id) })
      drop(layer)
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
  const layer = data.layers.find((l) => l.id === open) ?? data.layers[0] ?? null
  const draftOf = (of: SeenLayer) => drafts[of.id] ?? { rule: of.link, was: of.link }
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
        {data.things
          .filter((thing) => thing.closed.length > 0)
          .map((thing) => (
            <Caught key={`${thing.kind}${thing.id}`} thing={thing} onOpen={look} />
          ))}
        <Paper variant="outlined" sx={{ overflowX: 'auto' }}>
          <Box component="table" sx={{ width: '100%', borderCollapse: 'collapse', ...CELLS }}>
            <thead>
              <tr>
                <th />
                <th scope="col">{t('seen.link')}</th>
                <th scope="col">{t('seen.crews')}</th>
              </tr>
            </thead>
            <tbody>
              <Part title={t('seen.layers')} />
              {data.layers.map((l) => (
                <tr key={l.id}>
                  <th scope="row">{l.title}</th>
                  <Box component="td" sx={{ p: '0 !important' }}>
                    <ButtonBase
                      aria-pressed={l.id === layer?.id}
                      aria-label={t('seen.cell', { layer: l.title, words: said(l) })}
                      onClick={() => look(l.id)}
                      sx={{
                        ...CELL,
                        outline: l.id === layer?.id ? '2px solid' : 'none',
                        outlineColor: 'primary.main',
                        outlineOffset: -2,
                        '&:hover': { bgcolor: '#F6EDDA' },
                      }}>
                      <Words layer={l} />
                      {drafts[l.id] && <Pill tone="warn">{t('seen.draft')}</Pill>}
                    </ButtonBase>
                  </Box>
                  <td>
                    <Pill tone={l.crews === 'all' ? 'well' : 'plain'}>{t(`seen.crews.${l.crews}`)}</Pill>
                  </td>
                </tr>
              ))}
              <Part title={t('seen.things')} />
              {data.things.map((thing) => (
                <tr key={`${thing.kind}${thing.id}`}>
                  <th scope="row">
                    <Link
                      component={RouterLink}
                      to={`/desk/p/${programme.id}/publish/${thing.kind}/${thing.id}`}>
                      {t(`seen.thing.${thing.kind}`, { title: thing.title })}
                    </Link>
                  </th>
                  <td>
                    {thing.open ? (
                      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
                        <Pill tone="well">{t('seen.open')}</Pill>
                        {thing.address && (
                          <Link href={thing.address} target="_blank" rel="noopener">
                            {t('audience.look')}
                          </Link>
                        )}
                      </Box>
                    ) : (
                      <Nothing />
                    )}
                  </td>
                  <td>
                    <Pill tone="well">{t('seen.open')}</Pill>
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
        </Paper>
        <Typography variant="body2" color="text.secondary">
          {t('seen.note')}
        </Typography>
      </Box>
      {layer && (
        <Box
          ref={panel}
          sx={{
            p: { xs: 3, md: 4 },
            bgcolor: '#F1E8D4',
            borderLeft: { md: '1px solid' },
            borderColor: { md: 'divider' },
          }}>
          <RulePanel
            key={layer.id}
            layer={layer}
            visits={data.layers.find((l) => l.visits_of === layer.id) ?? null}
            rule={draftOf(layer).rule}
            changed={drafts[layer.id] !== undefined}
            saving={save.isPending}
            error={save.variables?.layer === layer.id ? save.error : null}
            onChange={(rule) =>
              same(rule, layer.link)
                ? drop(layer.id)
                : setDrafts((all) => ({ ...all, [layer.id]: { rule, was: draftOf(layer).was } }))
            }
            onSave={() => {
              // Two taps before the screen has answered are one.
              if (client.isMutating({ mutationKey: SAVING }) > 0) return
              save.mutate({ layer: layer.id, draft: draftOf(layer) })
            }}
            onUndo={() => drop(layer.id)}
          />
        </Box>
      )}
    </Box>
  )
}

const CELL = {
  width: '100%',
  minHeight: 44,
  px: 3,
  py: 1.5,
  display: 'flex',
  flexWrap: 'wrap',
  gap: 1.5,
  justifyContent: 'start',
  textAlign: 'left',
} as const

const CELLS = {
  '& th, & td': { textAlign: 'left', px: 3, py: 1.75, borderTop: '1px solid #E6DCC6' },
  '& thead th': { borderTop: 0, fontWeight: 500, fontSize: '0.9rem' },
  '& tbody th[scope="row"]': { fontWeight: 650, overflowWrap: 'anywhere' },
  '& th[colspan]': { bgcolor: '#F5EFE2', fontWeight: 600, fontSize: '0.9rem', py: 1.25 },
} as const

const Part = ({ title }: { title: string }) => (
  <tr>
    <th colSpan={3} scope="colgroup">
      {title}
    </th>
  </tr>
)

const Nothing = () => (
  <Box component="span" sx={{ color: 'text.secondary' }}>
    {t('seen.nothing')}
  </Box>
)

const said = (layer: SeenLayer) =>
  wordsOf(layer, layer.link)
    .map((w) => w.text)
    .join(', ') || t('seen.nothing')

function Words({ layer }: { layer: SeenLayer }) {
  const words = wordsOf(layer, layer.link)
  if (words.length === 0) return <Nothing />
  return words.map((w) => (
    <Pill key={w.text} tone={w.tone}>
      {w.text}
    </Pill>
  ))
}

/** Something that more people may open than may see a layer of it: they would see it without. */
function Caught({ thing, onOpen }: { thing: ShownThing; onOpen: (layer: number) => void }) {
  const programme = useProgramme()
  return (
    <Sheet tone="warn">
      <Typography sx={{ fontWeight: 650 }}>
        {t('seen.caught', { thing: thing.title, layers: thing.closed.map((l) => l.title).join(', ') })}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {t(`seen.caught.${thing.kind}`)}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Button component={RouterLink} to={`/desk/p/${programme.id}/publish/${thing.kind}/${thing.id}`}>
          {t('seen.caught.leave')}
        </Button>
        {thing.closed.map((l) => (
          <Button key={l.id} variant="contained" onClick={() => onOpen(l.id)}>
            {t('seen.caught.open', { layer: l.title })}
          </Button>
        ))}
      </Box>
    </Sheet>
  )
}
