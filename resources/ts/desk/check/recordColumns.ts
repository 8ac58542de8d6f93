import type { GridColDef } from '@mui/x-data-grid'
import { createElement } from 'react'
import { shownValue } from '../../shared/form/shownValue'
import { formatInstant, t } from '../../shared/texts'
import type { Field, Layer, RecordRow } from '../../shared/types'
import { FlagPills } from './Flags'

const flagsColumn = (): GridColDef<RecordRow> => ({
  field: 'flags',
  headerName: t('flag.column'),
  width: 160,
  sortable: false,
  renderCell: ({ row }) => createElement(FlagPills, { flags: row.flags ?? [] }),
})

/** The columns of the list of records: the fields of the design, and what is known of every record. */
export function columnsOf(layer: Layer, zone: string, flagged: boolean): GridColDef<RecordRow>[] {
  return [
    // What speaks against a record stands where it is seen without scrolling.
    ...(flagged ? [flagsColumn()] : []),
    ...(layer.visits_of === null
      ? []
      : [
          {
            field: 'visited',
            headerName: t('visits.visited'),
            width: 130,
            sortable: false,
            valueGetter: (_: unknown, row: RecordRow) => row.visited_name ?? '',
          } satisfies GridColDef<RecordRow>,
        ]),
    ...layer.design.fields
      .filter((f) => f.kind !== 'heading')
      .map((f): GridColDef<RecordRow> => ({
        field: f.key,
        headerName: f.label,
        width: f.kind === 'short_text' ? 130 : 118,
        sortable: false,
        align: isNumber(f) ? 'right' : 'left',
        headerAlign: isNumber(f) ? 'right' : 'left',
        valueGetter: (_, row) => shownValue(f, row.values[f.key], zone),
      })),
    {
      field: 'collected_at',
      headerName: t('record.collected'),
      width: 130,
      sortable: false,
      valueGetter: (_, row) => formatInstant(row.collected_at, zone),
    },
    { field: 'author', headerName: t('record.by'), width: 130, sortable: false },
    {
      field: 'accepted',
      headerName: t('accept.column'),
      width: 100,
      sortable: false,
      valueGetter: (_, row) => (row.accepted ? '✓' : t('accept.column.waits')),
    },
    ...(layer.visits_layer === null
      ? []
      : [
          {
            field: 'visits',
            headerName: t('visits.count'),
            width: 70,
            sortable: false,
            align: 'right',
            headerAlign: 'right',
            valueGetter: (_: unknown, row: RecordRow) => row.visits || '',
          } satisfies GridColDef<RecordRow>,
        ]),
    {
      field: 'photos',
      headerName: t('record.photos'),
      width: 80,
      sortable: false,
      valueGetter: (_, row) => row.photos.length || '',
    },
  ]
}

const isNumber = (f: Field) => f.kind === 'whole_number' || f.kind === 'decimal'
