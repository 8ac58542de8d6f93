import Box from '@mui/material/Box'
import { BarChart } from '@mui/x-charts/BarChart'
import { paint } from '../../paint'
import { formatNumber, t } from '../../texts'
import { bare, said } from '../numbers'
import { usePicking } from '../picks'
import { Foot, HeardTable, Nothing, type TileProps } from './shared'

/** How a number lies, in bars from one round number to the next. */
export function SpreadTile({ tile }: TileProps<'spread'>) {
  const a = tile.answer
  const { pick, mayPick, picks } = usePicking()
  if (a.bars.length === 0) return <Nothing />
  const picked = picks.pick[tile.id ?? '']
  const names = a.bars.map(
    (b) => `${bare(b.from, { ...a, decimals: null })}–${bare(b.to, { ...a, decimals: null })}`,
  )
  return (
    <>
      <Box aria-hidden sx={{ flex: '1 1 130px', minHeight: 130, mt: 1 }}>
        <BarChart
          skipAnimation
          hideLegend
          margin={{ left: 0, right: 8, top: 8, bottom: 0 }}
          xAxis={[
            {
              data: names,
              scaleType: 'band',
              categoryGapRatio: 0.08,
              tickLabelStyle: { fontSize: 12 },
              colorMap: {
                type: 'ordinal',
                values: names,
                colors: a.bars.map((b) =>
                  picked === undefined || picked === b.pick ? paint.tide : paint.tidePale,
                ),
              },
            },
          ]}
          yAxis={[
            {
              width: 40,
              // There are no halves of records.
              tickMinStep: 1,
              tickLabelStyle: { fontSize: 12 },
              valueFormatter: (v: number) => formatNumber(v),
            },
          ]}
          series={[{ data: a.bars.map((b) => b.count), label: tile.title }]}
          {...(mayPick
            ? {
                onAxisClick: (_: unknown, at: { dataIndex: number } | null) => {
                  const bar = at === null ? undefined : a.bars[at.dataIndex]
                  if (bar) pick(tile.id ?? '', bar.pick)
                },
              }
            : {})}
          sx={{ cursor: mayPick ? 'pointer' : 'default' }}
        />
      </Box>
      <HeardTable
        caption={tile.title}
        heads={[t('spread.from'), t('spread.to'), t('spread.records')]}
        rows={a.bars.map((b) => [said(b.from, a), said(b.to, a), b.count])}
      />
      <Box sx={{ fontSize: '0.86rem', mt: 1 }}>
        {t('spread.middle', {
          mean: said(a.mean ?? null, { ...a, decimals: null }),
          median: said(a.median ?? null, { ...a, decimals: null }),
        })}
      </Box>
      <Foot n={a.n} missing={a.missing} />
    </>
  )
}
