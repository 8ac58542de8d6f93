import Alert from '@mui/material/Alert'
import FormControlLabel from '@mui/material/FormControlLabel'
import Switch from '@mui/material/Switch'
import { t } from '../../shared/texts'
import type { Design } from '../../shared/types'
import type { Review } from './import'

const NAMED = 8

/** Words of the file that the layer's lists of choices do not have. */
export function NewChoices({
  choices,
  into,
  taken,
  onTake,
}: {
  choices: Review['new_choices']
  into: Design | null
  taken: boolean
  onTake: (taken: boolean) => void
}) {
  return Object.entries(choices).map(([key, labels]) => (
    <Alert key={key} severity="warning" variant="outlined">
      {t('bring.newchoices', {
        field: into?.fields.find((f) => f.key === key)?.label ?? key,
        labels: labels.slice(0, NAMED).join(', '),
        n: labels.length,
      })}
      <FormControlLabel
        sx={{ display: 'block', ml: 0 }}
        control={<Switch checked={taken} onChange={(_, on) => onTake(on)} />}
        label={t('bring.newchoices.take')}
      />
    </Alert>
  ))
}
