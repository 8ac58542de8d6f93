import ToggleButton from '@mui/material/ToggleButton'
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup'

type Props<T extends string> = {
  label: string
  value: T
  options: { value: T; label: string }[]
  onChange: (value: T) => void
}

/** One of a few, side by side. */
export function Segments<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={label}
      value={value}
      onChange={(_, v: T | null) => v && onChange(v)}
      sx={{
        bgcolor: 'background.paper',
        width: 'fit-content',
        maxWidth: '100%',
        flexWrap: 'wrap',
        '& .MuiToggleButton-root': {
          px: 3.25,
          py: 1.25,
          textTransform: 'none',
          fontWeight: 600,
          color: 'text.primary',
          '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'text.primary', color: 'background.paper' },
        },
      }}>
      {options.map((o) => (
        <ToggleButton key={o.value} value={o.value}>
          {o.label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  )
}
