import Close from '@mui/icons-material/Close'
import ExpandLess from '@mui/icons-material/ExpandLess'
import ExpandMore from '@mui/icons-material/ExpandMore'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { paint } from '../paint'
import { Problems } from '../parts/Problems'
import { Segments } from '../parts/Segments'
import { t } from '../texts'
import type { Box as Extent, MapTable, MapViewLayer } from '../types'
import { first, useRows, type Row } from './beside'
import { ClassBars, ValueBars } from './Bars'
import { RowsTable } from './RowsTable'
import { PANEL_HEIGHT } from './panelHeight'

export type PanelProps = {
  /** The map's address in the API. */
  base: string
  /** A search of the map that is asked. */
  search: string | null
  table: MapTable
  part: MapViewLayer
  /** What the map shows. */
  extent: Extent | null
  /** The record that is picked on the map, where it is one of this table. */
  selected: string | null
  /** The class that the map is cut to; '' of none. */
  only: string | null
  /** Whether it begins folded, so that there is a map to see. */
  folded: boolean
  onOnly: (code: string | null) => void
  onPick: (row: Row) => void
}

/** The table or the chart beside a map, tied to it both ways: pick here, see there. */
export default function MapTablePanel(props: PanelProps) {
  const { base, search, table, part, extent, selected, only, onOnly, onPick } = props
  const [open, setOpen] = useState(!props.folded)
  const [shown, setShown] = useState<'table' | 'chart'>(table.chart ? 'chart' : 'table')
  const [all, setAll] = useState(table.all)
  const [order, setOrder] = useState(() => first(table))
  const asked = { ...order, extent: all ? null : extent, class: only }
  const rows = useRows(base, part.version, asked, selected, search)
  const data = rows.data
  // Cells have no rows of their own to be counted by.
  const charted =
    data !== undefined && part.by !== null && (Object.keys(data.counts).length > 0 || data.found === 0)
  const line = only === null ? null : part.legend.find((l) => (l.code ?? '') === only)
  return (
    <Box
      component="section"
      aria-label={t('table.title', { layer: part.title })}
      sx={{
        flex: 'none',
        height: open ? PANEL_HEIGHT : 'auto',
        display: 'flex',
        flexDirection: 'column',
        bgcolor: 'background.paper',
        borderTop: `1px solid ${paint.line2}`,
        minHeight: 0,
      }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          flexWrap: 'wrap',
          gap: 2,
          px: 3,
          py: 1.5,
          bgcolor: paint.page,
          '& .MuiToggleButton-root': { py: 0.5, px: 2 },
        }}>
        <Typography component="h2" sx={{ fontWeight: 650, flex: 1, minWidth: 120 }} role="status">
          {data ? t(all ? 'table.found' : 'table.in_view', { n: data.found, layer: part.title }) : part.title}
        </Typography>
        {line && (
          <Button size="small" variant="outlined" endIcon={<Close />} onClick={() => onOnly(null)}>
            {t('table.only', { label: line.label ?? t('legend.other') })}
            <span className="visually-hidden"> {t('table.only.off')}</span>
          </Button>
        )}
        {open && (
          <Box
            sx={{
              display: 'flex',
              flexWrap: 'wrap',
              gap: 2,
              order: { xs: 1, sm: 0 },
              width: { xs: '100%', sm: 'auto' },
            }}>
            <Segments
              label={t('table.which')}
              value={all ? 'all' : 'view'}
              onChange={(v) => setAll(v === 'all')}
              options={[
                { value: 'view', label: t('table.view') },
                { value: 'all', label: t('table.all') },
              ]}
            />
            {part.by !== null && (
              <Segments
                label={t('table.as')}
                value={shown}
                onChange={setShown}
                options={[
                  { value: 'table', label: t('table.table') },
                  { value: 'chart', label: t('table.chart') },
                ]}
              />
            )}
          </Box>
        )}
        <IconButton
          // On a narrow screen beside the title, with the choices below it.
          sx={{ order: { xs: 0, sm: 1 }, my: -0.5 }}
          aria-expanded={open}
          aria-label={t(open ? 'table.fold' : 'table.unfold')}
          onClick={() => setOpen(!open)}>
          {open ? <ExpandMore /> : <ExpandLess />}
        </IconButton>
      </Box>
      {open && (
        <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
          {rows.error && (
            <Box sx={{ p: 3 }}>
              <Problems error={rows.error} />
            </Box>
          )}
          {data && data.found === 0 && (
            <Typography color="text.secondary" sx={{ p: 4 }}>
              {t(all ? 'table.nothing' : 'table.nothing.view')}
            </Typography>
          )}
          {data && shown === 'chart' && charted ? (
            data.rows.some((r) => r.value !== null) ? (
              <ValueBars rows={data.rows} legend={part.legend} selected={selected} onPick={onPick} />
            ) : (
              <ClassBars legend={part.legend} counts={data.counts} only={only} onOnly={onOnly} />
            )
          ) : (
            data &&
            data.found > 0 && (
              <RowsTable
                data={data}
                pinned={rows.picked}
                legend={part.legend}
                asked={asked}
                selected={selected}
                onSort={(sort, down) => setOrder({ ...order, sort, down, pages: 1 })}
                onPick={onPick}
              />
            )
          )}
          {data && data.rows.length < data.found && (shown === 'table' || data.rows[0]?.value !== null) && (
            <Button sx={{ m: 2 }} onClick={() => setOrder({ ...order, pages: order.pages + 1 })}>
              {t('table.more', { n: data.rows.length, of: data.found })}
            </Button>
          )}
        </Box>
      )}
    </Box>
  )
}
