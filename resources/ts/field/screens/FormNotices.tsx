import Alert from '@mui/material/Alert'
import Button from '@mui/material/Button'
import { ago, t } from '../../shared/texts'
import type { Value } from '../../shared/types'
import type { Opened } from '../drafts'
import { farAway } from '../position'

/** Metres between a kept draft's place and the one asked for, from which on the person is told. */
const ELSEWHERE_M = 20

type Props = {
  /** The phone could not keep what was typed. */
  unkept: boolean
  since: Opened['since']
  /** Values that today's form has no place for. */
  outgrown: [string, Value | undefined][]
  /** Metres from the draft's place to the one that was asked for. */
  far: number
  begunAt: string
  accuracy: number | null | undefined
  warnAbove: number | undefined
  /** What must be put right before the record can be saved. */
  complaints: string[]
  onAnew: () => void
}

/** What the form has to say before anything is typed, and why it was not saved. */
export function FormNotices({
  unkept,
  since,
  outgrown,
  far,
  begunAt,
  accuracy,
  warnAbove,
  complaints,
  onAnew,
}: Props) {
  return (
    <>
      {unkept && (
        <Alert severity="error" variant="outlined" sx={{ mb: 4 }}>
          {t('form.unkept')}
        </Alert>
      )}
      {since && (
        <Alert severity="info" variant="outlined" sx={{ mb: 4 }}>
          {t(`form.since.${since}`)}
        </Alert>
      )}
      {outgrown.length > 0 && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 4 }}>
          {t('form.outgrown')}
          {outgrown.map(([key, value]) => (
            <div key={key}>
              {key}: <b>{String(value)}</b>
            </div>
          ))}
        </Alert>
      )}
      {far > ELSEWHERE_M && (
        <Alert
          severity="info"
          variant="outlined"
          sx={{ mb: 4 }}
          action={
            <Button size="small" variant="outlined" onClick={onAnew}>
              {t('form.draft.anew')}
            </Button>
          }>
          {t('form.draft', { ago: ago(begunAt), far: farAway(far) })}
        </Alert>
      )}
      {accuracy && warnAbove && accuracy > warnAbove && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 4 }}>
          {t('form.fix.weak', {
            accuracy: Math.round(accuracy),
            wanted: warnAbove,
          })}
        </Alert>
      )}
      {complaints.length > 0 && (
        <Alert severity="error" variant="outlined" sx={{ mb: 4 }}>
          {t('form.tofix', { n: complaints.length })}
          {complaints.map((r) => (
            <div key={r}>{r}</div>
          ))}
        </Alert>
      )}
    </>
  )
}
