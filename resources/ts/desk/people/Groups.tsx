import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { useRef, useState, type FormEvent } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { changeGroup, makeGroup, removeGroup } from '../queries/programmes'

type Props = { groups: Api['Group'][]; onDone: (error: unknown) => Promise<void> }

/** Groups beside the crews: who is in them stands with the people. */
export function Groups({ groups, onDone }: Props) {
  const programme = useProgramme()
  const [name, setName] = useState('')
  const making = useRef(false)
  const [error, setError] = useState<unknown>(null)
  const make = async (e: FormEvent) => {
    e.preventDefault()
    if (making.current) return
    making.current = true
    const failed = await makeGroup(programme.id, { name: name.trim() })
      .then(() => null)
      .catch((caught: unknown) => caught)
    setError(failed)
    if (failed === null) {
      await onDone(null)
      setName('')
    }
    making.current = false
  }
  return (
    <Sheet title={t('people.groups')}>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {t('people.groups.what')}
      </Typography>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {groups.map((g) => (
          <OneGroup key={g.id} group={g} onDone={onDone} />
        ))}
      </Box>
      <Problems error={error} />
      <Box component="form" onSubmit={make} sx={{ display: 'flex', gap: 2, alignItems: 'end', mt: 2 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <TextInput
            label={t('people.group.new')}
            value={name}
            onChange={setName}
            inputProps={{ maxLength: 80 }}
          />
        </Box>
        <Button type="submit" variant="outlined" disabled={!name.trim()}>
          {t('people.group.make')}
        </Button>
      </Box>
    </Sheet>
  )
}

function OneGroup({ group: g, onDone }: { group: Api['Group']; onDone: Props['onDone'] }) {
  const [open, setOpen] = useState(false)
  const [sure, setSure] = useState(false)
  const [name, setName] = useState(g.name)
  const [error, setError] = useState<unknown>(null)
  const run = (work: Promise<unknown>) =>
    void work.then(() => {
      setError(null)
      return onDone(null)
    }, setError)
  return (
    <Box component="li" sx={{ borderTop: '1px solid', borderColor: 'divider', py: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline' }}>
        <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
          <b>{g.name}</b>
          <Box component="span" sx={{ color: 'text.secondary', display: 'block', fontSize: '0.85rem' }}>
            {(g.people ?? []).map((p) => p.name).join(', ') || t('people.group.empty')}
          </Box>
        </Box>
        <Button
          size="small"
          variant="text"
          aria-expanded={open}
          aria-label={t(open ? 'people.close.of' : 'people.change.of', { name: g.name })}
          onClick={() => setOpen(!open)}>
          {t(open ? 'people.close' : 'people.change')}
        </Button>
      </Box>
      {open && (
        <Box sx={{ display: 'grid', gap: 1.5, pt: 2 }}>
          <Problems error={error} />
          <TextInput
            label={t('collect.name')}
            value={name}
            onChange={setName}
            inputProps={{ maxLength: 80 }}
          />
          {name.trim() !== '' && name.trim() !== g.name && (
            <Button
              size="small"
              variant="contained"
              sx={{ justifySelf: 'start' }}
              onClick={() => run(changeGroup(g.id, { name: name.trim() }))}>
              {t('people.save')}
            </Button>
          )}
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={g.may_change}
                onChange={(e) => run(changeGroup(g.id, { may_change: e.target.checked }))}
              />
            }
            label={t('people.group.change')}
          />
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={g.members_seen}
                onChange={(e) => run(changeGroup(g.id, { members_seen: e.target.checked }))}
              />
            }
            label={t('people.group.seen')}
          />
          {sure ? (
            <Box sx={{ display: 'grid', gap: 1.5 }}>
              <Typography variant="body2">
                {t('people.group.remove.what', { n: (g.people ?? []).length, name: g.name })}
              </Typography>
              <Box sx={{ display: 'flex', gap: 1.5 }}>
                <Button size="small" variant="outlined" color="inherit" onClick={() => setSure(false)}>
                  {t('collect.leave.keep')}
                </Button>
                <Button size="small" color="error" onClick={() => run(removeGroup(g.id))}>
                  {t('people.group.remove.sure')}
                </Button>
              </Box>
            </Box>
          ) : (
            <Button
              size="small"
              variant="text"
              color="inherit"
              sx={{ justifySelf: 'start' }}
              onClick={() => setSure(true)}>
              {t('people.group.remove')}
            </Button>
          )}
        </Box>
      )}
    </Box>
  )
}
