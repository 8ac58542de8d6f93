import Close from '@mui/icons-material/Close'
import Button from '@mui/material/Button'

/** What the map shows at the moment beside what it always does, and the way to leave it. */
export function MapChip({
  title,
  label,
  under = false,
  onLeave,
}: {
  title: string
  label: string
  /** Whether another one stands above it. */
  under?: boolean
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
        top: under ? 68 : 12,
        zIndex: 3,
        maxWidth: 'calc(100% - 90px)',
        bgcolor: 'background.paper',
        '&:hover': { bgcolor: 'background.paper' },
      }}>
      {title}
    </Button>
  )
}
