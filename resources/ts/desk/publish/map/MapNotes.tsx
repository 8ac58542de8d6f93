import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'

/** What is not on the map though it should be. */
export function MapNotes({ notes }: { notes: string[] }) {
  if (notes.length === 0) return null
  return (
    <Box
      role="status"
      sx={{ borderLeft: '4px solid', borderColor: 'secondary.main', pl: 3, display: 'grid', gap: 1 }}>
      {notes.map((sentence, i) => (
        <Typography key={i} variant="body2">
          {sentence}
        </Typography>
      ))}
    </Box>
  )
}
