import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { paint } from '../../paint'
import { formatDate, t } from '../../texts'
import { HEAD_FONT } from '../../theme'
import { said, saidOr } from '../numbers'
import { Foot, type TileProps } from './shared'

/** One large number, with what it was before and a small line. */
export function NumberTile({ tile }: TileProps<'number'>) {
  const { value, n, missing, least, earlier, span, line } = tile.answer
  const change =
    typeof value === 'number' && typeof earlier?.value === 'number' ? value - earlier.value : null
  return (
    <>
      <Box
        data-testid={`number-${tile.id}`}
        sx={{
          fontFamily: HEAD_FONT,
          fontWeight: 760,
          fontSize: value === null ? '1.6rem' : 'clamp(1.8rem, 4.5vh + 1rem, 3.1rem)',
          lineHeight: 1.15,
          mt: 0.5,
          fontVariantNumeric: 'tabular-nums',
          overflowWrap: 'anywhere',
        }}>
        {saidOr(value, tile.answer, least)}
      </Box>
      {earlier && span && (
        <Typography variant="body2" component="div">
          {change === null ? (
            t(least || earlier.least ? 'number.before.held' : 'number.before.none')
          ) : (
            <>
              <b style={{ color: change < 0 ? paint.brick : paint.kelp }}>
                {change === 0
                  ? t('number.same')
                  : t(change > 0 ? 'number.more' : 'number.fewer', {
                      n: said(Math.abs(change), tile.answer),
                    })}
              </b>{' '}
              {t(`number.than.${earlier.against}`)}
            </>
          )}
          <Box component="span" sx={{ color: 'text.secondary', display: 'block', fontSize: '0.82rem' }}>
            {formatDate(span[0])} – {formatDate(span[1])}
          </Box>
        </Typography>
      )}
      {line && line.length > 1 && <SmallLine points={line.map(([, v]) => v)} />}
      <Foot n={least ? null : n} missing={missing} />
    </>
  )
}

/** The shape of a number over time, without scales. */
function SmallLine({ points }: { points: (number | null)[] }) {
  const known = points.filter((p) => p !== null)
  const most = Math.max(0, ...known)
  const least = Math.min(0, ...known)
  const at = (p: number, i: number) =>
    `${((i / Math.max(1, points.length - 1)) * 200).toFixed(1)},${(38 - ((p - least) / (most - least || 1)) * 36).toFixed(1)}`
  return (
    <Box
      component="svg"
      aria-hidden
      viewBox="0 0 200 40"
      preserveAspectRatio="none"
      sx={{ width: '100%', flex: '1 1 24px', minHeight: 22, maxHeight: 60, mt: 1.5, display: 'block' }}>
      <polyline
        points={points.flatMap((p, i) => (p === null ? [] : [at(p, i)])).join(' ')}
        fill="none"
        stroke={paint.kelp}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
    </Box>
  )
}
