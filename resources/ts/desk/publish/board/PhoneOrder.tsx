import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import IconButton from '@mui/material/IconButton'
import { phoneOrder } from '../../../shared/board/layout'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import type { Tile } from '../../../shared/types'
import { changed } from './tileEdits'

/** The tiles of a page as a phone has them: in an order of its own, some left out. */
export function PhoneOrder({ tiles, onChange }: { tiles: Tile[]; onChange: (tiles: Tile[]) => void }) {
  const shown = phoneOrder(tiles)
  const hidden = tiles.filter((tile) => tile.on_phone === false)
  const move = (at: number, by: 1 | -1) => {
    const next = [...shown]
    next.splice(at + by, 0, ...next.splice(at, 1))
    // Once one has a rank all have, or those without would stand between them.
    onChange([...next.map((tile, i) => ({ ...tile, phone: i })), ...hidden])
  }
  const show = (tile: Tile, on: boolean) =>
    onChange(
      tiles.map((one) => (one.id === tile.id ? changed(one, { on_phone: on ? undefined : false }) : one)),
    )
  return (
    <Sheet title={t('phone.order')}>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {[...shown, ...hidden].map((tile, i) => (
          <Box component="li" key={tile.id} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Checkbox
              size="small"
              checked={tile.on_phone !== false}
              onChange={(e) => show(tile, e.target.checked)}
              slotProps={{ input: { 'aria-label': t('phone.show', { tile: tile.title }) } }}
            />
            <Box
              sx={{
                flex: 1,
                minWidth: 0,
                overflowWrap: 'anywhere',
                color: tile.on_phone === false ? 'text.secondary' : undefined,
              }}>
              {tile.title}
            </Box>
            {tile.on_phone !== false && (
              <>
                <IconButton
                  size="small"
                  disabled={i === 0}
                  aria-label={t('design.up.of', { field: tile.title })}
                  onClick={() => move(i, -1)}>
                  <ArrowUpward fontSize="small" />
                </IconButton>
                <IconButton
                  size="small"
                  disabled={i === shown.length - 1}
                  aria-label={t('design.down.of', { field: tile.title })}
                  onClick={() => move(i, 1)}>
                  <ArrowDownward fontSize="small" />
                </IconButton>
              </>
            )}
          </Box>
        ))}
      </Box>
    </Sheet>
  )
}
