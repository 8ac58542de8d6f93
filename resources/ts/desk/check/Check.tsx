import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import Button from '@mui/material/Button'
import Snackbar from '@mui/material/Snackbar'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { DataGrid, type GridColDef } from '@mui/x-data-grid'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { api } from '../../shared/api'
import { LazyMap } from '../../shared/map/LazyMap'
import type { MapLayer } from '../../shared/map/MapView'
import { Labelled } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Empty, Sheet } from '../../shared/parts/Sheet'
import { shownValue } from '../../shared/form/show'
import { formatInstant, t } from '../../shared/texts'
import type { Field, Layer, LayerLine, RecordRow } from '../../shared/types'
import { BACKDROPS } from '../places'
import { useProgramme } from '../ProgrammePage'
import { FillDialog, type Fill } from './FillDialog'
import { RecordEditor, type Spot } from './RecordEditor'
import { RecordPanel } from './RecordPanel'

type Page = { total: number; page_size: number; records: RecordRow[] }

/** What has come back, newest first, with its place and photos. */
export function Check() {
  const programme = useProgramme()
  const [search] = useSearchParams()
  const [chosen, setChosen] = useState<number | null>(Number(search.get('layer')) || null)
  const [page, setPage] = useState(0)
  const [selected, setSelected] = useState<RecordRow | null>(null)
  const [editing, setEditing] = useState<'new' | 'change' | null>(search.get('add') ? 'new' : null)
  const [place, setPlace] = useState<Spot | null>(null)
  const [centre, setCentre] = useState<Spot | null>(null)
  const [gone, setGone] = useState<RecordRow | null>(null)
  const [filling, setFilling] = useState(false)
  const [filled, setFilled] = useState<Fill | null>(null)
  const [failed, setFailed] = useState<unknown>(null)
  const client = useQueryClient()
  const layers = useQuery({ queryKey: ['layers', programme.id], queryFn: () => api<LayerLine[]>('GET', `/programmes/${programme.id}/layers`) })
  const id = chosen ?? layers.data?.[0]?.id
  const layer = useQuery({ queryKey: ['layer', id], queryFn: () => api<Layer>('GET', `/layers/${id}`), enabled: id !== undefined })
  const records = useQuery({ queryKey: ['records', id, page], queryFn: () => api<Page>('GET', `/layers/${id}/records?page=${page}`), enabled: id !== undefined, refetchInterval: 10_000, placeholderData: (old) => old })
  const columns = useMemo(() => (layer.data ? columnsOf(layer.data, programme.time_zone) : []), [layer.data, programme.time_zone])
  const shownAt = editing ? place : selected
  const spot: MapLayer[] = useMemo(() => (shownAt ? [{
    source: 'records', layers: [{ id: 'spot', type: 'circle', source: 'records', paint: { 'circle-radius': 6, 'circle-color': '#0F5C53', 'circle-stroke-color': '#fff', 'circle-stroke-width': 2 } }],
    data: { type: 'FeatureCollection', features: [{ type: 'Feature', properties: { id: 'spot' }, geometry: { type: 'Point', coordinates: [shownAt.lon, shownAt.lat] } }] },
  }] : []), [shownAt])
  const around = 0.012
  const middle = editing ? (centre ?? selected) : selected
  const extent = middle ? ([middle.lon - around, middle.lat - around, middle.lon + around, middle.lat + around] as const) : programme.area

  const again = async () => {
    await client.invalidateQueries({ queryKey: ['records', id] })
    await client.invalidateQueries({ queryKey: ['layers', programme.id] })
  }
  const done = (record: RecordRow) => {
    setEditing(null)
    setSelected(record)
    void again()
  }
  const pick = (record: RecordRow) => {
    setEditing(null)
    setSelected(record)
  }
  const remove = async () => {
    if (!selected || id === undefined) return
    try {
      await api('DELETE', `/layers/${id}/records/${selected.id}`)
      setGone(selected)
      setSelected(null)
      await again()
    } catch (e) {
      setFailed(e)
    }
  }
  const undoFill = async () => {
    if (!filled) return
    setFilled(await api<Fill>('DELETE', `/layers/${id}/fills/${filled.id}`))
    await again()
  }
  const bringBack = async () => {
    if (!gone) return
    const record = await api<RecordRow>('POST', `/layers/${id}/records/${gone.id}/restore`, {})
    setGone(null)
    done(record)
  }

  if (layers.data?.length === 0) return <Box sx={{ p: 5 }}><Empty title={t('check.empty')}>{t('check.empty.text')}</Empty></Box>
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: 'minmax(0,1fr) 360px' }, flex: 1, minHeight: 0 }}>
      <Box sx={{ display: 'flex', flexDirection: 'column', gap: 3, minHeight: 420 }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'end', gap: 3, flexWrap: 'wrap' }}>
          <Box>
            <Typography variant="h1">{t('check.title')}</Typography>
            <Typography color="text.secondary">{t('check.count', { n: records.data?.total ?? 0 })}</Typography>
          </Box>
          <Box sx={{ display: 'flex', gap: 3, alignItems: 'end' }}>
          <Labelled label={t('check.layer')}>
            {({ id: inputId }) => (
              <NativeSelect id={inputId} input={<OutlinedInput />} value={id ?? ''} onChange={(e) => { setChosen(Number(e.target.value)); setPage(0); setSelected(null) }}>
                {layers.data?.map((l) => <option key={l.id} value={l.id}>{l.title}</option>)}
              </NativeSelect>
            )}
          </Labelled>
          {layer.data?.rights.design && <Button variant="outlined" onClick={() => setFilling(true)}>{t('fill.open')}</Button>}
          {layer.data?.rights.add && <Button onClick={() => { setEditing('new'); setSelected(null); setPlace(null); setCentre(null) }}>{t('check.add')}</Button>}
          </Box>
        </Box>
        <Problems error={failed ?? records.error ?? layer.error} />
        <DataGrid density="compact" rows={records.data?.records ?? []} columns={columns} rowCount={records.data?.total ?? 0} loading={records.isPending}
          paginationMode="server" paginationModel={{ page, pageSize: 100 }} pageSizeOptions={[100]} onPaginationModelChange={(m) => setPage(m.page)}
          disableColumnFilter disableColumnMenu disableRowSelectionOnClick onRowClick={({ row }) => pick(row as RecordRow)} onCellKeyDown={({ row }, e) => e.key === 'Enter' && pick(row as RecordRow)}
          getRowClassName={({ id: rowId }) => (rowId === selected?.id ? 'picked' : '')}
          sx={{ bgcolor: 'background.paper', fontVariantNumeric: 'tabular-nums', '& .picked': { bgcolor: '#FFF6E9' }, '& .MuiDataGrid-row': { cursor: 'pointer' } }} />
      </Box>
      <Sheet sx={{ p: 0, overflow: 'hidden', alignSelf: 'stretch', display: 'flex', flexDirection: 'column' }}>
        <Box sx={{ height: 260, flex: 'none' }}>
          <LazyMap label={t('check.where')} backdrops={BACKDROPS} extent={[...extent]} layers={spot} {...(editing ? { onTap: setPlace } : {})} />
        </Box>
        <Box sx={editing ? { flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' } : { p: 4, overflow: 'auto' }}>
          {editing && layer.data ? (
            <RecordEditor key={selected?.id ?? 'new'} layer={layer.data} zone={programme.time_zone} record={editing === 'change' ? selected : null} spot={place} onSpot={(at, typed) => { setPlace(at); if (typed) setCentre(at) }} onDone={done} onCancel={() => setEditing(null)} />
          ) : selected && layer.data ? (
            <RecordPanel key={selected.id} record={selected} layer={layer.data} zone={programme.time_zone} onRestored={done} onDelete={() => void remove()}
              onEdit={() => { setPlace({ lon: selected.lon, lat: selected.lat }); setCentre(null); setEditing('change') }} />
          ) : <Typography color="text.secondary">{t('check.pick')}</Typography>}
        </Box>
      </Sheet>
      {filling && layer.data && <FillDialog layer={layer.data} onClose={() => setFilling(false)} onDone={(fill) => { setFilling(false); setFilled(fill); void again() }} />}
      <Snackbar open={filled !== null} onClose={(_, why) => { if (why === 'timeout') setFilled(null) }} autoHideDuration={30_000}
        message={filled ? t(filled.state === 'undone' ? 'fill.undone' : 'fill.done', { n: filled.changed, skipped: filled.skipped, kept: filled.kept }) : ''}
        action={filled?.state === 'done' && filled.changed > 0 ? <Button size="small" color="inherit" variant="outlined" onClick={() => void undoFill()}>{t('undo')}</Button> : undefined} />
      <Snackbar open={gone !== null} autoHideDuration={12_000} onClose={(_, why) => { if (why === 'timeout') setGone(null) }} message={t('check.deleted', { name: gone?.name ?? '' })} action={<Button size="small" color="inherit" variant="outlined" onClick={() => void bringBack()}>{t('undo')}</Button>} />
    </Box>
  )
}

function columnsOf(layer: Layer, zone: string): GridColDef<RecordRow>[] {
  return [
    ...layer.design.fields.filter((f) => f.kind !== 'heading').map((f): GridColDef<RecordRow> => ({
      field: f.key, headerName: f.label, width: f.kind === 'short_text' ? 130 : 118, sortable: false,
      align: isNumber(f) ? 'right' : 'left', headerAlign: isNumber(f) ? 'right' : 'left',
      valueGetter: (_, row) => shownValue(f, row.values[f.key], zone),
    })),
    { field: 'collected_at', headerName: t('record.collected'), width: 130, sortable: false, valueGetter: (_, row) => formatInstant(row.collected_at, zone) },
    { field: 'author', headerName: t('record.by'), width: 130, sortable: false },
    { field: 'photos', headerName: t('record.photos'), width: 80, sortable: false, valueGetter: (_, row) => row.photos.length || '' },
  ]
}

const isNumber = (f: Field) => f.kind === 'whole_number' || f.kind === 'decimal'
