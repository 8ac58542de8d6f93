import { DataGrid, type GridColDef } from '@mui/x-data-grid'
import { deDE } from '@mui/x-data-grid/locales'
import { paint } from '../../shared/paint'
import { spokenLanguage } from '../../shared/texts'
import type { RecordRow } from '../../shared/types'

const GERMAN = deDE.components.MuiDataGrid.defaultProps.localeText

/** A page of a layer's records; those that are ticked stay so from page to page. */
export function RecordGrid({
  columns,
  records,
  total,
  loading,
  page,
  onPage,
  ticked,
  onTicked,
  selected,
  onPick,
}: {
  columns: GridColDef<RecordRow>[]
  records: RecordRow[]
  total: number
  loading: boolean
  /** From 0. */
  page: number
  onPage: (page: number) => void
  ticked: string[]
  onTicked: (ids: string[]) => void
  selected: string | undefined
  onPick: (record: RecordRow) => void
}) {
  return (
    <DataGrid
      density="compact"
      {...(spokenLanguage() === 'de' ? { localeText: GERMAN } : {})}
      rows={records}
      columns={columns}
      rowCount={total}
      loading={loading}
      paginationMode="server"
      paginationModel={{ page, pageSize: 100 }}
      pageSizeOptions={[100]}
      onPaginationModelChange={(m) => onPage(m.page)}
      checkboxSelection
      rowSelectionModel={{ type: 'include', ids: new Set(ticked) }}
      onRowSelectionModelChange={(m) =>
        onTicked(
          m.type === 'include'
            ? [...m.ids].map(String)
            : records.map((r) => r.id).filter((r) => !m.ids.has(r)),
        )
      }
      keepNonExistentRowsSelected
      disableColumnFilter
      disableColumnMenu
      disableRowSelectionOnClick
      onRowClick={({ row }) => onPick(row)}
      onCellKeyDown={({ row }, e) => e.key === 'Enter' && onPick(row)}
      getRowClassName={({ id }) => (id === selected ? 'picked' : '')}
      sx={{
        bgcolor: 'background.paper',
        fontVariantNumeric: 'tabular-nums',
        '& .picked': { bgcolor: paint.picked },
        '& .MuiDataGrid-row': { cursor: 'pointer' },
      }}
    />
  )
}
