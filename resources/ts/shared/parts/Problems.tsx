import Alert from '@mui/material/Alert'
import { sentences } from '../api'

/** What went wrong, in sentences; nothing where nothing did. */
export function Problems({ error }: { error: unknown }) {
  if (!error) return null
  const lines = sentences(error)
  return (
    <Alert severity="error" variant="outlined" sx={{ bgcolor: 'background.paper' }}>
      {lines.length === 1 ? (
        lines[0]
      ) : (
        <ul style={{ margin: 0, paddingInlineStart: 18 }}>
          {lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </Alert>
  )
}
