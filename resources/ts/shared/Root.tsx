import CssBaseline from '@mui/material/CssBaseline'
import { ThemeProvider, type Theme } from '@mui/material/styles'
import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode, type ReactNode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { newStore } from './queryClient'

const client = newStore()

/** Puts a page together: theme, routes, and the store of what the server said. */
export function mount(theme: Theme, page: ReactNode) {
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <ThemeProvider theme={theme}>
        <CssBaseline />
        <QueryClientProvider client={client}>
          <BrowserRouter>{page}</BrowserRouter>
        </QueryClientProvider>
      </ThemeProvider>
    </StrictMode>,
  )
}
