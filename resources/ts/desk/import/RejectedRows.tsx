import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { paint } from '../../shared/paint'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Import, WaitingRow } from './import'
import { RejectedCell } from './RejectedCell'
import type { Mend, Retry } from './useRejectedRows'

/** As many as the server gives at once. */
const PAGE = 100
/** A place whose name is so like is most likely the one that was meant. */
const LIKELY = 0.7

/** Rows that did not land, each with why; mended cell by cell and tried again. */
export function RejectedRows({
  found,
  rows,
  open,
  page,
  onOpen,
  onPage,
  onMend,
  onRetry,
}: {
  found: Import
  rows: WaitingRow[]
  /** Number of the row whose place is looked at. */ open: number | null
  page: number
  onOpen: (row: number) => void
  onPage: (page: number) => void
  onMend: Mend
  onRetry: Retry
}) {
  const names = found.reading?.columns.map((c) => c.name) ?? []
  const isPhotos = found.source?.kind === 'photos'
  return (
    <Sheet
      title={t('bring.waiting')}
      action={
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <Button
            size="small"
            variant="outlined"
            component="a"
            href={`/api/v1/imports/${found.id}/waiting.csv`}>
            {t('bring.csv')}
          </Button>
          {rows.some((r) => r.place?.candidates?.length) && (
            <Button size="small" variant="outlined" onClick={() => onRetry(null, LIKELY)}>
              {t('bring.takebest')}
            </Button>
          )}
          <Button size="small" onClick={() => onRetry(null)}>
            {t('bring.retry')}
          </Button>
        </Box>
      }>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {t('bring.waiting.lead')}
      </Typography>
      <Box sx={{ overflowX: 'auto' }}>
        <Box
          component="table"
          aria-label={t('bring.waiting')}
          sx={{
            borderCollapse: 'collapse',
            fontSize: '0.9rem',
            minWidth: '100%',
            '& th, & td': {
              textAlign: 'left',
              p: 1,
              borderBottom: '1px solid',
              borderColor: 'divider',
              verticalAlign: 'top',
            },
          }}>
          <thead>
            <tr>
              <th scope="col">{t('bring.row')}</th>
              <th scope="col">{t('bring.why')}</th>
              {isPhotos && <th scope="col">{t('record.photos')}</th>}
              {names.map((n) => (
                <th key={n} scope="col">
                  {n}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <Box
                component="tr"
                key={r.row}
                onFocus={() => onOpen(r.row)}
                onClick={() => onOpen(r.row)}
                sx={{ bgcolor: r.row === open ? paint.picked : undefined }}>
                <td>
                  <Button
                    size="small"
                    variant="text"
                    aria-pressed={r.row === open}
                    onClick={() => onOpen(r.row)}>
                    {r.row}
                  </Button>
                </td>
                <Box
                  component="td"
                  sx={{ minWidth: 200, maxWidth: 300, whiteSpace: 'normal', color: paint.buoyDark }}>
                  {r.place?.chosen
                    ? t('bring.chosen')
                    : r.problems.map((p) => <div key={p.code + p.field}>{p.message}</div>)}
                </Box>
                {isPhotos && (
                  <td>
                    <img
                      src={`/api/v1/imports/${found.id}/photos/${r.row}`}
                      alt={r.cells[0] ?? ''}
                      width={96}
                      style={{ borderRadius: 4, display: 'block' }}
                    />
                  </td>
                )}
                {names.map((n, i) => (
                  <td key={n}>
                    <RejectedCell
                      row={r.row}
                      column={n}
                      value={r.cells[i] ?? ''}
                      bad={r.problems.some(
                        (p) => p.field !== null && p.field === found.settings?.columns[i]?.key,
                      )}
                      onKeep={(text) => onMend(r, { [i]: text }, null)}
                    />
                  </td>
                ))}
              </Box>
            ))}
          </tbody>
        </Box>
      </Box>
      {(page > 0 || rows.length === PAGE) && (
        <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
          <Button size="small" variant="outlined" disabled={page === 0} onClick={() => onPage(page - 1)}>
            {t('bring.before')}
          </Button>
          <Button
            size="small"
            variant="outlined"
            disabled={rows.length < PAGE}
            onClick={() => onPage(page + 1)}>
            {t('bring.next')}
          </Button>
        </Box>
      )}
    </Sheet>
  )
}
