import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import FormControlLabel from '@mui/material/FormControlLabel'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Radio from '@mui/material/Radio'
import RadioGroup from '@mui/material/RadioGroup'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiError } from '../../shared/api'
import { localToday } from '../../shared/form/RecordForm'
import { LazyMap } from '../../shared/map/LazyMap'
import type { Outing } from '../../shared/outing'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import type { LayerLine, Problem } from '../../shared/types'
import { AreaFrame, FRAME } from '../../shared/map/AreaFrame'
import { clamp } from '../shelves/NewProgramme'
import { useProgramme } from '../ProgrammePage'
import { peopleOf } from '../queries/programmes'
import { makeOuting, saveOuting } from '../queries/plan'

type Draft = Omit<Outing, 'id' | 'crew_name' | 'progress'>
type Props = { outing: Outing | null; layers: LayerLine[]; onClose: () => void; onSaved: () => void }

/** Everything about one outing. What is off is said beside its input. */
export function OutingDialog({ outing, layers, onClose, onSaved }: Props) {
  const programme = useProgramme()
  const people = useQuery(peopleOf(programme.id))
  const worked = layers.filter((l) => l.visits_of === null)
  const [draft, setDraft] = useState<Draft>(
    () =>
      outing ?? {
        title: '',
        note: '',
        crew: null,
        from: localToday(programme.time_zone),
        to: localToday(programme.time_zone),
        area: null,
        layers: worked.slice(0, 1).map((l) => l.id),
        target: 'none',
        count: null,
        checklist: [],
      },
  )
  const [things, setThings] = useState(draft.checklist.join('\n'))
  const [opening] = useState(draft.area ?? programme.area)
  const [problems, setProblems] = useState<Problem[]>([])
  const put = (part: Partial<Draft>) => {
    setDraft((d) => ({ ...d, ...part }))
    setProblems([])
  }
  const at = (field: string) => problems.find((p) => p.field === field)?.message ?? null
  const [saving, setSaving] = useState(false)
  const save = async () => {
    setSaving(true)
    try {
      const body = {
        ...draft,
        checklist: things
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
      }
      if (outing) await saveOuting(outing.id, body)
      else await makeOuting(programme.id, body)
      onSaved()
    } catch (e) {
      if (e instanceof ApiError)
        setProblems(
          e.problems.length
            ? e.problems
            : [{ code: 'failed', field: null, value: null, params: {}, message: e.message }],
        )
    } finally {
      setSaving(false)
    }
  }
  const visited = worked.some((l) => draft.layers.includes(l.id) && layers.some((v) => v.visits_of === l.id))
  const shown = new Set(['title', 'from', 'to', 'count', 'target', 'layers'])
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="outing-title">
      <DialogTitle id="outing-title">{outing ? outing.title : t('outings.new')}</DialogTitle>
      <DialogContent
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: { xs: 'minmax(0,1fr)', md: '1fr 1fr' },
          alignItems: 'start',
        }}>
        <Box sx={{ display: 'grid', gap: 3, pt: 1 }}>
          {problems
            .filter((p) => !shown.has(p.field ?? ''))
            .map((p) => (
              <Box key={p.code + p.field} role="alert" sx={{ color: 'error.main' }}>
                {p.message}
              </Box>
            ))}
          <TextInput
            label={t('outings.name')}
            value={draft.title}
            onChange={(title) => put({ title })}
            needed
            autoFocus={!outing}
            error={at('title')}
            inputProps={{ maxLength: 120 }}
          />
          <Labelled label={t('outings.crew')}>
            {({ id }) => (
              <NativeSelect
                id={id}
                fullWidth
                input={<OutlinedInput />}
                value={draft.crew ?? ''}
                onChange={(e) => put({ crew: e.target.value ? Number(e.target.value) : null })}>
                <option value="">{t('outings.crew.all')}</option>
                {people.data?.crews.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </NativeSelect>
            )}
          </Labelled>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
            <TextInput
              label={t('outings.from')}
              type="date"
              value={draft.from}
              onChange={(from) => put({ from, ...(draft.to < from ? { to: from } : {}) })}
              error={at('from')}
            />
            <TextInput
              label={t('outings.to')}
              type="date"
              value={draft.to}
              onChange={(to) => put({ to })}
              error={at('to')}
            />
          </Box>
          <Box role="group" aria-label={t('outings.layers')}>
            <Typography sx={{ fontWeight: 650, fontSize: '0.92rem' }}>{t('outings.layers')}</Typography>
            {worked.map((l) => (
              <FormControlLabel
                key={l.id}
                control={
                  <Checkbox
                    size="small"
                    checked={draft.layers.includes(l.id)}
                    onChange={(e) =>
                      put({
                        layers: e.target.checked
                          ? [...draft.layers, l.id]
                          : draft.layers.filter((x) => x !== l.id),
                      })
                    }
                  />
                }
                label={l.title}
              />
            ))}
            {at('layers') && (
              <Typography variant="body2" color="error" role="alert">
                {at('layers')}
              </Typography>
            )}
          </Box>
          <Box>
            <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>
              {t('outings.target')}
            </Typography>
            <Segments<Draft['target']>
              label={t('outings.target')}
              value={draft.target}
              onChange={(target) => put({ target, count: target === 'records' ? (draft.count ?? 20) : null })}
              options={(
                [
                  'none',
                  'records',
                  ...(visited || draft.target === 'visits' ? (['visits'] as const) : []),
                ] as const
              ).map((value) => ({ value, label: t(`outings.target.${value}`) }))}
            />
            {at('target') && (
              <Typography variant="body2" color="error" role="alert">
                {at('target')}
              </Typography>
            )}
          </Box>
          {draft.target === 'records' && (
            <TextInput
              label={t('outings.count')}
              value={draft.count ?? ''}
              onChange={(text) => put({ count: /^\d+$/.test(text) ? Number(text) : null })}
              error={at('count')}
              inputProps={{ inputMode: 'numeric' }}
            />
          )}
        </Box>
        <Box sx={{ display: 'grid', gap: 3, pt: 1 }}>
          <Box>
            <RadioGroup
              aria-label={t('outings.area')}
              value={draft.area ? 'frame' : 'all'}
              onChange={(e) => put({ area: e.target.value === 'all' ? null : opening })}>
              <FormControlLabel value="all" control={<Radio size="small" />} label={t('outings.area.all')} />
              <FormControlLabel
                value="frame"
                control={<Radio size="small" />}
                label={t('outings.area.frame')}
              />
            </RadioGroup>
            {draft.area && (
              <Box
                sx={{
                  height: 240,
                  mt: 1,
                  borderRadius: 1.5,
                  overflow: 'hidden',
                  border: '1px solid',
                  borderColor: 'divider',
                }}>
                <LazyMap
                  label={t('outings.area')}
                  extent={opening}
                  padding={FRAME}
                  frame={FRAME}
                  onMove={({ extent, byHand }) => byHand && put({ area: clamp(extent) })}>
                  <AreaFrame />
                </LazyMap>
              </Box>
            )}
          </Box>
          <TextInput
            label={t('outings.checklist')}
            value={things}
            onChange={setThings}
            multiline
            minRows={4}
          />
          {things.trim() === '' && (
            <Box>
              <Button size="small" variant="outlined" onClick={() => setThings(t('outings.checklist.usual'))}>
                {t('outings.checklist.fill')}
              </Button>
            </Box>
          )}
          <TextInput
            label={t('outings.note')}
            value={draft.note}
            onChange={(note) => put({ note })}
            multiline
            minRows={2}
            inputProps={{ maxLength: 2000 }}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {t('check.cancel')}
        </Button>
        <Button onClick={() => void save()} disabled={saving || draft.title.trim() === ''}>
          {t('save')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
