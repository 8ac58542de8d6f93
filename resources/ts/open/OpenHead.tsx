import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import type { ReactNode } from 'react'
import { paint } from '../shared/paint'
import { PegMark } from '../shared/parts/PegMark'
import { OtherLanguages } from './OtherLanguages'

/** The bar over a shared map or board: its title, whose it is. */
export function OpenHead({
  title,
  programme,
  children,
}: {
  title: string
  programme: string
  children?: ReactNode
}) {
  return (
    <Box
      component="header"
      sx={{
        flex: 'none',
        display: 'flex',
        alignItems: 'center',
        // On a phone what is beside the title goes below it, so that one can read which board it is.
        flexWrap: { xs: 'wrap', sm: 'nowrap' },
        columnGap: 3,
        px: { xs: 3, md: 5 },
        py: 2,
        bgcolor: paint.ink,
        color: paint.page,
      }}>
      <PegMark head="diamond" colour={paint.flag} size={28} stem={paint.page} />
      <Box sx={{ minWidth: 0, flex: 1 }}>
        <Typography variant="h1" sx={{ fontSize: '1.25rem' }} noWrap>
          {title}
        </Typography>
        <Typography variant="caption" sx={{ color: paint.onDark }} noWrap>
          {programme}
        </Typography>
      </Box>
      {children && (
        <Box sx={{ order: { xs: 1, sm: 0 }, flexBasis: { xs: '100%', sm: 'auto' } }}>{children}</Box>
      )}
      <OtherLanguages />
    </Box>
  )
}
