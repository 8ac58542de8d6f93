import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { demandSecond } from '../queries/programmes'

type Props = { people: Api['Person'][]; onDone: (error: unknown) => Promise<void> }

/** Whether who coordinates the programme must have a second factor, and who has none yet. */
export function SecondDemand({ people, onDone }: Props) {
  const programme = useProgramme()
  const [error, setError] = useState<unknown>(null)
  const [saving, setSaving] = useState(false)
  const without = people.filter((p) => p.role === 'coordinator' && !p.second_factor).map((p) => p.name)
  const save = async (on: boolean) => {
    setSaving(true)
    await demandSecond(programme.id, on)
      .then(() => setError(null), setError)
      .then(() => onDone(null))
    setSaving(false)
  }
  return (
    <Sheet title={t('second.title')}>
      <FormControlLabel
        control={
          <Checkbox
            checked={programme.second_factor}
            disabled={saving}
            onChange={(e) => void save(e.target.checked)}
          />
        }
        label={t('second.demand')}
      />
      {without.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {t(programme.second_factor ? 'second.demand.held' : 'second.demand.would', {
            n: without.length,
            names: without.join(', '),
          })}
        </Typography>
      )}
      <Problems error={error} />
    </Sheet>
  )
}
