import NotificationsNone from '@mui/icons-material/NotificationsNone'
import Badge from '@mui/material/Badge'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import Popover from '@mui/material/Popover'
import Typography from '@mui/material/Typography'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Problems } from '../../shared/parts/Problems'
import { ago, t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { myNotices, readNotices } from '../queries/alerts'
import { keys } from '../queries/keys'

/** What alerts have told: a bell with how many were not read, and the list. */
export function NoticesBell() {
  const navigate = useNavigate()
  const client = useQueryClient()
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const { data, error } = useQuery(myNotices())
  const read = useMutation({
    mutationFn: readNotices,
    onSuccess: (now) => client.setQueryData(keys.notices, now),
  })
  const unread = data?.unread ?? 0
  const open = (notice: Api['Notice']) => {
    setAnchor(null)
    if (!notice.read) read.mutate([notice.id])
    void navigate(notice.path)
  }
  return (
    <>
      <IconButton
        aria-label={t('notices.bell', { n: unread })}
        aria-haspopup="dialog"
        sx={{ color: 'inherit' }}
        onClick={(e) => setAnchor(e.currentTarget)}>
        <Badge badgeContent={unread} color="secondary" max={99}>
          <NotificationsNone />
        </Badge>
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: {
            role: 'dialog',
            'aria-label': t('notices.title'),
            sx: { width: 400, maxWidth: 'calc(100vw - 32px)', maxHeight: 'min(560px, calc(100vh - 90px))' },
          },
        }}>
        <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', px: 4, py: 2 }}>
          <Typography variant="h2">{t('notices.title')}</Typography>
          {unread > 0 && (
            <Button
              size="small"
              variant="outlined"
              onClick={() => read.mutate(data?.notices.filter((n) => !n.read).map((n) => n.id) ?? [])}>
              {t('notices.readall')}
            </Button>
          )}
        </Box>
        <Problems error={error ?? read.error} />
        {data?.notices.length === 0 && (
          <Typography color="text.secondary" sx={{ px: 4, pb: 4 }}>
            {t('notices.empty')}
          </Typography>
        )}
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {data?.notices.map((notice) => (
            <Box component="li" key={notice.id} sx={{ borderTop: '1px solid', borderColor: 'divider' }}>
              <ButtonBase
                onClick={() => open(notice)}
                sx={{
                  display: 'block',
                  width: '100%',
                  textAlign: 'left',
                  px: 4,
                  py: 2.5,
                  borderLeft: '4px solid',
                  borderLeftColor: notice.read ? 'transparent' : 'secondary.main',
                  overflowWrap: 'anywhere',
                  '&:hover': { bgcolor: 'action.hover' },
                }}>
                <Box sx={{ fontWeight: notice.read ? 400 : 650 }}>{notice.text}</Box>
                {notice.records.length > 0 && (
                  <Box>{notice.records.map((r) => r.name ?? t('record.unnamed')).join(', ')}</Box>
                )}
                <Box sx={{ color: 'text.secondary', fontSize: '0.85rem' }}>
                  {notice.programme_name}, {ago(notice.at)}
                </Box>
              </ButtonBase>
            </Box>
          ))}
        </Box>
      </Popover>
    </>
  )
}
