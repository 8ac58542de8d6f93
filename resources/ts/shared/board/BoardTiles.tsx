import Box from '@mui/material/Box'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { BACKDROPS } from '../map/backdrop'
import { LazyMap } from '../map/LazyMap'
import { Legend } from '../parts/Legend'
import { PegMark } from '../parts/PegMark'
import { age, formatNumber, t } from '../texts'
import { HEAD_FONT } from '../theme'
import type { BoardAnswers, LegendLine } from '../types'

type TileOf<K> = Extract<BoardAnswers['tiles'][number], { kind: K }>
const ROW = 72

/** The tiles of a board, on twelve columns; one below the other on a phone. */
export function BoardTiles({ board }: { board: BoardAnswers }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0,1fr)', md: 'repeat(12, 1fr)' },
        gridAutoRows: { md: `${ROW}px` },
        gridAutoFlow: 'dense',
        gap: 3,
      }}>
      {board.tiles.map((tile) => (
        <Paper
          key={tile.id}
          variant="outlined"
          component="section"
          aria-label={tile.title}
          tabIndex={tile.kind === 'latest' || tile.kind === 'breakdown' ? 0 : undefined}
          sx={{
            gridColumn: { md: `span ${tile.width}` },
            gridRow: { md: `span ${tile.height}` },
            p: tile.kind === 'map' ? 0 : 3.5,
            overflow: tile.kind === 'map' ? 'hidden' : 'auto',
            position: 'relative',
            minHeight: tile.kind === 'map' ? 360 : undefined,
          }}>
          {tile.kind === 'map' ? (
            <MapTile tile={tile} area={board.area} />
          ) : (
            <>
              <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', gap: 2 }}>
                <Typography variant="h3" sx={{ fontFamily: 'inherit', fontSize: '0.93rem' }}>
                  {tile.title}
                </Typography>
                {tile.slice_name && !tile.slice_name.includes(tile.title) && (
                  <Typography variant="caption" color="text.secondary" noWrap>
                    {tile.slice_name}
                  </Typography>
                )}
              </Box>
              {tile.kind === 'count' && <CountTile tile={tile} />}
              {tile.kind === 'breakdown' && <BreakdownTile tile={tile} />}
              {tile.kind === 'latest' && <LatestTile tile={tile} />}
              {tile.kind === 'broken' && (
                <Typography sx={{ mt: 2, color: 'secondary.main' }}>
                  {t('board.broken')} {tile.answer.messages.join(' ')}
                </Typography>
              )}
            </>
          )}
        </Paper>
      ))}
    </Box>
  )
}

function CountTile({ tile }: { tile: TileOf<'count'> }) {
  return (
    <>
      <Box
        data-testid={`count-${tile.id}`}
        sx={{
          fontFamily: HEAD_FONT,
          fontWeight: 760,
          fontSize: '3rem',
          lineHeight: 1.15,
          mt: 1,
          fontVariantNumeric: 'tabular-nums',
        }}>
        {formatNumber(tile.answer.value)}
      </Box>
      <Typography variant="body2" color="text.secondary">
        {t('board.records', { n: tile.answer.value })}
      </Typography>
    </>
  )
}

function BreakdownTile({ tile }: { tile: TileOf<'breakdown'> }) {
  const { total, rows } = tile.answer
  const most = Math.max(1, ...rows.map((r) => r.count))
  return (
    <Box
      component="ul"
      sx={{
        listStyle: 'none',
        m: 0,
        mt: 2,
        p: 0,
        display: 'grid',
        gap: 2.25,
        gridTemplateColumns: 'minmax(0,1fr)',
      }}>
      {rows.map((row) => (
        <Box component="li" key={row.code ?? ''}>
          <Box
            sx={{
              display: 'flex',
              flexWrap: 'wrap',
              alignItems: 'center',
              columnGap: 2,
              fontSize: '0.92rem',
            }}>
            <PegMark {...row} size={17} />
            <Box sx={{ flex: '1 1 4rem', minWidth: 0, overflowWrap: 'anywhere' }}>
              {row.label ?? t('legend.other')}
            </Box>
            <Box sx={{ fontWeight: 650, fontVariantNumeric: 'tabular-nums', whiteSpace: 'nowrap' }}>
              {formatNumber(row.count)} · {total ? Math.round((100 * row.count) / total) : 0} %
            </Box>
          </Box>
          <Box aria-hidden sx={{ mt: 0.75, height: 9, bgcolor: '#F0E7D3', borderRadius: 0.5 }}>
            <Box
              sx={{
                height: '100%',
                width: `${(100 * row.count) / most}%`,
                bgcolor: row.colour,
                borderRadius: 0.5,
              }}
            />
          </Box>
        </Box>
      ))}
    </Box>
  )
}

function LatestTile({ tile }: { tile: TileOf<'latest'> }) {
  const { records, legend } = tile.answer
  const peg = (code: string | null): LegendLine | undefined => legend.find((l) => l.code === code)
  if (records.length === 0)
    return (
      <Typography color="text.secondary" sx={{ mt: 2 }}>
        {t('board.nothing')}
      </Typography>
    )
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 1, p: 0 }}>
      {records.map((r, i) => {
        const p = peg(r.class)
        return (
          <Box
            component="li"
            key={i}
            sx={{
              display: 'flex',
              alignItems: 'center',
              gap: 2.5,
              py: 0.9,
              borderBottom: '1px solid #EFE6D2',
              fontSize: '0.93rem',
            }}>
            {p && <PegMark {...p} size={18} />}
            <b>{r.name ?? r.detail ?? t('record.unnamed')}</b>
            <Box
              component="span"
              sx={{
                color: 'text.secondary',
                flex: 1,
                whiteSpace: 'nowrap',
                overflow: 'hidden',
                textOverflow: 'ellipsis',
              }}>
              {r.name === null ? '' : r.detail}
            </Box>
            <Box
              component="span"
              sx={{ color: 'text.secondary', fontVariantNumeric: 'tabular-nums', whiteSpace: 'nowrap' }}>
              {age(r.collected_at)}
            </Box>
          </Box>
        )
      })}
    </Box>
  )
}

function MapTile({ tile, area }: { tile: TileOf<'map'>; area: BoardAnswers['area'] }) {
  const { source, features, layers, legend } = tile.answer
  return (
    <LazyMap
      label={tile.title}
      backdrops={BACKDROPS}
      extent={area}
      layers={[{ source, data: features, layers }]}>
      <Paper
        variant="outlined"
        sx={{ position: 'absolute', left: 10, top: 10, px: 3, py: 1.25, maxWidth: 'calc(100% - 70px)' }}>
        <Typography variant="h3">{tile.title}</Typography>
      </Paper>
      <Paper
        variant="outlined"
        sx={{
          position: 'absolute',
          left: 10,
          bottom: 10,
          px: 3,
          py: 2,
          fontSize: '0.85rem',
          minWidth: 150,
          display: { xs: 'none', sm: 'block' },
        }}>
        <Legend lines={legend} single={tile.title} />
      </Paper>
    </LazyMap>
  )
}
