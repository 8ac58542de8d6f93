import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { paint } from '../../../shared/paint'
import { decimal, t } from '../../../shared/texts'
import type { Field } from '../../../shared/types'
import { togetherOf } from '../../queries/publish'

const [WIDTH, HEIGHT] = [96, 72]

/** Whether two numbers of the same records go together: some pairs drawn, and a sentence. */
export function Together({ layer, a, b }: { layer: number; a: Field | undefined; b: Field | undefined }) {
  const found = useQuery({ ...togetherOf(layer, a?.key ?? '', b?.key ?? ''), enabled: Boolean(a && b) })
  if (!a || !b || !found.data) return null
  const { dots, pairs, rho, word } = found.data
  const along = (of: number[]) => {
    const [least, most] = [Math.min(...of), Math.max(...of)]
    return (v: number) => (most > least ? (v - least) / (most - least) : 0.5)
  }
  const x = along(dots.map((d) => d[0]))
  const y = along(dots.map((d) => d[1]))
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
      {dots.length > 0 && (
        <svg
          width={WIDTH}
          height={HEIGHT}
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          aria-hidden
          style={{
            flex: 'none',
            border: `1px solid ${paint.line}`,
            borderRadius: 4,
            background: paint.white,
          }}>
          {dots.map(([p, q], i) => (
            <circle
              key={i}
              cx={5 + x(p) * (WIDTH - 10)}
              cy={HEIGHT - 5 - y(q) * (HEIGHT - 10)}
              r={1.8}
              fill={paint.tide}
              fillOpacity={0.55}
            />
          ))}
        </svg>
      )}
      <Typography variant="body2" color="text.secondary">
        {rho === null || word === null
          ? t('together.few', { n: pairs })
          : t(`together.${word as 'not' | 'weakly' | 'fairly' | 'strongly'}`, {
              a: a.label,
              b: b.label,
              way: rho < 0 ? 'down' : 'up',
              rho: decimal((Math.round(rho * 100) / 100).toFixed(2).replace('-', '−')),
              n: pairs,
            })}
      </Typography>
    </Box>
  )
}
