import Box from '@mui/material/Box'
import FormControlLabel from '@mui/material/FormControlLabel'
import Link from '@mui/material/Link'
import Radio from '@mui/material/Radio'
import RadioGroup from '@mui/material/RadioGroup'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Audience } from '../../shared/types'
import { Address } from '../people/Address'
import { NewLink } from './NewLink'

type Props = {
  audience: Audience
  address: string | null
  onChange: (audience: Audience) => void
  onNewLink: () => void
}

/** Who may see a map or board, and the link to hand on. */
export function AudiencePart({ audience, address, onChange, onNewLink }: Props) {
  return (
    <Sheet title={t('audience.title')}>
      <RadioGroup
        aria-label={t('audience.title')}
        value={audience}
        onChange={(e) => onChange(e.target.value as Audience)}>
        {(['programme', 'link'] as const).map((a) => (
          <FormControlLabel key={a} value={a} control={<Radio size="small" />} label={t(`audience.${a}`)} />
        ))}
      </RadioGroup>
      {audience === 'link' && address && (
        <Box sx={{ mt: 3, display: 'grid', gap: 3 }}>
          <Address address={location.origin + address} hint={t('audience.hint')} />
          <Link href={address} target="_blank" rel="noopener">
            {t('audience.look')}
          </Link>
        </Box>
      )}
      {address && (
        <Box sx={{ mt: 3 }}>
          <NewLink onDo={onNewLink} />
        </Box>
      )}
    </Sheet>
  )
}
