import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { paint } from '../paint'
import { formatInstant, fromToday, t } from '../texts'
import type { Api } from '../types'

type View = Api['CardVisitsView']

const [WIDTH, HEIGHT, EDGE] = [260, 64, 6]

/** The visits to a record: how many, the last, a number of theirs over time, and each of them. */
export function CardVisits({ visits }: { visits: View }) {
  const last = visits.list[0]
  return (
    <Box component="section" aria-label={t('card.visits')} sx={{ my: 2 }}>
      <Typography sx={{ fontWeight: 650 }}>
        {t('card.visits.n', { n: visits.count })}
        {last && (
          <Typography component="span" color="text.secondary">
            {` · ${t('card.visits.last', { ago: fromToday(last.at) })}`}
          </Typography>
        )}
      </Typography>
      <OverTime visits={visits} />
      {visits.list.length > 0 && (
        <Box component="details" sx={{ '& summary': { cursor: 'pointer', minHeight: 32 } }}>
          <summary>{t('card.visits.show')}</summary>
          <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: '0.9rem' }}>
            {visits.list.map((v, i) => (
              <Box component="li" key={i} sx={{ display: 'flex', justifyContent: 'space-between', gap: 3 }}>
                <span>{formatInstant(v.at)}</span>
                {visits.label !== null && <b>{v.text ?? t('card.unknown')}</b>}
              </Box>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  )
}

/** A line through the visits that have the number; there must be two for a line. */
function OverTime({ visits }: { visits: View }) {
  const known = visits.list.filter((v) => v.value !== null).toReversed()
  if (visits.label === null || known.length < 2) return null
  const times = known.map((v) => Date.parse(v.at))
  const values = known.map((v) => v.value ?? 0)
  const [begin, end] = [Math.min(...times), Math.max(...times)]
  const [least, most] = [Math.min(...values), Math.max(...values)]
  const x = (time: number) => EDGE + ((time - begin) / (end - begin || 1)) * (WIDTH - 2 * EDGE)
  const y = (value: number) =>
    most === least ? HEIGHT / 2 : HEIGHT - EDGE - ((value - least) / (most - least)) * (HEIGHT - 2 * EDGE)
  const places = known.map((v, i) => [x(times[i] as number), y(v.value ?? 0)] as const)
  const texts = new Map(known.map((v) => [v.value, v.text]))
  return (
    <Box component="figure" sx={{ m: 0, my: 1 }}>
      <Typography component="figcaption" variant="body2" color="text.secondary">
        {t('card.visits.over', { field: visits.label })}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          width="100%"
          height={HEIGHT}
          preserveAspectRatio="none"
          aria-hidden
          style={{ borderBottom: `1px solid ${paint.line}`, minWidth: 0 }}>
          <polyline
            points={places.map((p) => p.join()).join(' ')}
            fill="none"
            stroke={paint.kelp}
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
          {places.map(([cx, cy], i) => (
            // A line of no length: with round ends it is a dot, also where the picture is stretched.
            <path
              key={i}
              d={`M${cx} ${cy}h0`}
              stroke={paint.kelp}
              strokeWidth={6}
              strokeLinecap="round"
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </svg>
        <Box
          aria-hidden
          sx={{
            display: 'flex',
            flexDirection: 'column',
            justifyContent: 'space-between',
            fontSize: '0.78rem',
            color: 'text.secondary',
            whiteSpace: 'nowrap',
          }}>
          <span>{texts.get(most)}</span>
          {most !== least && <span>{texts.get(least)}</span>}
        </Box>
      </Box>
    </Box>
  )
}
