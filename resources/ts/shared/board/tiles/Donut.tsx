import Box from '@mui/material/Box'
import { PieChart } from '@mui/x-charts/PieChart'
import { formatNumber } from '../../texts'

/** Parts of a whole around a ring; their names and numbers stand in the list below it. */
export function Donut({ slices }: { slices: { name: string; value: number; colour: string }[] }) {
  return (
    <Box aria-hidden sx={{ flex: '1 1 120px', minHeight: 110, maxHeight: 220, mt: 1 }}>
      <PieChart
        hideLegend
        skipAnimation
        margin={4}
        series={[
          {
            data: slices.map((s, i) => ({ id: i, value: s.value, label: s.name, color: s.colour })),
            innerRadius: '58%',
            outerRadius: '100%',
            paddingAngle: 1,
            valueFormatter: (v) => formatNumber(v.value),
          },
        ]}
      />
    </Box>
  )
}
