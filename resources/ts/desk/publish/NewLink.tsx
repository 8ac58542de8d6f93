import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { t } from '../../shared/texts'

/**
 * An address is closed for a while above; here it is withdrawn for good, which cannot be taken back, so it is
 * asked twice.
 */
export function NewLink({ onDo }: { onDo: () => void }) {
  const [asked, setAsked] = useState(false)
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <Typography variant="body2" color="text.secondary">
        {t(asked ? 'link.new.what' : 'link.closing')}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2 }}>
        {asked && (
          <Button size="small" variant="outlined" color="inherit" onClick={() => setAsked(false)}>
            {t('link.keep')}
          </Button>
        )}
        <Button
          size="small"
          variant={asked ? 'contained' : 'text'}
          color={asked ? 'error' : 'inherit'}
          onClick={() => {
            if (asked) onDo()
            setAsked(!asked)
          }}>
          {t(asked ? 'link.new.sure' : 'link.new')}
        </Button>
      </Box>
    </Box>
  )
}
