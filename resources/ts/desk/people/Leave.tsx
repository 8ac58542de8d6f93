import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { removePerson } from '../queries/programmes'

/** Takes a person out of the programme, after a second word: the phone gives up its copy. */
export function Leave({ person, onDone }: { person: Api['Person']; onDone: (error: unknown) => void }) {
  const programme = useProgramme()
  const [sure, setSure] = useState(false)
  if (!sure)
    return (
      <Button
        size="small"
        variant="text"
        color="inherit"
        aria-label={t('collect.leave.of', { name: person.name })}
        onClick={() => setSure(true)}>
        {t('collect.leave')}
      </Button>
    )
  return (
    <Box
      sx={{ display: 'grid', gap: 1.5, justifyItems: 'end', maxWidth: 240, ml: 'auto', textAlign: 'right' }}>
      <Typography variant="body2">{t('collect.leave.what', { name: person.name })}</Typography>
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Button size="small" variant="outlined" color="inherit" onClick={() => setSure(false)}>
          {t('collect.leave.keep')}
        </Button>
        <Button
          size="small"
          color="error"
          onClick={() =>
            removePerson(programme.id, person.id)
              .then(() => onDone(null))
              .catch(onDone)
          }>
          {t('collect.leave.sure')}
        </Button>
      </Box>
    </Box>
  )
}
