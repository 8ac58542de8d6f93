import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Api, Role } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { changePerson, putIntoGroup } from '../queries/programmes'
import { ROLES } from './Invite'
import { Leave } from './Leave'

type Props = {
  person: Api['Person']
  crews: string[]
  groups: Api['Group'][]
  onDone: (error: unknown) => Promise<void>
}

/** One person: what they are in a few words, and opened what can be changed of it. */
export function PersonRow({ person: p, crews, groups, onDone }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <Box component="li" sx={{ borderTop: '1px solid', borderColor: 'divider', py: 2.5 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Box sx={{ flex: '1 1 200px', minWidth: 0, overflowWrap: 'anywhere' }}>
          <b>{p.name}</b>
          <Box component="span" sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
            {p.email}
          </Box>
        </Box>
        <Box sx={{ flex: '2 1 260px', display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <Pill tone={p.role === 'coordinator' ? 'well' : 'info'}>{t(`role.${p.role}`)}</Pill>
          {p.makes && p.role !== 'coordinator' && p.role !== 'maker' && (
            <Pill tone="info">{t('role.maker')}</Pill>
          )}
          {p.crew && <Pill tone="plain">{p.crew}</Pill>}
          {groups
            .filter((g) => p.groups.includes(g.id))
            .map((g) => (
              <Pill key={g.id} tone="plain">
                {g.name}
              </Pill>
            ))}
        </Box>
        <Button
          size="small"
          variant="text"
          aria-expanded={open}
          aria-label={t(open ? 'people.close.of' : 'people.change.of', { name: p.name })}
          onClick={() => setOpen(!open)}>
          {t(open ? 'people.close' : 'people.change')}
        </Button>
      </Box>
      {open && <Changing {...{ person: p, crews, groups, onDone }} />}
    </Box>
  )
}

function Changing({ person: p, crews, groups, onDone }: Props) {
  const programme = useProgramme()
  const [busy, setBusy] = useState(false)
  // Said where it was tapped: a long list hides what stands above it.
  const [error, setError] = useState<unknown>(null)
  const [crew, setCrew] = useState(p.crew ?? '')
  const [next, setNext] = useState<Role>(p.role)
  const run = async (work: Promise<unknown>) => {
    setBusy(true)
    const failed = await work.then(() => null).catch((e: unknown) => e)
    setError(failed)
    if (failed === null) await onDone(null)
    setBusy(false)
    return failed === null
  }
  const list = `crews-of-${p.id}`
  return (
    <Box
      component="fieldset"
      disabled={busy}
      aria-label={t('people.change.of', { name: p.name })}
      sx={{ border: 0, m: 0, p: 0, pt: 3, display: 'grid', gap: 3 }}>
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' },
          alignItems: 'start',
        }}>
        <Labelled label={t('collect.role')} hint={t(`role.${next}.what`)}>
          {({ id, describedBy }) => (
            <NativeSelect
              id={id}
              fullWidth
              input={<OutlinedInput />}
              inputProps={{ 'aria-describedby': describedBy }}
              value={next}
              onChange={(e) => setNext(e.target.value as Role)}>
              {ROLES.map((role) => (
                <option key={role} value={role}>
                  {t(`role.${role}`)}
                </option>
              ))}
            </NativeSelect>
          )}
        </Labelled>
        <Box>
          <TextInput
            label={t('collect.crew')}
            value={crew}
            onChange={setCrew}
            hint={t('people.crew.hint')}
            inputProps={{ list }}
          />
          <datalist id={list}>
            {crews.map((c) => (
              <option key={c} value={c} />
            ))}
          </datalist>
        </Box>
      </Box>
      {(next !== p.role || crew.trim() !== (p.crew ?? '')) && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
          <Button
            size="small"
            variant="contained"
            disabled={busy}
            onClick={() =>
              void run(changePerson(programme.id, p.id, { role: next, crew: crew.trim() || null })).then(
                (well) => !well && setNext(p.role),
              )
            }>
            {t('people.save')}
          </Button>
          {next !== p.role && (
            <Typography variant="body2" color="text.secondary">
              {t(`people.becomes.${next}`, { name: p.name })}
            </Typography>
          )}
        </Box>
      )}
      {(p.role === 'crew' || p.role === 'guest') && (
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={p.makes}
              onChange={(e) => void run(changePerson(programme.id, p.id, { makes: e.target.checked }))}
            />
          }
          label={t('people.makes')}
        />
      )}
      {groups.length > 0 && p.role !== 'coordinator' && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Typography component="legend" sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>
            {t('people.groups')}
          </Typography>
          {groups.map((g) => (
            <FormControlLabel
              key={g.id}
              control={
                <Checkbox
                  size="small"
                  checked={p.groups.includes(g.id)}
                  onChange={(e) => void run(putIntoGroup(g.id, p.id, e.target.checked))}
                />
              }
              label={g.name}
            />
          ))}
        </Box>
      )}
      <Problems error={error} />
      <Box sx={{ justifySelf: 'start' }}>
        <Leave person={p} onDone={(e) => (e === null ? void onDone(null) : setError(e))} />
      </Box>
    </Box>
  )
}
