import Box from '@mui/material/Box'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'
import type { Design } from '../../shared/types'
import { ColumnHead } from './ColumnHead'
import type { Found, Review, ReviewRow, Settings } from './import'

const SHOWN = 14

/** The first rows as they stand in the file, each column with what it was taken for, doubts marked in place. */
export function SampleTable({
  columns,
  settings,
  review,
  into,
  busy,
  onColumn,
}: {
  columns: Found[]
  settings: Settings
  review: Review | null
  /** Design of the layer that rows go into; null where they make one. */
  into: Design | null
  busy: boolean
  onColumn: (index: number, part: Partial<Settings['columns'][number]>) => void
}) {
  return (
    <Box
      sx={{
        overflowX: 'auto',
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: 1.5,
        opacity: busy ? 0.75 : 1,
      }}>
      <Box
        component="table"
        aria-label={t('bring.table')}
        sx={{
          borderCollapse: 'collapse',
          fontSize: '0.9rem',
          fontVariantNumeric: 'tabular-nums',
          minWidth: '100%',
          '& th, & td': {
            textAlign: 'left',
            px: 2,
            py: 1.25,
            borderBottom: '1px solid',
            borderRight: '1px solid',
            borderColor: 'divider',
            verticalAlign: 'top',
            whiteSpace: 'nowrap',
            maxWidth: 240,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          },
          '& th': { bgcolor: paint.band, fontWeight: 400 },
        }}>
        <thead>
          <tr>
            {columns.map((c, i) => (
              <ColumnHead
                key={c.name}
                found={c}
                index={i}
                settings={settings}
                unfit={review?.unfit[i]?.count ?? 0}
                undecided={review?.undecided.includes(i) ?? false}
                into={into}
                onChange={(part) => onColumn(i, part)}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {(review?.rows ?? []).slice(0, SHOWN).map((row) => (
            <tr key={row.row}>
              {columns.map((c, i) => {
                const bad = wrongWith(row, i, settings)
                return (
                  <Box
                    component="td"
                    key={c.name}
                    title={bad}
                    sx={{
                      ...(bad ? { bgcolor: paint.buoyWash, color: paint.buoyDark, fontWeight: 700 } : {}),
                      ...(isLeft(i, settings) ? { color: 'text.disabled' } : {}),
                    }}>
                    {row.cells[i]}
                    {bad && <span className="visually-hidden"> ({bad})</span>}
                  </Box>
                )
              })}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  )
}

/** What is wrong with a cell, where something is. */
function wrongWith(row: ReviewRow, i: number, { location }: Settings): string | undefined {
  const isPlace = location.columns.includes(i) && row.place === null && location.way !== 'none'
  return row.bad[i] ?? (isPlace ? row.problems.find((p) => p.field === 'place')?.message : undefined)
}

/** Whether a column stays in the file. */
const isLeft = (i: number, { columns, location }: Settings) =>
  !columns[i]?.take && !location.columns.includes(i) && !columns.some((c) => c.take && c.with === i)
