import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { Suspense, useRef, useState, type ComponentType } from 'react'
import { paint } from '../paint'
import { sharePicture } from '../map/picture'
import { t } from '../texts'
import type { AnsweredTile } from '../types'
import { csvOf, rowsOf } from './data'
import type { TileProps } from './tiles/shared'
import { NOT_IN_PICTURE, pictureOfTile, type OwnPicture } from './tilePicture'
import { TILE_VIEWS } from './tileViews'

type Props = Omit<TileProps<AnsweredTile['kind']>, 'tile'> & {
  tile: AnsweredTile
  /** The way to the records behind it, where there is one. */
  records?: string | null
  /** Something stands at its upper right corner. */
  gripped?: boolean
}

/** A tile with its title, of which records it is, and what one can do with it. */
export function TileFrame({ tile, records, gripped = false, ...given }: Props) {
  const own: OwnPicture = useRef<(() => Promise<Blob>) | null>(null)
  const frame = useRef<HTMLElement>(null)
  const picture = () => own.current?.() ?? pictureOfTile(frame.current!)
  const menu = <TileMenu tile={tile} records={records ?? null} picture={picture} />
  const View = TILE_VIEWS[tile.kind] as ComponentType<TileProps<AnsweredTile['kind']>>
  const isMap = tile.kind === 'map'
  return (
    <Paper
      variant="outlined"
      component="section"
      ref={frame}
      aria-label={tile.title}
      sx={{
        height: '100%',
        p: isMap ? 0 : 3,
        overflow: isMap ? 'hidden' : 'auto',
        position: 'relative',
        minHeight: isMap ? 340 : 0,
        display: isMap ? 'block' : 'flex',
        flexDirection: 'column',
      }}
      tabIndex={isMap ? undefined : 0}>
      {!isMap && (
        <Box sx={{ display: 'flex', alignItems: 'start', gap: 1 }}>
          <Typography
            variant="h3"
            sx={{
              fontFamily: 'inherit',
              fontSize: '0.95rem',
              flex: 1,
              minWidth: 0,
              overflowWrap: 'anywhere',
              pr: gripped ? 7.5 : 0,
            }}>
            {tile.title}
            {tile.slice_name &&
              !tile.slice_name.includes(tile.title) &&
              !tile.title.includes(tile.slice_name) && (
                <Box
                  component="span"
                  sx={{ fontWeight: 400, color: 'text.secondary', fontSize: '0.82rem', display: 'block' }}>
                  {tile.slice_name}
                </Box>
              )}
          </Typography>
          {menu}
        </Box>
      )}
      {!tile.follows && <Box sx={{ fontSize: '0.82rem', color: paint.buoyDark }}>{t('tile.unmoved')}</Box>}
      <Suspense fallback={<Box sx={{ color: 'text.secondary', mt: 2 }}>{t('tile.coming')}</Box>}>
        <View tile={tile} picture={own} menu={isMap ? menu : null} {...given} />
      </Suspense>
    </Paper>
  )
}

/** The records behind a tile, and its numbers and its picture to take along. */
function TileMenu({
  tile,
  records,
  picture,
}: {
  tile: AnsweredTile
  records: string | null
  picture: () => Promise<Blob>
}) {
  const [failed, setFailed] = useState(false)
  const [at, setAt] = useState<HTMLElement | null>(null)
  const rows = rowsOf(tile)
  if (tile.kind === 'broken') return null
  const name = tile.title.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 60) || 'tile'
  const draw = async () => {
    setAt(null)
    setFailed(false)
    try {
      await sharePicture(await picture(), `${name}.png`)
    } catch {
      setFailed(true)
    }
  }
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', m: -1 }} {...{ [NOT_IN_PICTURE]: true }}>
      {failed && (
        <Box role="alert" sx={{ fontSize: '0.82rem', color: paint.buoyDark }}>
          {t('tile.picture.failed')}
        </Box>
      )}
      <IconButton
        size="small"
        aria-label={t('tile.menu', { tile: tile.title })}
        aria-haspopup="menu"
        onClick={(e) => setAt(e.currentTarget)}>
        <MoreHoriz fontSize="small" />
      </IconButton>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)}>
        {records !== null && (
          <MenuItem component="a" href={records}>
            {t('tile.records')}
          </MenuItem>
        )}
        {rows !== null && (
          <MenuItem
            component="a"
            download={`${name}.csv`}
            href={`data:text/csv;charset=utf-8,${encodeURIComponent(csvOf(rows))}`}
            onClick={() => setAt(null)}>
            {t('tile.csv')}
          </MenuItem>
        )}
        <MenuItem onClick={() => void draw()}>{t('tile.picture')}</MenuItem>
      </Menu>
    </Box>
  )
}
