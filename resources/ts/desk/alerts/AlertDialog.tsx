import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { ApiError } from '../../shared/api'
import { TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Segments } from '../../shared/parts/Segments'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { makeAlert, saveAlert, type Alert, type AlertInput } from '../queries/alerts'
import { keys } from '../queries/keys'
import { layersOf } from '../queries/layers'
import { peopleOf } from '../queries/programmes'
import { measurableOf } from '../queries/publish'
import { slicesOf } from '../queries/slices'
import { AlertRulePart } from './AlertRulePart'
import { alertName } from './alertName'
import { isWhole } from './alertOf'
import { AlertStands } from './AlertStands'
import { AlertWays } from './AlertWays'

type Props = {
  /** One that is changed. */
  alert?: Alert | undefined
  /** What a new one begins with, as it comes from a tile. */
  rule?: Alert['rule'] | undefined
  onClose: () => void
}

/** Made at a desk in the morning: told between six and nine, at most once an hour, by mail. */
const BEGIN = {
  to: { coordinators: true, crews: [] },
  by_mail: true,
  on_phones: false,
  rest: { minutes: 60, from: '21:00', until: '06:00' },
}
const KINDS = ['slice', 'measure', 'silence'] as const

/** When somebody is to be told, who, and in which ways. */
export function AlertDialog({ alert, rule, onClose }: Props) {
  const programme = useProgramme()
  const client = useQueryClient()
  const layers = useQuery(layersOf(programme.id)).data ?? []
  const people = useQuery(peopleOf(programme.id)).data
  const [draft, setDraft] = useState<AlertInput>(() =>
    alert ? input(alert) : { ...BEGIN, name: '', rule: rule ?? { kind: 'slice' } },
  )
  const [named, setNamed] = useState(alert !== undefined)
  const put = (part: Partial<AlertInput>) => setDraft((d) => ({ ...d, ...part }))
  const now: Alert['rule'] =
    draft.rule.kind === 'silence' || draft.rule.layer !== undefined || !layers[0]
      ? draft.rule
      : { ...draft.rule, layer: layers[0].id }
  const slices = useQuery({ ...slicesOf(now.layer ?? 0), enabled: now.layer !== undefined }).data ?? []
  const measurable = useQuery(measurableOf(now.layer)).data
  const proposed = alertName(now, { layers, slices, crews: people?.crews ?? [], measurable })
  const name = named ? draft.name : proposed
  const busy = useRef(false)
  const save = useMutation({
    mutationFn: () => {
      const body = { ...draft, rule: now, name }
      return alert ? saveAlert(alert.id, body) : makeAlert(programme.id, body)
    },
    // Without a network it fails and says so; what was chosen stays here.
    networkMode: 'always',
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.alerts(programme.id) })
      onClose()
    },
  })
  const problems = save.error instanceof ApiError ? save.error.problems : []
  const at = (field: string) => problems.find((p) => p.field === field)?.message ?? null
  const kind = (next: (typeof KINDS)[number]) => {
    save.reset()
    put({
      rule:
        next === 'silence'
          ? { kind: next, crew: null, hours: 12, on_outings: true }
          : next === 'measure'
            ? {
                kind: next,
                layer: now.layer,
                slice: now.slice ?? null,
                measure: { of: 'count' },
                passes: 'above',
                value: 100,
              }
            : { kind: next, layer: now.layer, slice: now.slice ?? null },
    } as Partial<AlertInput>)
  }
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="alert-title">
      <DialogTitle id="alert-title">{t(alert ? 'alert.change' : 'alert.new')}</DialogTitle>
      <DialogContent
        sx={{
          display: 'grid',
          gap: 5,
          gridTemplateColumns: { xs: 'minmax(0,1fr)', md: 'minmax(0,1fr) minmax(0,1fr)' },
          alignItems: 'start',
        }}>
        <Box sx={{ display: 'grid', gap: 3, pt: 1 }}>
          <Segments
            label={t('alert.when')}
            value={now.kind}
            options={KINDS.map((value) => ({ value, label: t(`alert.kind.${value}`) }))}
            onChange={kind}
          />
          <AlertRulePart
            key={now.kind}
            rule={now}
            layers={layers}
            crews={people?.crews ?? []}
            at={at}
            onChange={(next) => {
              save.reset()
              put({ rule: next })
            }}
          />
          <AlertStands programme={programme.id} rule={now} />
        </Box>
        <Box sx={{ display: 'grid', gap: 3, pt: 1 }}>
          <TextInput
            label={t('alert.name')}
            value={name}
            needed
            hint={t('alert.name.hint')}
            error={at('name')}
            inputProps={{ maxLength: 120 }}
            onChange={(text) => {
              setNamed(true)
              put({ name: text })
            }}
          />
          <AlertWays draft={draft} crews={people?.crews ?? []} at={at} onChange={put} />
        </Box>
      </DialogContent>
      {problems.length === 0 && save.error && (
        <Box sx={{ px: 6, pb: 2 }}>
          <Problems error={save.error} />
        </Box>
      )}
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {t('check.cancel')}
        </Button>
        <Button
          disabled={save.isPending || name.trim() === '' || !isWhole(now)}
          onClick={() => {
            // Two taps in one moment are one.
            if (busy.current) return
            busy.current = true
            save.mutate(undefined, { onSettled: () => (busy.current = false) })
          }}>
          {t('save')}
        </Button>
      </DialogActions>
    </Dialog>
  )
}

const input = ({ name, rule, to, by_mail, on_phones, rest }: Alert): AlertInput => ({
  name,
  rule,
  to,
  by_mail,
  on_phones,
  rest,
})
