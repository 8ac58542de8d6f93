import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { DataGrid, type GridColDef } from '@mui/x-data-grid'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { api } from '../shared/api'
import { LazyMap } from '../shared/map/LazyMap'
import type { MapLayer } from '../shared/map/MapView'
import { Labelled } from '../shared/parts/Labelled'
import { Pill } from '../shared/parts/Pill'
import { Problems } from '../shared/parts/Problems'
import { Empty, Sheet } from '../shared/parts/Sheet'
import { formatDate, formatInstant, t } from '../shared/texts'
import type { Layer, LayerLine, RecordRow } from '../shared/types'
import { BACKDROPS } from './places'
import { useProgramme } from './ProgrammePage'

type Page = { total: number; page_size: number; records: RecordRow[] }

/** What has come back, newest first, with its place and photos. */
export function Check() {
  const programme = useProgramme()
  const [chosen, setChosen] = useState<number | null>(null)
  const [page, setPage] = useState(0)
  const [selected, setSelected] = useState<RecordRow | null>(null)
  const layers = useQuery({ queryKey: ['layers', programme.id], queryFn: () => api<LayerLine[]>('GET', `/programmes/${programme.id}/layers`) })
  const id = chosen ?? layers.data?.[0]?.id
  const layer = useQuery({ queryKey: ['layer', id], queryFn: () => api<Layer>('GET', `/layers/${id}`), enabled: id !== undefined })
  const records = useQuery({ queryKey: ['records', id, page], queryFn: () => api<Page>('GET', `/layers/${id}/records?page=${page}`), enabled: id !== undefined, refetchInterval: 10_000, placeholderData: (old) => old })
  const columns = useMemo(() => (layer.data ? columnsOf(layer.data, programme.time_zone) : []), [layer.data, programme.time_zone])
  const spot: MapLayer[] = useMemo(() => (selected ? [{
    source: 'records', layers: [{ id: 'spot', type: 'circle', source: 'records', paint: { 'circle-radius': 6, 'circle-color': '#0F5C53', 'circle-stroke-color': '#fff', 'circle-stroke-width': 2 } }],
    data: { type: 'FeatureCollection', features: [{ type: 'Feature', properties: { id: selected.id }, geometry: { type: 'Point', coordinates: [selected.lon, selected.lat] } }] },
  }] : []), [selected])
  const around = 0.012
  const extent = selected ? ([selected.lon - around, selected.lat - around, selected.lon + around, selected.lat + around] as const) : programme.area

  if (layers.data?.length === 0) return <Box sx={{ p: 5 }}><Empty title={t('check.empty')}>{t('check.empty.text')}</Empty></Box>
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: 'minmax(0,1fr) 360px' }, flex: 1, minHeight: 0 }}>
      <Box sx={{ display: 'flex', flexDirection: 'column', gap: 3, minHeight: 420 }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'end', gap: 3, flexWrap: 'wrap' }}>
          <Box>
            <Typography variant="h1">{t('check.title')}</Typography>
            <Typography color="text.secondary">{t('check.count', { n: records.data?.total ?? 0 })}</Typography>
          </Box>
          <Labelled label={t('check.layer')}>
            {({ id: inputId }) => (
              <NativeSelect id={inputId} input={<OutlinedInput />} value={id ?? ''} onChange={(e) => { setChosen(Number(e.target.value)); setPage(0); setSelected(null) }}>
                {layers.data?.map((l) => <option key={l.id} value={l.id}>{l.title}</option>)}
              </NativeSelect>
            )}
          </Labelled>
        </Box>
        <Problems error={records.error ?? layer.error} />
        <DataGrid density="compact" rows={records.data?.records ?? []} columns={columns} rowCount={records.data?.total ?? 0} loading={records.isPending}
          paginationMode="server" paginationModel={{ page, pageSize: 100 }} pageSizeOptions={[100]} onPaginationModelChange={(m) => setPage(m.page)}
          disableColumnFilter disableColumnMenu disableRowSelectionOnClick onRowClick={({ row }) => setSelected(row as RecordRow)} onCellKeyDown={({ row }, e) => e.key === 'Enter' && setSelected(row as RecordRow)}
          getRowClassName={({ id: rowId }) => (rowId === selected?.id ? 'picked' : '')}
          sx={{ bgcolor: 'background.paper', fontVariantNumeric: 'tabular-nums', '& .picked': { bgcolor: '#FFF6E9' }, '& .MuiDataGrid-row': { cursor: 'pointer' } }} />
      </Box>
      <Sheet sx={{ p: 0, overflow: 'hidden', alignSelf: 'stretch', display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ height: 260, flex: 'none' }}>
          <LazyMap label={t('check.where')} backdrops={BACKDROPS} extent={[...extent]} layers={spot} />
        </Box>
        <Box sx={{ p: 4, overflow: 'auto' }}>
          {selected && layer.data ? <Details record={selected} layer={layer.data} zone={programme.time_zone} /> : <Typography color="text.secondary">{t('check.pick')}</Typography>}
        </Box>
      </Sheet>
    </Box>
  )
}

function columnsOf(layer: Layer, zone: string): GridColDef<RecordRow>[] {
  return [
    ...layer.design.fields.map((f): GridColDef<RecordRow> => ({
      field: f.key, headerName: f.label, width: f.kind === 'short_text' ? 130 : 118, sortable: false,
      align: f.kind === 'whole_number' ? 'right' : 'left', headerAlign: f.kind === 'whole_number' ? 'right' : 'left',
      valueGetter: (_, row) => shown(layer, row, f.key),
    })),
    { field: 'collected_at', headerName: t('record.collected'), width: 130, sortable: false, valueGetter: (_, row) => formatInstant(row.collected_at, zone) },
    { field: 'author', headerName: t('record.by'), width: 130, sortable: false },
    { field: 'photos', headerName: t('record.photos'), width: 80, sortable: false, valueGetter: (_, row) => row.photos.length || '' },
  ]
}

function shown(layer: Layer, row: RecordRow, key: string): string | number {
  const field = layer.design.fields.find((f) => f.key === key)
  const value = row.values[key]
  if (value === null || value === undefined) return ''
  if (field?.kind === 'one_choice') return field.choices?.find((c) => c.code === value)?.label ?? value
  return field?.kind === 'date' ? formatDate(String(value)) : value
}

function Details({ record, layer, zone }: { record: RecordRow; layer: Layer; zone: string }) {
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Typography variant="h2">{record.name ?? t('record.unnamed')}</Typography>
      {record.photos.map((p) => p.state === 'stored'
        ? <img key={p.id} src={`/api/v1/attachments/${p.id}/view`} alt={t('record.photo', { name: record.name ?? '' })} style={{ width: '100%', borderRadius: 6 }} />
        : <Box key={p.id}><Pill tone="soft">{t(p.state === 'on_way' ? 'record.photo.on_way' : 'record.photo.refused')}</Pill></Box>)}
      <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', gap: 1.5, columnGap: 4, m: 0, '& dt': { color: 'text.secondary' }, '& dd': { m: 0 } }}>
        {layer.design.fields.map((f) => <Box key={f.key} sx={{ display: 'contents' }}><dt>{f.label}</dt><dd>{shown(layer, record, f.key) || '–'}</dd></Box>)}
        <dt>{t('record.collected')}</dt><dd>{formatInstant(record.collected_at, zone)}</dd>
        <dt>{t('record.received')}</dt><dd>{formatInstant(record.received_at, zone)}</dd>
        <dt>{t('record.by')}</dt><dd>{record.author}</dd>
        <dt>{t('record.place')}</dt><dd>{record.lat.toFixed(5)}, {record.lon.toFixed(5)}{record.accuracy !== null && ` ± ${Math.round(record.accuracy)} m`}</dd>
      </Box>
    </Box>
  )
}
