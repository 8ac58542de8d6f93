import Add from '@mui/icons-material/Add'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ListSubheader from '@mui/material/ListSubheader'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { t } from '../../shared/texts'
import type { Field } from '../../shared/types'
import { KIND_GROUPS, KIND_MARK } from './design'

/** The kinds of fields to choose from, each with a line on what it is for. */
export function AddField({ first, onAdd }: { first: boolean; onAdd: (kind: Field['kind']) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  // The menu holds the focus until it is gone; then the new field gets it, unless the person is elsewhere by
  // then.
  const gone = () => {
    const at = document.activeElement
    if (!at || at === document.body || at.closest('[role=menu], [role=presentation]'))
      document.querySelector<HTMLInputElement>('[data-open-field] input')?.focus()
  }
  return (
    <Box>
      {first && (
        <Typography color="text.secondary" sx={{ mb: 3 }}>
          {t('design.nofields')}
        </Typography>
      )}
      <Button
        variant={first ? 'contained' : 'outlined'}
        startIcon={<Add />}
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}>
        {t('design.addfield')}
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        disableRestoreFocus
        slotProps={{ transition: { onExited: gone } }}>
        {KIND_GROUPS.flatMap((group) => [
          <ListSubheader key={group.key} sx={{ lineHeight: 2.2, bgcolor: 'background.paper' }}>
            {t(`kinds.${group.key}`)}
          </ListSubheader>,
          ...group.kinds.map((kind) => (
            <MenuItem
              key={kind}
              onClick={() => {
                setAnchor(null)
                onAdd(kind)
              }}
              sx={{ gap: 3, py: 1 }}>
              <Box component="b" aria-hidden sx={{ width: 32, textAlign: 'center' }}>
                {KIND_MARK[kind]}
              </Box>
              <Box>
                {t(`kind.${kind}`)}
                <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
                  {t(`kind.${kind}.hint`)}
                </Typography>
              </Box>
            </MenuItem>
          )),
        ])}
      </Menu>
    </Box>
  )
}
