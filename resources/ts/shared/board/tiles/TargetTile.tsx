import Box from '@mui/material/Box'
import { paint } from '../../paint'
import { t } from '../../texts'
import { HEAD_FONT } from '../../theme'
import { said } from '../numbers'
import { Foot, type TileProps } from './shared'

/** How far a measure has come, with a stroke where it should be by today. */
export function TargetTile({ tile }: TileProps<'target'>) {
  const a = tile.answer
  const value = a.value ?? 0
  const end = Math.max(a.target, value, ...a.thresholds.map((h) => h.at))
  const at = (v: number) => `${Math.max(0, Math.min(100, (v / end) * 100))}%`
  const marks = a.thresholds.map((h) => ({
    at: h.at,
    share: parseFloat(at(h.at)),
    text: [h.text, said(h.at, a)].filter(Boolean).join(' · '),
  }))
  const rows = rowsOf(marks)
  const words = t('target.words', { value: said(a.value ?? 0, a), target: said(a.target, a) })
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mt: 0.5 }}>
        <Box
          data-testid={`target-${tile.id}`}
          sx={{
            fontFamily: HEAD_FONT,
            fontWeight: 760,
            fontSize: '1.9rem',
            fontVariantNumeric: 'tabular-nums',
          }}>
          {said(a.value ?? 0, a)}
        </Box>
        <Box sx={{ color: 'text.secondary' }}>{t('target.of', { target: said(a.target, a) })}</Box>
        <Box sx={{ ml: 'auto', fontWeight: 650, color: a.state === 'behind' ? paint.buoyDark : paint.kelp }}>
          {a.passed || (a.state === 'open' ? '' : t(`target.state.${a.state}`))}
        </Box>
      </Box>
      <Box
        role="meter"
        aria-label={tile.title}
        aria-valuemin={0}
        aria-valuemax={end}
        aria-valuenow={Math.max(0, value)}
        aria-valuetext={a.due === null ? words : `${words}, ${t('target.by', { value: said(a.due, a) })}`}
        sx={{
          position: 'relative',
          mt: a.due === null ? 1 : 6,
          mb: rows.length ? 1 + 5 * (Math.max(...rows) + 1) : 1,
        }}>
        {a.due !== null && <Stroke at={at(a.due)} text={t('target.by', { value: said(a.due, a) })} />}
        <Box
          sx={{ height: 22, borderRadius: 1, bgcolor: paint.sand, position: 'relative', overflow: 'hidden' }}>
          <Box
            sx={{
              position: 'absolute',
              inset: 0,
              width: at(value),
              bgcolor: a.state === 'behind' ? paint.buoy : paint.kelp,
            }}
          />
          {end > a.target && (
            <Box
              sx={{
                position: 'absolute',
                top: 0,
                bottom: 0,
                left: at(a.target),
                borderLeft: `2px solid ${paint.ink}`,
              }}
            />
          )}
        </Box>
        {marks.map((m, i) => (
          <Stroke key={m.at} below at={`${m.share}%`} row={rows[i] ?? 0} text={m.text} />
        ))}
      </Box>
      <Foot n={a.n} missing={a.missing} />
    </>
  )
}

/** Whether the words of a mark stand before it and not behind. */
const isBefore = (share: number) => share > 50

/** A letter of a mark takes so much of a narrow tile, in hundredths. */
const LETTER = 2.6

/** In which row below the bar the words of each mark stand, so that none lies over another's. */
function rowsOf(marks: { share: number; text: string }[]): number[] {
  const taken: [number, number][][] = []
  return marks.map(({ share, text }) => {
    const wide = text.length * LETTER
    const [from, to] = isBefore(share)
      ? [Math.max(0, share - wide), share]
      : [share, Math.min(100, share + wide)]
    let row = 0
    while (taken[row]?.some(([begin, end]) => from < end && begin < to)) row++
    taken[row] = [...(taken[row] ?? []), [from, to]]
    return row
  })
}

/** A mark across the bar with its words, which stay within the tile. */
function Stroke({
  at,
  text,
  below = false,
  row = 0,
}: {
  at: string
  text: string
  below?: boolean
  row?: number
}) {
  const right = isBefore(parseFloat(at))
  return (
    <>
      <Box
        sx={{
          position: 'absolute',
          left: at,
          top: below ? 0 : -8,
          bottom: below ? -8 : 0,
          borderLeft: `2px ${below ? 'dashed' : 'solid'} ${below ? paint.buoy : paint.ink}`,
          zIndex: 1,
        }}
      />
      <Box
        sx={{
          position: 'absolute',
          [below ? 'top' : 'bottom']: `calc(100% + ${7 + 20 * row}px)`,
          ...(right ? { right: `calc(100% - ${at})` } : { left: at }),
          fontSize: '0.82rem',
          color: below ? paint.buoyDark : 'text.primary',
          whiteSpace: 'nowrap',
          maxWidth: right ? at : `calc(100% - ${at})`,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
        }}>
        {text}
      </Box>
    </>
  )
}
