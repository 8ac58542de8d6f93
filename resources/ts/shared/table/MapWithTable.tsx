import Box from '@mui/material/Box'
import useMediaQuery from '@mui/material/useMediaQuery'
import { lazy, Suspense, type ReactNode } from 'react'
import type { PanelProps } from './MapTablePanel'
import { PANEL_HEIGHT } from './panelHeight'

// It comes after the map.
const Panel = lazy(() => import('./MapTablePanel'))

/** A map with what stands beside it: above it the map, which keeps the larger part. */
export function MapWithTable({
  panel,
  comes = panel !== null,
  children,
}: {
  panel: Omit<PanelProps, 'folded'> | null
  /** Whether there will be one: its room is there before it is, so that the map opens as it will stay. */
  comes?: boolean
  children: ReactNode
}) {
  const small = useMediaQuery('(max-width: 899.95px)')
  const room = <Box sx={{ flex: 'none', height: small ? 56 : PANEL_HEIGHT }} />
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>{children}</Box>
      {comes && !panel && room}
      {panel && (
        <Suspense fallback={room}>
          {/* Another table begins anew. */}
          <Panel key={JSON.stringify(panel.table)} folded={small} {...panel} />
        </Suspense>
      )}
    </Box>
  )
}
