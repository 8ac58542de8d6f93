import Close from '@mui/icons-material/Close'
import Button from '@mui/material/Button'

/** What the map shows at the moment beside what it always does, and the way to leave it. */
export function MapChip({
  title,
  label,
  row = 0,
  onLeave,
}: {
  title: string
  label: string
  /** How many stand above it. */
  row?: number
  onLeave: () => void
}) {
  return (
    <Button
      variant="outlined"
      color="inherit"
      endIcon={<Close />}
      aria-label={label}
      onClick={onLeave}
      sx={{
        position: 'absolute',
        left: 12,
        top: 12 + 56 * row,
        zIndex: 3,
        maxWidth: 'calc(100% - 90px)',
        bgcolor: 'background.paper',
        '&:hover': { bgcolor: 'background.paper' },
      }}>
      {title}
    </Button>
  )
}
