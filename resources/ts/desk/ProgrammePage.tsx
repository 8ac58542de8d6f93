import Box from '@mui/material/Box'
import { useQuery } from '@tanstack/react-query'
import { Outlet, useLocation, useOutletContext, useParams } from 'react-router'
import { Problems } from '../shared/parts/Problems'
import { STAGES, StageLine, type StageNote } from '../shared/parts/StageLine'
import { t } from '../shared/texts'
import type { Me, ProgrammeWithStages, Stage } from '../shared/types'
import { DropAnywhere } from './import/DropAnywhere'
import { TopBar } from './TopBar'
import { programmeOf } from './queries/programmes'

/** The frame of a programme: the bar, the line of stages, and the stage that is open. */
export function ProgrammePage({ me }: { me: Me }) {
  const { programme: id } = useParams()
  const path = useLocation().pathname
  const query = useQuery({ ...programmeOf(Number(id)), refetchInterval: 15_000 })
  const current = STAGES.find((s) => path.includes(`/${s}`)) ?? null
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <TopBar me={me} programme={query.data} />
      {query.data && <StageLine base={`/desk/p/${id}`} current={current} notes={notes(query.data)} />}
      <Box
        component="main"
        sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', overflow: 'auto' }}>
        {query.error ? (
          <Box sx={{ p: 5 }}>
            <Problems error={query.error} />
          </Box>
        ) : (
          query.data && <Outlet context={query.data} />
        )}
      </Box>
      {query.data && <DropAnywhere programme={query.data.id} />}
    </Box>
  )
}

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
          : n('check', 'today') > 0
            ? { text: t('note.today', { n: n('check', 'today') }), tone: 'warn' }
            : { text: t('note.records', { n: n('check', 'records') }), tone: 'plain' },
    publish: {
      text: t('note.live', { n: n('publish', 'live') }),
      tone: n('publish', 'live') > 0 ? 'well' : 'plain',
    },
  }
}
