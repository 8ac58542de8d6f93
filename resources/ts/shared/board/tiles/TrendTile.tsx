import { TREND_COLOURS, paint } from '../../paint'
import Box from '@mui/material/Box'
import { LineChart } from '@mui/x-charts/LineChart'
import { t } from '../../texts'
import { bare, saidOr, stepEnd, stepName } from '../numbers'
import { usePicking } from '../picks'
import { Foot, HeardTable, Nothing, type TileProps } from './shared'

/** A measure over time; a tap on a day, week or month and the other tiles follow. */
export function TrendTile({ tile }: TileProps<'trend'>) {
  const a = tile.answer
  const { pick, mayPick } = usePicking()
  if (a.steps.length === 0) return <Nothing />
  const name = (line: (typeof a.lines)[number]) => line.label ?? tile.title
  return (
    <>
      <Box aria-hidden sx={{ flex: '1 1 140px', minHeight: 140, mt: 1 }}>
        <LineChart
          skipAnimation
          hideLegend={!a.parted}
          margin={{ left: 0, right: 28, top: 8, bottom: 0 }}
          xAxis={[
            {
              data: a.steps,
              scaleType: 'point',
              // Below the axis there is room for little; a finger on the line hears all.
              valueFormatter: (start: string, { location }: { location: string }) =>
                location === 'tick' && a.step === 'week' ? stepName(start, 'day') : stepName(start, a.step),
              tickLabelInterval: 'auto',
              tickLabelStyle: { fontSize: 12 },
            },
          ]}
          yAxis={[
            {
              width: 44,
              ...(a.decimals === 0 ? { tickMinStep: 1 } : {}),
              tickLabelStyle: { fontSize: 12 },
              valueFormatter: (v: number) => bare(v, { ...a, decimals: null }),
            },
          ]}
          series={a.lines.map((line, i) => ({
            data: line.values,
            label: name(line),
            color:
              line.colour ??
              (line.code === null && a.parted ? paint.line2 : TREND_COLOURS[i % TREND_COLOURS.length]!),
            // What stands alone between steps that are not told would not be seen.
            showMark: a.steps.length < 3 || a.least !== null,
            curve: 'linear' as const,
            valueFormatter: (v: number | null) => saidOr(v, a, v === null && a.least),
          }))}
          {...(mayPick
            ? {
                onAxisClick: (_: unknown, at: { dataIndex: number } | null) => {
                  const start = at === null ? undefined : a.steps[at.dataIndex]
                  if (start) pick(tile.id ?? '', `${start}..${stepEnd(start, a.step)}`)
                },
              }
            : {})}
          sx={{ '& .MuiLineElement-root': { strokeWidth: 2.5 }, cursor: mayPick ? 'pointer' : 'default' }}
        />
      </Box>
      <HeardTable
        caption={tile.title}
        heads={['', ...a.lines.map(name)]}
        rows={a.steps.map((at, i) => [
          stepName(at, a.step),
          ...a.lines.map((l) => saidOr(l.values[i] ?? null, a, l.values[i] === null && a.least)),
        ])}
      />
      <Foot
        n={a.n}
        missing={a.missing}
        least={a.least}
        unparted={a.unparted}
        more={
          <>
            {a.coarser && ` · ${t(`trend.coarser.${a.step}`)}`}
            {a.outside > 0 && ` · ${t('trend.outside', { n: a.outside })}`}
          </>
        }
      />
    </>
  )
}
