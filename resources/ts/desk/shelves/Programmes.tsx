import MoreVert from '@mui/icons-material/MoreVert'
import Star from '@mui/icons-material/Star'
import StarBorder from '@mui/icons-material/StarBorder'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Chip from '@mui/material/Chip'
import IconButton from '@mui/material/IconButton'
import MuiLink from '@mui/material/Link'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import Paper from '@mui/material/Paper'
import Snackbar from '@mui/material/Snackbar'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { formatDate, t } from '../../shared/texts'
import type { Api, Me } from '../../shared/types'
import { tidy, type Action, type Thing, purposeName } from './catalogue'
import { TopBar } from '../TopBar'
import { keys } from '../queries/keys'
import { binned, allProgrammes } from '../queries/programmes'

type Kept = Api['ProgrammeThing']

/** All programmes that one takes part in, the starred ones first, and those in the bin. */
export function Programmes({ me }: { me: Me }) {
  const client = useQueryClient()
  const programmes = useQuery(allProgrammes())
  const bin = useQuery(binned())
  const [gone, setGone] = useState<Kept | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  const start = (
    <Button component={Link} to="/desk/new">
      {t('programmes.new')}
    </Button>
  )
  const act = async (action: Action, one: Pick<Thing, 'kind' | 'id'>) => {
    try {
      await tidy(action, [one])
      setFailed(null)
    } catch (e) {
      setFailed(e)
    }
    await client.invalidateQueries({ queryKey: keys.programmes })
    await client.invalidateQueries({ queryKey: keys.bin })
  }
  const list = [...(programmes.data ?? [])].sort(
    (a, b) => Number(b.starred) - Number(a.starred) || a.name.localeCompare(b.name),
  )
  return (
    <Box sx={{ minHeight: '100%', display: 'flex', flexDirection: 'column' }}>
      <TopBar me={me} />
      <Box component="main" sx={{ p: { xs: 4, md: 8 }, maxWidth: 980, width: '100%', mx: 'auto' }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 5 }}>
          <Typography variant="h1">{t('programmes.title')}</Typography>
          {list.length > 0 && start}
        </Box>
        <Problems error={failed ?? programmes.error} />
        {programmes.data?.length === 0 && (
          <Empty title={t('programmes.empty')} action={start}>
            {t('programmes.empty.text')}
          </Empty>
        )}
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'repeat(auto-fill, minmax(280px, 1fr))' }}>
          {list.map((p) => (
            <Card
              key={p.id}
              programme={p}
              onAct={(action) => void act(action, p).then(() => action === 'bin' && setGone(p))}
            />
          ))}
        </Box>
        {Boolean(bin.data?.length) && (
          <Box component="section" aria-label={t('programmes.bin.title')} sx={{ mt: 7 }}>
            <Typography variant="h3" gutterBottom>
              {t('programmes.bin.title')}
            </Typography>
            {bin.data?.map((b) => (
              <Box key={b.id} sx={{ display: 'flex', gap: 3, alignItems: 'center', py: 1 }}>
                <Typography sx={{ flex: 1 }}>
                  {b.title}{' '}
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    {b.gone_on && t('programmes.until', { date: formatDate(b.gone_on) })}
                  </Box>
                </Typography>
                <Button
                  size="small"
                  variant="outlined"
                  aria-label={`${t('programmes.restore')}: ${b.title}`}
                  onClick={() => void act('restore', b)}>
                  {t('programmes.restore')}
                </Button>
              </Box>
            ))}
          </Box>
        )}
      </Box>
      <Snackbar
        open={gone !== null}
        autoHideDuration={12_000}
        onClose={(_, why) => {
          if (why === 'timeout') setGone(null)
        }}
        message={t('programmes.binned', { name: gone?.name ?? '' })}
        action={
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => {
              if (gone) void act('restore', gone)
              setGone(null)
            }}>
            {t('undo')}
          </Button>
        }
      />
    </Box>
  )
}

function Card({ programme: p, onAct }: { programme: Kept; onAct: (action: Action) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const mine = p.role === 'coordinator'
  const choose = (action: Action) => {
    setAnchor(null)
    onAct(action)
  }
  return (
    <Paper
      variant="outlined"
      sx={{
        p: 4,
        display: 'grid',
        gap: 2,
        alignContent: 'start',
        position: 'relative',
        '&:hover': { borderColor: 'text.primary' },
      }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, alignItems: 'start' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {/* The whole card is the link's surface; what lies above it keeps its own. */}
          <MuiLink
            component={Link}
            // Who goes out goes there; who looks or makes maps does so at the desk.
            to={p.role === 'crew' && !p.makes ? '/field' : `/desk/p/${p.id}`}
            reloadDocument={p.role === 'crew' && !p.makes}
            color="inherit"
            underline="none"
            sx={{ '&::after': { content: '""', position: 'absolute', inset: 0 } }}>
            {p.name}
          </MuiLink>
        </Typography>
        <IconButton
          size="small"
          aria-pressed={p.starred}
          aria-label={t(p.starred ? 'programmes.unstar' : 'programmes.star', { name: p.name })}
          onClick={() => onAct(p.starred ? 'unstar' : 'star')}
          sx={{ zIndex: 1 }}>
          {p.starred ? (
            <Star fontSize="small" sx={{ color: 'secondary.main' }} />
          ) : (
            <StarBorder fontSize="small" />
          )}
        </IconButton>
        {mine && (
          <IconButton
            size="small"
            aria-haspopup="menu"
            aria-label={t('programmes.more', { name: p.name })}
            onClick={(e) => setAnchor(e.currentTarget)}
            sx={{ zIndex: 1 }}>
            <MoreVert fontSize="small" />
          </IconButton>
        )}
      </Box>
      <Typography color="text.secondary">{p.purpose || t('programmes.nopurpose')}</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Pill tone={mine ? 'well' : 'info'}>{t(`role.${p.role}`)}</Pill>
        {p.purposes.map((x) => (
          <Chip key={x} size="small" color="primary" variant="outlined" label={purposeName(x)} />
        ))}
      </Box>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem onClick={() => choose('copy')}>{t('programmes.copy')}</MenuItem>
        <MenuItem onClick={() => choose('bin')}>{t('programmes.bin')}</MenuItem>
      </Menu>
    </Paper>
  )
}
