import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { paint } from '../../../shared/paint'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Tile } from '../../../shared/types'
import { MeasureForm } from './MeasureForm'
import { changed } from './tileEdits'

const MOST = 8

/** The measures of a table, one column each. */
export function ColumnsForm({ tile, onChange }: { tile: Tile; onChange: (tile: Tile) => void }) {
  const columns = tile.columns ?? []
  const put = (next: typeof columns) =>
    onChange(
      changed(tile, {
        columns: next,
        sort: tile.sort !== undefined && tile.sort < next.length ? tile.sort : undefined,
      }),
    )
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      {columns.map((column, i) => (
        <Box
          component="fieldset"
          key={i}
          sx={{ border: `1px solid ${paint.line}`, borderRadius: 1, p: 3, m: 0, display: 'grid', gap: 3 }}>
          <legend>{t('columns.one', { n: i + 1 })}</legend>
          <TextInput
            label={t('columns.title')}
            size="small"
            value={column.title ?? ''}
            inputProps={{ maxLength: 60 }}
            onChange={(title) => put(columns.map((c, j) => (j === i ? { ...c, title } : c)))}
          />
          <MeasureForm
            layer={tile.layer ?? 0}
            measure={column.measure}
            unit={column.unit}
            decimals={column.decimals}
            onChange={({ measure, unit, decimals }) =>
              put(
                columns.map((c, j) =>
                  j === i
                    ? {
                        measure,
                        ...(c.title ? { title: c.title } : {}),
                        ...(unit ? { unit } : {}),
                        ...(decimals === undefined ? {} : { decimals }),
                      }
                    : c,
                ),
              )
            }
          />
          {columns.length > 1 && (
            <IconButton
              aria-label={t('columns.remove', { n: i + 1 })}
              onClick={() => put(columns.filter((_, j) => j !== i))}
              sx={{ justifySelf: 'end' }}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          )}
        </Box>
      ))}
      {columns.length < MOST && (
        <Button variant="outlined" onClick={() => put([...columns, { measure: { of: 'count' } }])}>
          {t('columns.add')}
        </Button>
      )}
      <Select
        label={t('columns.sort')}
        value={tile.sort === undefined ? '' : `${tile.sort}${tile.down ? 'd' : 'u'}`}
        onChange={(v) =>
          onChange(
            changed(
              tile,
              v === ''
                ? { sort: undefined, down: undefined }
                : { sort: parseInt(v), down: v.endsWith('d') || undefined },
            ),
          )
        }>
        <option value="">{t('columns.sort.list')}</option>
        {columns.map((c, i) => [
          <option key={`${i}d`} value={`${i}d`}>
            {t('columns.sort.down', { column: c.title || t('columns.one', { n: i + 1 }) })}
          </option>,
          <option key={`${i}u`} value={`${i}u`}>
            {t('columns.sort.up', { column: c.title || t('columns.one', { n: i + 1 }) })}
          </option>,
        ])}
      </Select>
    </Box>
  )
}
