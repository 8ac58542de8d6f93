import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { paint } from '../../shared/paint'
import { FieldInput } from '../../shared/form/FieldInput'
import { localToday } from '../../shared/form/RecordForm'
import { Pill } from '../../shared/parts/Pill'
import { t } from '../../shared/texts'
import { HEAD_FONT } from '../../shared/theme'
import type { Api, Design, Value } from '../../shared/types'

export type Effect = Api['DesignEffect']
export type Review = Api['DesignReview']
export type Decisions = Record<string, { move?: Record<string, string>; fill?: Value; leave?: true }>

type Props = {
  review: Review
  design: Design
  zone: string
  decisions: Decisions
  onDecide: (decisions: Decisions) => void
  onGive: () => void
  onMerge: () => void
  onRetire: (field: string, code: string) => void
  onClose: () => void
}

/**
 * What a new design does to the records that there are, before it is given out; and what someone else changed
 * meanwhile.
 */
export function ReviewDialog(props: Props) {
  const { review, onClose } = props
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="review-title">
      {review.stale ? <Stale {...props} /> : <Effects {...props} />}
    </Dialog>
  )
}

function Stale({ review, onMerge, onClose }: Props) {
  return (
    <>
      <DialogTitle id="review-title">{t('merge.title', { n: review.current })}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        {Boolean(review.theirs?.length) && (
          <Typography>{t('merge.theirs', { what: review.theirs!.join(', ') })}</Typography>
        )}
        <Typography>{t('merge.text')}</Typography>
        {review.clashes?.map((c) => (
          <Typography key={c.what + c.part} sx={{ bgcolor: paint.buoyWash, p: 2, borderRadius: 1.5 }}>
            {t('merge.clash', {
              what: [c.what, c.part].filter(Boolean).join(': '),
              mine: typeof c.mine === 'string' ? c.mine : JSON.stringify(c.mine),
            })}
          </Typography>
        ))}
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {t('review.back')}
        </Button>
        <Button onClick={onMerge} autoFocus>
          {t('merge.do')}
        </Button>
      </DialogActions>
    </>
  )
}

function Effects({ review, design, zone, decisions, onDecide, onGive, onRetire, onClose }: Props) {
  const n = review.current + 1
  const open = review.effects.some(
    (e) =>
      (e.asks === 'choice' && !decisions[e.field]?.move?.[e.choice ?? '']) ||
      (e.asks === 'fill' && !decisions[e.field]?.leave && (decisions[e.field]?.fill ?? null) === null),
  )
  return (
    <>
      <DialogTitle id="review-title" sx={{ fontFamily: HEAD_FONT, fontWeight: 750 }}>
        {t('review.title', { n })}
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2.5 }}>
        {review.effects.length === 0 && <Typography>{t('review.none', { base: review.current })}</Typography>}
        {review.effects.map((e) => (
          <Box
            key={e.code + e.field + (e.choice ?? '')}
            sx={{ borderTop: '1px solid', borderColor: 'divider', pt: 2, display: 'grid', gap: 1.5 }}>
            <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
              <b>{e.label}</b>
              <Pill
                tone={
                  e.outcome === 'decide' && !decided(e, decisions)
                    ? 'warn'
                    : e.outcome === 'converted'
                      ? 'info'
                      : 'well'
                }>
                {t(
                  e.outcome === 'decide' && !decided(e, decisions)
                    ? 'review.decide'
                    : e.outcome === 'converted'
                      ? 'review.converted'
                      : 'review.kept',
                )}
              </Pill>
            </Box>
            <Typography variant="body2">{e.message}</Typography>
            {e.asks === 'choice' && (
              <MoveChoice
                effect={e}
                design={design}
                decisions={decisions}
                onDecide={onDecide}
                onRetire={onRetire}
              />
            )}
            {e.asks === 'fill' && (
              <Fill effect={e} design={design} zone={zone} decisions={decisions} onDecide={onDecide} />
            )}
          </Box>
        ))}
        {review.effects.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            {t('review.phones', { base: review.current })}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={onClose}>
          {t('review.back')}
        </Button>
        <Button onClick={onGive} disabled={open}>
          {t('review.give', { n })}
        </Button>
      </DialogActions>
    </>
  )
}

const decided = (e: Effect, decisions: Decisions) =>
  e.asks === 'choice'
    ? Boolean(decisions[e.field]?.move?.[e.choice ?? ''])
    : Boolean(decisions[e.field]?.leave) || (decisions[e.field]?.fill ?? null) !== null

type Part = Pick<Props, 'design' | 'decisions' | 'onDecide'> & { effect: Effect }

function MoveChoice({ effect, design, decisions, onDecide, onRetire }: Part & Pick<Props, 'onRetire'>) {
  const field = design.fields.find((f) => f.key === effect.field)
  const code = effect.choice ?? ''
  const put = (to: string) =>
    onDecide({
      ...decisions,
      [effect.field]: { ...decisions[effect.field], move: { ...decisions[effect.field]?.move, [code]: to } },
    })
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
      <Typography variant="body2" component="label" htmlFor={`move-${effect.field}-${code}`}>
        {t('review.move')}
      </Typography>
      <NativeSelect
        id={`move-${effect.field}-${code}`}
        input={<OutlinedInput size="small" />}
        value={decisions[effect.field]?.move?.[code] ?? ''}
        onChange={(e) => put(e.target.value)}>
        <option value="">{t('form.choose')}</option>
        {effect.options.map((o) => (
          <option key={o} value={o}>
            {field?.choices?.find((c) => c.code === o)?.label ?? o}
          </option>
        ))}
      </NativeSelect>
      <Button size="small" variant="outlined" onClick={() => onRetire(effect.field, code)}>
        {t('review.retire')}
      </Button>
    </Box>
  )
}

function Fill({ effect, design, zone, decisions, onDecide }: Part & { zone: string }) {
  const field = design.fields.find((f) => f.key === effect.field)
  if (!field) return null
  const now = decisions[effect.field] ?? {}
  const { hint: _, limits: __, required: ___, ...plain } = field
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {!now.leave && (
        <FieldInput
          field={{ ...plain, label: t('review.fill') }}
          value={now.fill ?? null}
          zone={zone}
          today={localToday(zone)}
          onChange={(fill) => onDecide({ ...decisions, [effect.field]: { fill } })}
        />
      )}
      <Box>
        <Button
          size="small"
          variant={now.leave ? 'contained' : 'outlined'}
          aria-pressed={Boolean(now.leave)}
          onClick={() => onDecide({ ...decisions, [effect.field]: now.leave ? {} : { leave: true } })}>
          {t('review.leave')}
        </Button>
      </Box>
    </Box>
  )
}
