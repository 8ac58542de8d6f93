import ArrowBack from '@mui/icons-material/ArrowBack'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import type { ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { t } from '../../shared/texts'

/** The top of a screen: the way back, what it is. */
export function Head({
  title,
  under,
  to = '/field',
  children,
}: {
  title: string
  under?: ReactNode
  to?: string
  children?: ReactNode
}) {
  const navigate = useNavigate()
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        p: 2,
        pr: 4,
        borderBottom: '1px solid',
        borderColor: 'divider',
        flex: 'none',
      }}>
      <IconButton onClick={() => void navigate(to)} aria-label={t('back')} sx={{ width: 48, height: 48 }}>
        <ArrowBack />
      </IconButton>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography variant="h1" sx={{ fontSize: '1.3rem' }}>
          {title}
        </Typography>
        {under && (
          <Typography variant="body2" color="text.secondary">
            {under}
          </Typography>
        )}
      </Box>
      {children}
    </Box>
  )
}
