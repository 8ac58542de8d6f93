import ArrowDropDown from '@mui/icons-material/ArrowDropDown'
import Avatar from '@mui/material/Avatar'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { paint } from '../shared/paint'
import { keepLanguage } from '../shared/language'
import { PegMark } from '../shared/parts/PegMark'
import { t } from '../shared/texts'
import { HEAD_FONT } from '../shared/theme'
import { NoticesBell } from './alerts/NoticesBell'
import { SearchBox } from './shelves/SearchBox'
import { UnsavedNote } from './unsaved/UnsavedNote'
import type { Me, Programme } from '../shared/types'
import { aboutYard, allProgrammes, signOut } from './queries/programmes'

/** The dark bar at the top: whose yard it is, which programme, who is here. */
export function TopBar({ me, programme }: { me: Me; programme?: Programme | undefined }) {
  const navigate = useNavigate()
  const [anchor, setAnchor] = useState<{ menu: 'programmes' | 'me'; at: HTMLElement } | null>(null)
  const programmes = useQuery(allProgrammes())
  const about = useQuery(aboutYard())
  const initials = me.name
    .split(' ')
    .map((w) => w[0])
    .slice(0, 2)
    .join('')
  const go = (to: string) => {
    setAnchor(null)
    void navigate(to)
  }
  const leave = async () => {
    await signOut()
    // Whoever comes next reads what they read.
    keepLanguage(null)
    location.assign('/desk')
  }
  return (
    <Box
      component="header"
      sx={{
        height: 52,
        flex: 'none',
        display: 'flex',
        alignItems: 'center',
        gap: 4,
        px: { xs: 3, md: 5 },
        bgcolor: paint.ink,
        color: paint.page,
      }}>
      <Box
        component={Link}
        to="/desk"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 2.25,
          color: 'inherit',
          textDecoration: 'none',
          fontFamily: HEAD_FONT,
          fontWeight: 800,
          fontSize: '1.18rem',
          fontStretch: '112%',
        }}>
        <PegMark head="diamond" colour={paint.flag} size={26} stem={paint.page} /> Pin Yard
      </Box>
      {programme && (
        <Button
          variant="outlined"
          endIcon={<ArrowDropDown />}
          onClick={(e) => setAnchor({ menu: 'programmes', at: e.currentTarget })}
          aria-haspopup="menu"
          sx={{
            color: 'inherit',
            borderColor: paint.onDarkLine,
            minHeight: 34,
            maxWidth: { xs: 180, md: 420 },
            overflow: 'hidden',
            whiteSpace: 'nowrap',
            textOverflow: 'ellipsis',
          }}>
          {programme.name}
        </Button>
      )}
      <Menu open={anchor?.menu === 'programmes'} anchorEl={anchor?.at} onClose={() => setAnchor(null)}>
        {programmes.data?.map((p) => (
          <MenuItem key={p.id} selected={p.id === programme?.id} onClick={() => go(`/desk/p/${p.id}`)}>
            {p.name}
          </MenuItem>
        ))}
        <MenuItem divider disabled sx={{ minHeight: 0, py: 0 }} />
        {programme && (
          <MenuItem onClick={() => go(`/desk/p/${programme.id}/shelves`)}>{t('top.shelves')}</MenuItem>
        )}
        <MenuItem onClick={() => go('/desk/new')}>{t('programmes.new')}</MenuItem>
      </Menu>
      {programme && (
        <Button
          component={Link}
          to={`/desk/p/${programme.id}/shelves`}
          variant="outlined"
          sx={{
            color: 'inherit',
            borderColor: paint.onDarkLine,
            minHeight: 34,
            display: { xs: 'none', md: 'inline-flex' },
          }}>
          {t('top.shelves')}
        </Button>
      )}
      <Box sx={{ flex: 1 }} />
      <UnsavedNote />
      <SearchBox />
      <NoticesBell />
      <IconButton
        aria-label={t('top.me', { name: me.name, initials })}
        onClick={(e) => setAnchor({ menu: 'me', at: e.currentTarget })}
        sx={{ p: 0.5 }}>
        <Avatar
          sx={{
            width: 32,
            height: 32,
            bgcolor: paint.wood,
            color: paint.ink,
            fontSize: '0.85rem',
            fontWeight: 700,
            fontFamily: HEAD_FONT,
          }}>
          {initials}
        </Avatar>
      </IconButton>
      <Menu open={anchor?.menu === 'me'} anchorEl={anchor?.at} onClose={() => setAnchor(null)}>
        <MenuItem disabled sx={{ '&.Mui-disabled': { opacity: 1 } }}>
          {me.name}
        </MenuItem>
        <MenuItem onClick={() => go('/desk/me')}>{t('account.title')}</MenuItem>
        {about.data?.demo && <MenuItem onClick={() => go('/desk/mail-box')}>{t('mailbox.title')}</MenuItem>}
        <MenuItem onClick={leave}>{t('top.signout')}</MenuItem>
      </Menu>
    </Box>
  )
}
