import Box from '@mui/material/Box'
import { paint } from '../../../shared/paint'
import { t } from '../../../shared/texts'

/** One cell that can be tapped. */
export const CELL = {
  width: '100%',
  minHeight: 44,
  px: 3,
  py: 1.5,
  display: 'flex',
  flexWrap: 'wrap',
  gap: 1.5,
  justifyContent: 'start',
  textAlign: 'left',
} as const

/** All of the table. */
export const CELLS = {
  '& th, & td': { textAlign: 'left', px: 3, py: 1.75, borderTop: `1px solid ${paint.rowLine}` },
  '& thead th': { borderTop: 0, fontWeight: 500, fontSize: '0.9rem' },
  '& tbody th[scope="row"]': { fontWeight: 650, minWidth: 130, maxWidth: 260, overflowWrap: 'break-word' },
  '& th[colspan]': { bgcolor: paint.band, fontWeight: 600, fontSize: '0.9rem', py: 1.25 },
} as const

/** A head over some of the rows. */
export const Part = ({ title, columns }: { title: string; columns: number }) => (
  <tr>
    <th colSpan={columns} scope="colgroup">
      {title}
    </th>
  </tr>
)

export const Nothing = () => (
  <Box component="span" sx={{ color: 'text.secondary' }}>
    {t('seen.nothing')}
  </Box>
)
