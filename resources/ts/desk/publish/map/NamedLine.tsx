import Box from '@mui/material/Box'
import OutlinedInput from '@mui/material/OutlinedInput'
import type { ReactNode } from 'react'

/** A line of a list of named things: its name, which is never empty, and what can be done with it. */
export const NamedLine = ({
  name,
  label,
  onName,
  children,
}: {
  name: string
  label: string
  onName: (name: string) => void
  children: ReactNode
}) => (
  <Box component="li" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
    <OutlinedInput
      size="small"
      fullWidth
      value={name}
      inputProps={{ 'aria-label': label, maxLength: 60 }}
      onChange={(e) => e.target.value.trim() && onName(e.target.value)}
    />
    {children}
  </Box>
)
