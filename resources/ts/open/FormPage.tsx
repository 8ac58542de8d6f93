import Box from '@mui/material/Box'
import type { ReactNode } from 'react'
import { Outlet } from 'react-router'
import { OtherLanguages } from './OtherLanguages'

/** Pages with one form, or a few words, in their middle. */
export function FormPage({ children }: { children?: ReactNode }) {
  return (
    <Box sx={{ minHeight: '100%', display: 'grid', gridTemplateRows: 'auto 1fr' }}>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', px: 2, pt: 2 }}>
        <OtherLanguages />
      </Box>
      {children ?? <Outlet />}
    </Box>
  )
}
