import Box, { type BoxProps } from '@mui/material/Box'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import type { ReactNode, Ref } from 'react'

type Props = {
  title?: ReactNode
  action?: ReactNode
  children: ReactNode
  tone?: 'plain' | 'warn'
  sx?: BoxProps['sx']
  ref?: Ref<HTMLDivElement>
}

/** A flat sheet with a hairline; `warn` has an orange edge. */
export function Sheet({ title, action, children, tone = 'plain', sx, ref }: Props) {
  return (
    <Paper
      ref={ref}
      variant="outlined"
      component="section"
      sx={[
        { p: 4, ...(tone === 'warn' ? { borderLeft: '4px solid', borderLeftColor: 'secondary.main' } : {}) },
        ...(Array.isArray(sx) ? sx : [sx]),
      ]}>
      {(title || action) && (
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 3, mb: 3 }}>
          {title && <Typography variant="h2">{title}</Typography>}
          {action}
        </Box>
      )}
      {children}
    </Paper>
  )
}

/** An empty screen that says what to do next, and offers it. */
export function Empty({
  title,
  children,
  action,
}: {
  title: string
  children: ReactNode
  action?: ReactNode
}) {
  return (
    <Paper variant="outlined" sx={{ p: 8, textAlign: 'center', borderStyle: 'dashed', borderWidth: 2 }}>
      <Typography variant="h2" gutterBottom>
        {title}
      </Typography>
      <Typography color="text.secondary" sx={{ mb: action ? 4 : 0, maxWidth: 460, mx: 'auto' }}>
        {children}
      </Typography>
      {action}
    </Paper>
  )
}
