import Box from '@mui/material/Box'
import { lazy, Suspense, type ComponentProps } from 'react'
import { t } from '../texts'

// The map library is by far the largest part; it comes after the page.
const Inner = lazy(() => import('./MapView').then((m) => ({ default: m.MapView })))

export function LazyMap(props: ComponentProps<typeof Inner>) {
  return (
    <Suspense
      fallback={
        <Box
          sx={{
            height: '100%',
            bgcolor: '#CFDDDD',
            color: '#2F4A50',
            display: 'grid',
            placeItems: 'center',
          }}>
          {t('map.loading')}
        </Box>
      }>
      <Inner {...props} />
    </Suspense>
  )
}
