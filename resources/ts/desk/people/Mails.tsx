import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import FormHelperText from '@mui/material/FormHelperText'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { keys } from '../queries/keys'
import { wantMails } from '../queries/programmes'

const KINDS = ['alerts', 'roles'] as const

/** What one wants to hear of by mail. */
export function Mails({ me }: { me: Me }) {
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const [saving, setSaving] = useState(false)
  const put = async (kind: string, wanted: boolean) => {
    setSaving(true)
    const others = me.unwanted_mails.filter((k) => k !== kind)
    await wantMails(wanted ? others : [...others, kind]).then(() => setError(null), setError)
    await client.invalidateQueries({ queryKey: keys.me })
    setSaving(false)
  }
  return (
    <Sheet title={t('account.mails')}>
      {KINDS.map((kind) => (
        <FormControlLabel
          key={kind}
          sx={{ display: 'flex' }}
          label={t(`account.mails.${kind}`)}
          control={
            <Checkbox
              size="small"
              checked={!me.unwanted_mails.includes(kind)}
              disabled={saving}
              onChange={(e) => void put(kind, e.target.checked)}
            />
          }
        />
      ))}
      <FormHelperText>{t('account.mails.hint')}</FormHelperText>
      <Problems error={error} />
    </Sheet>
  )
}
