import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useEffect, useState } from 'react'
import { t } from '../../shared/texts'

/** A screen that comes within this time comes without a word. */
const SOON_MS = 1_200

/** Stands where a screen will be, and says what it waits for. */
export function Coming() {
  const [late, setLate] = useState(false)
  useEffect(() => {
    const later = setTimeout(() => setLate(true), SOON_MS)
    return () => clearTimeout(later)
  }, [])
  if (!late) return null
  return (
    <Box role="status" sx={{ p: 5, display: 'grid', gap: 4 }}>
      {t('field.coming')}
      {navigator.onLine && (
        <Button variant="outlined" color="inherit" sx={{ minHeight: 56 }} onClick={() => location.reload()}>
          {t('field.coming.again')}
        </Button>
      )}
    </Box>
  )
}
