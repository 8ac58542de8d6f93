import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { Navigate, Outlet, useLocation, useOutletContext, useParams } from 'react-router'
import { ApiError } from '../shared/api'
import { Problems } from '../shared/parts/Problems'
import { STAGES, StageLine, type StageNote } from '../shared/parts/StageLine'
import { t } from '../shared/texts'
import type { Me, ProgrammeWithStages, Stage } from '../shared/types'
import { DropAnywhere } from './import/DropAnywhere'
import { TopBar } from './TopBar'
import { programmeOf } from './queries/programmes'
import { SeenAsBar } from './publish/seen/SeenAsBar'
import { seenAs } from './publish/seen/seenAs'

/** The frame of a programme: the bar, the line of stages, and the stage that is open. */
export function ProgrammePage({ me }: { me: Me }) {
  const { programme: id } = useParams()
  const path = useLocation().pathname
  const query = useQuery({ ...programmeOf(Number(id)), refetchInterval: 15_000 })
  const coordinates = query.data?.role === 'coordinator'
  // Asked anew all the time: what could not be asked this once takes nothing that one is at from the screen.
  const shown = query.data && !isGone(query.error) ? query.data : null
  const as = seenAs()
  const current = STAGES.find((s) => path.includes(`/${s}`)) ?? (path.includes('/people') ? 'collect' : null)
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <TopBar me={me} programme={query.data} />
      {as && <SeenAsBar as={as} />}
      {query.data && (
        <StageLine
          base={`/desk/p/${id}`}
          stages={coordinates ? STAGES : READ}
          current={current}
          notes={notes(query.data)}
        />
      )}
      <Box
        component="main"
        sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', overflow: 'auto' }}>
        {shown ? (
          current && !coordinates && !READ.includes(current) ? (
            <Navigate to={`/desk/p/${id}/publish`} replace />
          ) : (
            <Outlet context={shown} />
          )
        ) : (
          <Box sx={{ p: 5 }}>
            <Problems error={query.error} />
          </Box>
        )}
      </Box>
      {query.data && coordinates && <DropAnywhere programme={query.data.id} />}
    </Box>
  )
}

/** Whether the programme is no longer there for this person. */
const isGone = (error: unknown) => error instanceof ApiError && [403, 404].includes(error.status)

/** What there is for those who do not coordinate; the rest is not theirs to do. */
const READ: Stage[] = ['check', 'publish']

export const useProgramme = () => useOutletContext<ProgrammeWithStages>()

function notes({ stages }: ProgrammeWithStages): Partial<Record<Stage, StageNote>> {
  const n = <S extends Stage>(stage: S, key: keyof ProgrammeWithStages['stages'][S]) =>
    Number(stages[stage][key])
  return {
    plan:
      n('plan', 'questions') > 0
        ? {
            text: t('note.questions', { n: n('plan', 'questions'), open: n('plan', 'open') }),
            tone: n('plan', 'open') > 0 ? 'warn' : 'plain',
          }
        : { text: t('note.people', { n: n('plan', 'people') }), tone: 'plain' },
    build:
      n('build', 'layers') === 0
        ? { text: t('note.nolayer'), tone: 'warn' }
        : { text: t('note.layers', { n: n('build', 'layers') }), tone: 'well' },
    collect:
      n('collect', 'waiting') > 0
        ? { text: t('note.waiting', { n: n('collect', 'waiting') }), tone: 'warn' }
        : { text: t('note.crew', { n: n('collect', 'crew') }), tone: 'plain' },
    check:
      n('check', 'disputes') > 0
        ? { text: t('note.disputes', { n: n('check', 'disputes') }), tone: 'warn' }
        : n('check', 'answers') > 0
          ? { text: t('note.answers', { n: n('check', 'answers') }), tone: 'warn' }
          : n('check', 'waiting') > 0
            ? { text: t('note.tocheck', { n: n('check', 'waiting') }), tone: 'warn' }
            : { text: t('note.records', { n: n('check', 'records') }), tone: 'plain' },
    publish: {
      text: t('note.live', { n: n('publish', 'live') }),
      tone: n('publish', 'live') > 0 ? 'well' : 'plain',
    },
  }
}
