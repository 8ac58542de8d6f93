import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useLiveQuery } from 'dexie-react-hooks'
import { api } from '../../shared/api'
import { t } from '../../shared/texts'
import { db, type Parked } from '../db'
import { rescueOf, saveFile } from '../rescue'

/**
 * Whoever is signed in goes, and the sign-in comes; what they had not sent is put aside as well, when
 * somebody else signs in.
 */
async function changePerson() {
  await api('DELETE', '/session').catch(() => undefined)
  location.assign('/field?signin')
}

/**
 * Work of people who bore this phone before: it waits for them, and can be taken away as a file, but never
 * goes as somebody else's.
 */
export function OtherPersonPart() {
  const others = useLiveQuery(() => db.parked.toArray())
  const rescue = async (parked: Parked) => saveFile(await rescueOf(parked))
  return (
    <>
      {others?.map((p) => (
        <Alert key={p.person} severity="warning" variant="outlined" sx={{ mb: 3 }}>
          {t('others.waiting', {
            name: p.name,
            n: p.outbox.length + p.asked.length,
            photos: p.photos.length,
            drafts: p.drafts.length,
          })}
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 2, '& button': { minHeight: 48 } }}>
            <Button
              variant="outlined"
              color="inherit"
              disabled={!navigator.onLine}
              onClick={() => void changePerson()}>
              {t('field.two.bearer', { name: p.name })}
            </Button>
            <Button variant="outlined" color="inherit" onClick={() => void rescue(p)}>
              {t('outbox.rescue')}
            </Button>
          </Box>
        </Alert>
      ))}
    </>
  )
}
