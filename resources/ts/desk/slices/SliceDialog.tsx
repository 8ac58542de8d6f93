import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import Typography from '@mui/material/Typography'
import useMediaQuery from '@mui/material/useMediaQuery'
import type { Theme } from '@mui/material/styles'
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Slice } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { keys } from '../queries/keys'
import { askableOf, changeSlice, deleteSlice, makeSlice, sliceTrial } from '../queries/slices'
import { emptyGroup, fromFilter, lineOn, toFilter, withPart, type Group } from './rule'
import { RuleGroup } from './RuleGroup'

/** A rule on the records of a layer, built line by line; how many it finds stands below all the time. */
export function SliceDialog({
  layer,
  slice: opened,
  onClose,
  onSaved,
}: {
  layer: number
  /** The one that is changed; null for a new one. */
  slice: Slice | null
  onClose: () => void
  /** With null after it was deleted. */
  onSaved: (slice: Slice | null) => void
}) {
  const programme = useProgramme()
  // As it was when it was opened: whoever changes it meanwhile is not written over.
  const [slice] = useState(opened)
  const client = useQueryClient()
  const askable = useQuery(askableOf(layer))
  const [typed, setName] = useState(slice?.name ?? '')
  const [begun, setGroup] = useState<Group | null>(slice ? fromFilter(slice.filter) : null)
  const [busy, setBusy] = useState(false)
  const [leaving, setLeaving] = useState(false)
  // A rule that is deleted is gone for good, so that is said twice.
  const [sure, setSure] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const narrow = useMediaQuery<Theme>((theme) => theme.breakpoints.down('sm'))
  const subjects = askable.data?.subjects ?? []
  // A new rule begins with its first line, for a rule without one finds everything.
  const first = subjects[0]
  const group = begun ?? (first ? { ...FRESH, parts: [lineOn(first, 'first')] } : FRESH)
  const rule = toFilter(group, subjects)
  const filter = 'filter' in rule ? rule.filter : null
  const asked = useDeferredValue(filter === null ? null : JSON.stringify(filter))
  const trial = useQuery({ ...sliceTrial(layer, asked), placeholderData: keepPreviousData })
  // A name that was proposed goes on following the rule; one that somebody wrote stays.
  const [proposed, setProposed] = useState<string | null>(null)
  if (slice && trial.data && proposed === null && asked === JSON.stringify(slice.filter))
    setProposed(trial.data.name)
  const follows = typed.trim() === '' || typed === proposed
  const save = async () => {
    if (filter === null) return
    setBusy(true)
    setError(null)
    try {
      const body = { name: follows ? null : typed, filter }
      const kept = await (slice
        ? changeSlice(layer, slice.id, { ...body, was: { name: slice.name, filter: slice.filter } })
        : makeSlice(layer, body))
      await client.invalidateQueries({ queryKey: keys.slices(layer) })
      onSaved(kept)
    } catch (e) {
      // What somebody else made of it meanwhile is there when it is opened again.
      void client.invalidateQueries({ queryKey: keys.slices(layer) })
      setError(e)
      setBusy(false)
    }
  }
  const remove = async () => {
    if (!slice) return
    setBusy(true)
    setError(null)
    try {
      await deleteSlice(layer, slice.id)
      await client.invalidateQueries({ queryKey: keys.slices(layer) })
      onSaved(null)
    } catch (e) {
      setError(e)
      setBusy(false)
    }
  }
  // What was built goes only when that is said.
  const saved = slice === null ? null : JSON.stringify(slice.filter)
  const changed = begun !== null && (filter === null ? null : JSON.stringify(filter)) !== saved
  const leave = () => (changed || typed !== (slice?.name ?? '') ? setLeaving(true) : onClose())
  return (
    <Dialog
      open
      onClose={(_, why) => {
        if (why === 'escapeKeyDown') leave()
      }}
      maxWidth="md"
      fullWidth
      fullScreen={narrow}
      aria-labelledby="slice-title">
      <DialogTitle id="slice-title">{t(slice ? 'slice.change' : 'slice.make')}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 4, alignContent: 'start' }}>
        {askable.data && (
          <RuleGroup
            group={group}
            askable={askable.data}
            area={programme.area}
            onPart={(id, next) => setGroup(withPart(group, id, next))}
          />
        )}
        <TextInput
          label={t('slice.name')}
          value={follows && slice && typed === proposed ? '' : typed}
          placeholder={trial.data?.name ?? ''}
          hint={t('slice.name.hint')}
          inputProps={{ maxLength: 190 }}
          onChange={setName}
        />
        <Problems error={error ?? askable.error ?? trial.error} />
      </DialogContent>
      <DialogActions sx={{ flexWrap: 'wrap', gap: 2 }}>
        {leaving ? (
          <>
            <Typography sx={{ flex: 1, minWidth: 200, pl: 3, fontWeight: 650 }} role="alert">
              {t('slice.leave')}
            </Typography>
            <Button variant="outlined" color="error" onClick={onClose}>
              {t('slice.leave.yes')}
            </Button>
            <Button autoFocus onClick={() => setLeaving(false)}>
              {t('slice.leave.no')}
            </Button>
          </>
        ) : (
          <>
            <Box role="status" sx={{ flex: 1, minWidth: 200, pl: 3 }}>
              {filter === null ? (
                <Typography color="text.secondary">
                  {t('slice.open', { n: 'open' in rule ? rule.open : 0 })}
                </Typography>
              ) : trial.data && !trial.error ? (
                <Typography sx={{ opacity: trial.isPlaceholderData ? 0.5 : 1 }}>
                  <b>{t('slice.found', { n: trial.data.found })}</b> {t('slice.of', { n: trial.data.of })}
                </Typography>
              ) : null}
            </Box>
            {slice && (
              <Button
                variant="outlined"
                color="error"
                disabled={busy}
                onClick={() => (sure ? void remove() : setSure(true))}>
                {t(sure ? 'slice.delete.sure' : 'slice.delete')}
              </Button>
            )}
            <Button variant="outlined" onClick={leave}>
              {t('cancel')}
            </Button>
            <Button disabled={busy || filter === null} onClick={() => void save()}>
              {t('slice.save')}
            </Button>
          </>
        )}
      </DialogActions>
    </Dialog>
  )
}

const FRESH = emptyGroup()
