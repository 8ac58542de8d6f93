import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { ApiError } from '../shared/api'
import { Problems } from '../shared/parts/Problems'
import { SignIn } from '../shared/parts/SignIn'
import { bringTexts } from '../shared/catalogues'
import { languageOfPage, settleLanguage } from '../shared/language'
import { mount } from '../shared/Root'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Me } from '../shared/types'
import { NewProgramme } from './shelves/NewProgramme'
import { ProgrammePage, useProgramme } from './ProgrammePage'
import { beginSeenAs } from './publish/seen/seenAs'
import { ownKept } from './unsaved/kept'
import { Programmes } from './shelves/Programmes'
import { Shelves } from './shelves/Shelves'
import { Build } from './build/Build'
import { Designer } from './build/Designer'
import { Collect } from './collect/Collect'
import { Plan } from './plan/Plan'
import { Publish } from './publish/Publish'
import { useSignedOut } from './useSignedOut'
import { keys } from './queries/keys'
import { whoAmI } from './queries/programmes'

const Check = lazy(() => import('./check/Check').then((m) => ({ default: m.Check })))
const AskedAll = lazy(() => import('./check/RecordQuestions').then((m) => ({ default: m.AskedAll })))
const Conflicts = lazy(() => import('./check/Conflicts').then((m) => ({ default: m.Conflicts })))
const ImportList = lazy(() => import('./import/ImportList').then((m) => ({ default: m.ImportList })))
const ImportPage = lazy(() => import('./import/ImportPage').then((m) => ({ default: m.ImportPage })))
const PeoplePage = lazy(() => import('./people/PeoplePage').then((m) => ({ default: m.PeoplePage })))
const AuditPage = lazy(() => import('./people/AuditPage').then((m) => ({ default: m.AuditPage })))
const SeenPage = lazy(() => import('./publish/seen/SeenPage').then((m) => ({ default: m.SeenPage })))
const GateEditor = lazy(() => import('./publish/GateEditor').then((m) => ({ default: m.GateEditor })))
const MapEditor = lazy(() => import('./publish/map/MapEditor').then((m) => ({ default: m.MapEditor })))
const MapPage = lazy(() => import('./publish/map/MapPage').then((m) => ({ default: m.MapPage })))
const Account = lazy(() => import('./people/Account').then((m) => ({ default: m.Account })))
const MailBoxPage = lazy(() => import('./people/MailBoxPage').then((m) => ({ default: m.MailBoxPage })))
const BoardPage = lazy(() => import('./publish/board/BoardPage').then((m) => ({ default: m.BoardPage })))
const BoardEditor = lazy(() =>
  import('./publish/board/BoardEditor').then((m) => ({ default: m.BoardEditor })),
)

/** Where somebody begins in a programme: who coordinates builds it, the others read. */
const First = () => <Navigate to={useProgramme().role === 'coordinator' ? 'build' : 'publish'} replace />

/** A page that came in another language than its person reads is loaded again, before anything is on it. */
let arrived = false
function inOwnLanguage(me: Me): Promise<Me> {
  if (!arrived && settleLanguage(me.language)) {
    location.reload()
    return new Promise(() => undefined)
  }
  arrived = true
  return Promise.resolve(me)
}

function Desk() {
  const client = useQueryClient()
  useSignedOut()
  const me = useQuery({
    queryKey: keys.me,
    queryFn: () =>
      whoAmI().then(inOwnLanguage, (e: unknown) => {
        // Who was signed in a moment ago has work on the screen: it is asked once more before that gives way
        // to a sign-in.
        if (client.getQueryData(keys.me) === undefined) throw e
        return new Promise((again) => setTimeout(again, 800)).then(() => whoAmI())
      }),
  })
  if (me.isPending) return null
  if (me.error instanceof ApiError && me.error.status === 401) {
    return (
      <SignIn
        title="Pin Yard"
        lead={t('signin.desk')}
        onDone={(m) => void inOwnLanguage(m).then((own) => client.setQueryData(keys.me, own))}
      />
    )
  }
  // A server that is away for a moment takes nothing from the screen.
  if (!me.data) return <Problems error={me.error} />
  ownKept(me.data.id)
  // Nothing else is answered before it is set up.
  if (me.data.second_demanded && !me.data.second_factor) {
    return (
      <Suspense fallback={null}>
        <Account me={me.data} />
      </Suspense>
    )
  }
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/desk" element={<Programmes me={me.data} />} />
        <Route path="/desk/me" element={<Account me={me.data} />} />
        <Route path="/desk/mail-box" element={<MailBoxPage me={me.data} />} />
        <Route path="/desk/new" element={<NewProgramme me={me.data} />} />
        <Route path="/desk/p/:programme" element={<ProgrammePage me={me.data} />}>
          <Route index element={<First />} />
          <Route path="plan" element={<Plan />} />
          <Route path="build" element={<Build />} />
          <Route path="build/new" element={<Designer key="new" />} />
          <Route path="build/bring" element={<ImportList />} />
          <Route path="build/bring/:import" element={<ImportPage />} />
          <Route path="build/:layer" element={<Designer />} />
          <Route path="collect" element={<Collect />} />
          <Route path="check" element={<Check />} />
          <Route path="check/decide" element={<Conflicts />} />
          <Route path="check/asked" element={<AskedAll />} />
          <Route path="shelves" element={<Shelves />} />
          <Route path="publish" element={<Publish />} />
          <Route path="publish/gate" element={<GateEditor />} />
          <Route path="publish/seen" element={<SeenPage />} />
          <Route path="people" element={<PeoplePage />} />
          <Route path="people/done" element={<AuditPage />} />
          <Route path="publish/map/:map" element={<MapEditor />} />
          <Route path="publish/board/:board" element={<BoardEditor />} />
          <Route path="board/:board" element={<BoardPage />} />
          <Route path="map/:map" element={<MapPage />} />
        </Route>
        <Route path="*" element={<Navigate to="/desk" replace />} />
      </Routes>
    </Suspense>
  )
}

beginSeenAs()
void bringTexts(languageOfPage()).then(() => mount(makeTheme(16), <Desk />))
