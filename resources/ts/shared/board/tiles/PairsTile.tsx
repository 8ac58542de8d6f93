import Box from '@mui/material/Box'
import { ScatterChart } from '@mui/x-charts/ScatterChart'
import { paint } from '../../paint'
import { t } from '../../texts'
import type { Api } from '../../types'
import { measureName } from '../measureName'
import { bare, said } from '../numbers'
import { usePicking } from '../picks'
import { groupName } from './BreakdownTile'
import { Foot, HeardTable, Nothing, type TileProps } from './shared'

/** Two measures of each group, as points. */
export function PairsTile({ tile }: TileProps<'pairs'>) {
  const a = tile.answer
  const { pick, mayPick } = usePicking()
  if (a.points.length === 0) return <Nothing />
  const axis = { tickLabelStyle: { fontSize: 12 } }
  return (
    <>
      <Box aria-hidden sx={{ flex: '1 1 140px', minHeight: 140, mt: 1 }}>
        <ScatterChart
          skipAnimation
          hideLegend
          margin={{ left: 0, right: 12, top: 8, bottom: 0 }}
          xAxis={[
            {
              ...axis,
              height: 48,
              label: axisName(a.across),
              valueFormatter: (v: number) => bare(v, { ...a.across, decimals: null }),
            },
          ]}
          yAxis={[
            {
              ...axis,
              width: 62,
              label: axisName(a.up),
              valueFormatter: (v: number) => bare(v, { ...a.up, decimals: null }),
            },
          ]}
          series={a.points.map((p, i) => ({
            id: i,
            label: groupName(p, a.step),
            data: [{ id: i, x: p.x, y: p.y }],
            color: p.colour ?? paint.kelp,
            markerSize: 6,
            valueFormatter: () => `${said(p.x, a.across)} / ${said(p.y, a.up)} · ${t('tile.n', { n: p.n })}`,
          }))}
          {...(mayPick
            ? {
                onItemClick: (_: unknown, at: { seriesId: string | number }) => {
                  const point = a.points[Number(at.seriesId)]
                  if (point) pick(tile.id ?? '', point.code ?? '')
                },
              }
            : {})}
        />
      </Box>
      <HeardTable
        caption={tile.title}
        heads={['', 'x', 'y', 'n']}
        rows={a.points.map((p) => [groupName(p, a.step), said(p.x, a.across), said(p.y, a.up), p.n])}
      />
      <Foot n={a.n} more={a.without > 0 ? ` · ${t('pairs.without', { n: a.without })}` : null} />
    </>
  )
}

/** What an axis measures, with its unit. */
const axisName = (of: { measure: Api['ToldMeasure']; unit: string | null }) =>
  of.unit ? `${measureName(of.measure)} (${of.unit})` : measureName(of.measure)
