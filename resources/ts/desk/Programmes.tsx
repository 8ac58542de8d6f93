import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api } from '../shared/api'
import { Pill } from '../shared/parts/Pill'
import { Problems } from '../shared/parts/Problems'
import { Empty } from '../shared/parts/Sheet'
import { t } from '../shared/texts'
import type { Me, Programme } from '../shared/types'
import { TopBar } from './TopBar'

export function Programmes({ me }: { me: Me }) {
  const programmes = useQuery({ queryKey: ['programmes'], queryFn: () => api<Programme[]>('GET', '/programmes') })
  const start = <Button component={Link} to="/desk/new">{t('programmes.new')}</Button>
  return (
    <Box sx={{ minHeight: '100%', display: 'flex', flexDirection: 'column' }}>
      <TopBar me={me} />
      <Box component="main" sx={{ p: { xs: 4, md: 8 }, maxWidth: 980, width: '100%', mx: 'auto' }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 5 }}>
          <Typography variant="h1">{t('programmes.title')}</Typography>
          {Boolean(programmes.data?.length) && start}
        </Box>
        <Problems error={programmes.error} />
        {programmes.data?.length === 0 && <Empty title={t('programmes.empty')} action={start}>{t('programmes.empty.text')}</Empty>}
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'repeat(auto-fill, minmax(280px, 1fr))' }}>
          {programmes.data?.map((p) => (
            <Paper key={p.id} variant="outlined" component={Link} to={p.role === 'coordinator' ? `/desk/p/${p.id}` : '/field'} reloadDocument={p.role !== 'coordinator'}
              sx={{ p: 4, color: 'inherit', textDecoration: 'none', display: 'grid', gap: 2, alignContent: 'start', '&:hover': { borderColor: 'text.primary' } }}>
              <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
                <Typography variant="h2">{p.name}</Typography>
                <Pill tone={p.role === 'coordinator' ? 'well' : 'info'}>{t(`role.${p.role}`)}</Pill>
              </Box>
              <Typography color="text.secondary">{p.purpose || t('programmes.nopurpose')}</Typography>
            </Paper>
          ))}
        </Box>
      </Box>
    </Box>
  )
}
