import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { useEffect, useRef } from 'react'
import { paint } from '../paint'
import { PegMark } from '../parts/PegMark'
import { formatInstant, t } from '../texts'
import type { Api, LegendLine } from '../types'
import type { Asked, Row } from './beside'

type Props = {
  data: Api['TableRows']
  /** The picked one, where it would stand further down. */
  pinned: Row | null
  legend: LegendLine[]
  asked: Asked
  selected: string | null
  onSort: (sort: string, down: boolean) => void
  onPick: (row: Row) => void
}

/** Rows with their marks; a tap on a head sorts by it, on a row picks it on the map. */
export function RowsTable({ data, pinned, legend, asked, selected, onSort, onPick }: Props) {
  const chosen = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    chosen.current?.scrollIntoView({ block: 'nearest' })
  }, [selected, pinned])
  const rows = pinned ? [pinned, ...data.rows] : data.rows
  return (
    <Box
      component="table"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        fontVariantNumeric: 'tabular-nums',
        '& th, & td': { px: 3, py: 1, textAlign: 'left', borderBottom: `1px solid ${paint.line}` },
        // On a narrow screen it is moved sideways rather than broken into letters.
        minWidth: data.columns.length * 105 + 45,
        '& td:first-of-type': { minWidth: 150 },
        '& .number': { textAlign: 'right' },
        '& th': { position: 'sticky', top: 0, bgcolor: 'background.paper', zIndex: 1, p: 0 },
      }}>
      <thead>
        <tr>
          {data.columns.map((column) => {
            const sorted = asked.sort === column.key
            const Arrow = asked.down ? ArrowDownward : ArrowUpward
            return (
              <th
                key={column.key}
                scope="col"
                className={column.number ? 'number' : ''}
                aria-sort={sorted ? (asked.down ? 'descending' : 'ascending') : 'none'}>
                <ButtonBase
                  onClick={() => onSort(column.key, sorted ? !asked.down : column.number)}
                  sx={{
                    px: 3,
                    py: 1.5,
                    fontWeight: 650,
                    fontSize: '0.88rem',
                    gap: 1,
                    minHeight: 36,
                    textAlign: 'inherit',
                  }}>
                  {column.label}
                  {sorted && <Arrow sx={{ fontSize: '1rem' }} />}
                </ButtonBase>
              </th>
            )
          })}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const isChosen = row.id === selected
          return (
            <Box
              component="tr"
              key={row.id}
              ref={isChosen ? chosen : undefined}
              aria-selected={isChosen}
              onClick={() => onPick(row)}
              sx={{
                cursor: 'pointer',
                bgcolor: isChosen ? paint.kelpWash : undefined,
                '&:hover': { bgcolor: isChosen ? paint.kelpWash : paint.page },
                // Under the head, when it is brought into sight.
                scrollMarginTop: '40px',
              }}>
              {data.columns.map((column, i) => {
                const text = cell(column.key, row.cells[i] ?? null)
                return (
                  <td key={column.key} className={column.number ? 'number' : ''}>
                    {i === 0 ? (
                      <First row={row} text={text} legend={legend} onPick={() => onPick(row)} />
                    ) : (
                      text
                    )}
                  </td>
                )
              })}
            </Box>
          )
        })}
      </tbody>
    </Box>
  )
}

function First({
  row,
  text,
  legend,
  onPick,
}: {
  row: Row
  text: string
  legend: LegendLine[]
  onPick: () => void
}) {
  const line = legend.find((l) => (l.code ?? null) === row.class)
  return (
    <ButtonBase
      onClick={(e) => {
        e.stopPropagation()
        onPick()
      }}
      aria-label={t('table.show', { name: row.name ?? text })}
      sx={{
        gap: 2,
        textAlign: 'left',
        justifyContent: 'flex-start',
        minHeight: 28,
        overflowWrap: 'anywhere',
      }}>
      {line && <PegMark {...line} size={18} />}
      {text}
    </ButtonBase>
  )
}

const cell = (key: string, text: string | null) =>
  text === null ? '–' : key === '@collected' ? formatInstant(text) : text
