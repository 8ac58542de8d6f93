import ArrowUpward from '@mui/icons-material/ArrowUpward'
import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import Link from '@mui/material/Link'
import Switch from '@mui/material/Switch'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link as RouterLink } from 'react-router'
import { paint } from '../../shared/paint'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { GateSight } from '../../shared/parts/GateSight'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { GateDoc, MapDoc } from '../../shared/types'
import { Address } from '../people/Address'
import { useProgramme } from '../ProgrammePage'
import { NewLink } from './NewLink'
import { SaveLine, SaveTrouble } from '../unsaved/SaveState'
import { titled } from '../unsaved/titled'
import { useAutosave } from '../unsaved/useAutosave'
import { boardsOf, gateOf, mapsOf } from '../queries/publish'
import { keys } from '../queries/keys'

type Hung = GateDoc['hung'][number]
/** What is shown to a few does not hang where everybody reads its title. */
const hangs = ({ audience }: { audience: MapDoc['audience'] }) =>
  audience === 'programme' || audience === 'link'

type Thing = Hung & { title: string; audience: MapDoc['audience'] }

/** Where a programme's front door is made; the door itself beside it. */
export function GateEditor() {
  const programme = useProgramme()
  const gate = useQuery({ ...gateOf(programme.id), staleTime: Infinity, refetchOnMount: 'always' })
  const maps = useQuery(mapsOf(programme.id))
  const boards = useQuery(boardsOf(programme.id))
  const error = gate.error ?? maps.error ?? boards.error
  if (error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={error} />
      </Box>
    )
  // What hangs there may have been opened, closed or renamed since this was last asked for; while one works
  // here nothing is put in anew.
  if (!gate.data || !gate.isFetchedAfterMount || !maps.data || !boards.data) return null
  const things: Thing[] = [
    ...maps.data
      .filter(hangs)
      .map((m) => ({ kind: 'map' as const, id: m.id, title: m.title, audience: m.audience })),
    ...boards.data
      .filter(hangs)
      .map((b) => ({ kind: 'board' as const, id: b.id, title: b.title, audience: b.audience })),
  ]
  return <Bench saved={gate.data} things={things} />
}

const is = (a: Hung) => (b: Hung) => a.kind === b.kind && a.id === b.id

function Bench({ saved, things }: { saved: GateDoc; things: Thing[] }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const autosave = useAutosave(
    `/programmes/${programme.id}/gate`,
    saved,
    (next) => client.setQueryData(keys.gate(programme.id), next),
    { incomplete: (d) => (titled(d.title) ? null : t('save.title')) },
  )
  const { doc, change } = autosave
  const hung = doc.hung.flatMap((h) => things.find(is(h)) ?? [])
  const rest = things.filter((thing) => !doc.hung.some(is(thing)))
  const hang = (list: Thing[]) => change({ hung: list.map(({ kind, id }) => ({ kind, id })) }, true)
  const closed = hung.filter((thing) => thing.audience !== 'link').length
  return (
    <BenchShowing
      plain
      benchWidth="440px"
      bench={
        <Box sx={{ display: 'grid', gap: 3.5 }}>
          <Box>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('stage.publish')}
              </Link>
            </Typography>
            <Typography variant="h1">{t('gate.title')}</Typography>
            <SaveLine autosave={autosave} />
          </Box>
          <SaveTrouble autosave={autosave} />
          <TextInput
            label={t('gate.name')}
            error={doc.title.trim() ? null : t('save.title')}
            value={doc.title}
            inputProps={{ maxLength: 80 }}
            onChange={(title) => change({ title })}
          />
          <TextInput
            label={t('gate.about')}
            value={doc.about}
            multiline
            minRows={4}
            maxRows={10}
            onChange={(about) => change({ about })}
          />
          <Labelled label={t('gate.colour')} hint={t('gate.colour.hint')}>
            {({ id, describedBy }) => (
              <input
                id={id}
                aria-describedby={describedBy}
                type="color"
                value={doc.colour.toLowerCase()}
                onChange={(e) => change({ colour: e.target.value })}
                style={{
                  width: 72,
                  height: 44,
                  padding: 2,
                  border: `1px solid ${paint.line}`,
                  borderRadius: 6,
                  background: paint.sheet,
                }}
              />
            )}
          </Labelled>
          <Sheet title={t('gate.gallery')}>
            <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
              {t('gate.gallery.hint')}
            </Typography>
            <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
              {[...hung, ...rest].map((thing, i) => {
                const up = i < hung.length
                return (
                  <Box
                    component="li"
                    key={`${thing.kind} ${thing.id}`}
                    sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
                    <FormControlLabel
                      sx={{ flex: 1, minWidth: 0 }}
                      label={thing.title}
                      control={
                        <Checkbox
                          size="small"
                          checked={up}
                          onChange={() => hang(up ? hung.filter((h) => !is(thing)(h)) : [...hung, thing])}
                        />
                      }
                    />
                    <Pill tone={thing.audience === 'link' ? 'well' : 'plain'}>
                      {t(thing.audience === 'link' ? 'gate.open.thing' : 'gate.locked.thing')}
                    </Pill>
                    <IconButton
                      size="small"
                      disabled={!up || i === 0}
                      aria-label={t('gate.up', { title: thing.title })}
                      onClick={() =>
                        hang(hung.map((h, j) => (j === i ? hung[i - 1]! : j === i - 1 ? thing : h)))
                      }>
                      <ArrowUpward fontSize="small" />
                    </IconButton>
                  </Box>
                )
              })}
            </Box>
            {closed > 0 && (
              <Typography variant="body2" sx={{ mt: 3 }}>
                {t('gate.closed.note', { n: closed })}
              </Typography>
            )}
          </Sheet>
          <Sheet title={t('gate.link')}>
            <FormControlLabel
              label={t('gate.open')}
              control={
                <Switch checked={doc.open} onChange={(e) => change({ open: e.target.checked }, true)} />
              }
            />
            {doc.open && doc.address && (
              <Box sx={{ mt: 3, display: 'grid', gap: 3 }}>
                <Address address={location.origin + doc.address} hint={t('gate.link.hint')} />
                <Link href={doc.address} target="_blank" rel="noopener">
                  {t('audience.look')}
                </Link>
              </Box>
            )}
            {doc.address && (
              <Box sx={{ mt: 3 }}>
                <NewLink onDo={() => change({ new_link: true }, true)} />
              </Box>
            )}
          </Sheet>
        </Box>
      }
      showing={
        <GateSight front={{ ...doc.front, title: doc.title, about: doc.about }} signIn="/field" still />
      }
    />
  )
}
