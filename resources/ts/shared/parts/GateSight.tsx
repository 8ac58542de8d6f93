import InsertChartOutlined from '@mui/icons-material/InsertChartOutlined'
import LockOutlined from '@mui/icons-material/LockOutlined'
import MapOutlined from '@mui/icons-material/MapOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import type { ReactNode } from 'react'
import { t } from '../texts'
import type { GateFront } from '../types'
import { MapPicture } from './MapPicture'
import { PegMark } from './PegMark'

type Thing = GateFront['things'][number]

/** The front door of a programme: what it is about, and its gallery. Closed things are named, with a lock. */
export function GateSight({
  front,
  signIn,
  still = false,
  corner,
}: {
  front: GateFront
  /** Where one signs in. */ signIn: string
  /** Shown, not to be used. */ still?: boolean
  /** What stands at its upper end. */ corner?: ReactNode
}) {
  return (
    <Box sx={{ minHeight: '100%', display: 'flex', flexDirection: 'column', bgcolor: 'background.default' }}>
      <Box
        component="header"
        sx={{ bgcolor: front.colour, color: front.text, px: { xs: 4, md: 8 }, py: { xs: 6, md: 9 } }}>
        <Box sx={{ maxWidth: 960, mx: 'auto' }}>
          {corner && <Box sx={{ float: 'right', ml: 3, mt: { xs: -4, md: -6 } }}>{corner}</Box>}
          <Typography
            variant="h1"
            sx={{ fontSize: { xs: '1.9rem', md: '2.6rem' }, overflowWrap: 'anywhere' }}>
            {front.title}
          </Typography>
          {front.about && (
            <Typography
              sx={{
                mt: 3,
                maxWidth: 620,
                whiteSpace: 'pre-line',
                fontSize: '1.08rem',
                overflowWrap: 'anywhere',
              }}>
              {front.about}
            </Typography>
          )}
        </Box>
      </Box>
      <Box component="main" sx={{ flex: 1, px: { xs: 4, md: 8 }, py: 6 }}>
        <Box sx={{ maxWidth: 960, mx: 'auto' }}>
          {front.things.length === 0 && <Typography color="text.secondary">{t('gate.empty')}</Typography>}
          <Box
            component="ul"
            sx={{
              listStyle: 'none',
              m: 0,
              p: 0,
              display: 'grid',
              gap: 4,
              gridTemplateColumns: 'repeat(auto-fill, minmax(min(240px, 100%), 1fr))',
            }}>
            {front.things.map((thing, i) => (
              <li key={`${thing.title} ${i}`}>
                <GalleryCard thing={thing} href={still ? undefined : (thing.address ?? signIn)} />
              </li>
            ))}
          </Box>
        </Box>
      </Box>
      <Box
        component="footer"
        sx={{ borderTop: '1px solid', borderColor: 'divider', px: { xs: 4, md: 8 }, py: 4 }}>
        <Box
          sx={{ maxWidth: 960, mx: 'auto', display: 'flex', gap: 3, alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="body2" color="text.secondary">
            {t('gate.crew')}
          </Typography>
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            {...(still ? { component: 'span', disabled: true } : { href: signIn })}>
            {t('gate.crew.open')}
          </Button>
        </Box>
      </Box>
    </Box>
  )
}

/** One thing of a gallery; a closed one leads to where one signs in. */
export function GalleryCard({ thing, href }: { thing: Thing; href: string | undefined }) {
  const Kind = thing.kind === 'map' ? MapOutlined : InsertChartOutlined
  return (
    <Paper
      variant="outlined"
      {...(href ? { component: 'a', href } : {})}
      sx={{
        display: 'grid',
        overflow: 'hidden',
        height: '100%',
        boxSizing: 'border-box',
        color: 'inherit',
        textDecoration: 'none',
        alignContent: 'start',
        bgcolor: thing.open ? 'background.paper' : 'transparent',
        borderStyle: thing.open ? 'solid' : 'dashed',
        '&:hover': href ? { borderColor: 'text.primary' } : {},
      }}>
      {thing.kind === 'map' && thing.open && thing.address && (
        <MapPicture address={`/api/v1/open/maps/${thing.address.slice('/m/'.length)}/picture.png`} />
      )}
      <Box sx={{ display: 'grid', gap: 2, p: 4 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minHeight: 28, color: 'text.secondary' }}>
          {thing.open ? <Kind /> : <LockOutlined />}
          {thing.pegs.map((peg, i) => (
            <PegMark key={i} {...peg} size={24} />
          ))}
        </Box>
        <Typography variant="h2" component="h2" sx={{ fontSize: '1.15rem', overflowWrap: 'anywhere' }}>
          {thing.title}
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {t(thing.open ? `gate.kind.${thing.kind}` : 'gate.locked')}
        </Typography>
      </Box>
    </Paper>
  )
}
