import Box from '@mui/material/Box'
import { Outlet } from 'react-router'
import { OtherLanguages } from './OtherLanguages'

/** Pages with one form in their middle. */
export function FormPage() {
  return (
    <Box sx={{ minHeight: '100%', display: 'grid', gridTemplateRows: 'auto 1fr' }}>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', px: 2, pt: 2 }}>
        <OtherLanguages />
      </Box>
      <Outlet />
    </Box>
  )
}
