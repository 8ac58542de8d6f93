import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { paint } from '../../paint'
import { PegMark } from '../../parts/PegMark'
import { t } from '../../texts'
import type { Peg } from '../../types'
import { measureName } from '../measureName'
import { saidOr } from '../numbers'
import { usePicking } from '../picks'
import { groupName } from './BreakdownTile'
import { Foot, Nothing, type TileProps } from './shared'

/** Several measures of each group, with those of all below. */
export function TableTile({ tile }: TileProps<'table'>) {
  const a = tile.answer
  const { picks, pick, mayPick } = usePicking()
  const picked = picks.pick[tile.id ?? '']
  if (a.rows.length === 0) return <Nothing />
  const cell = {
    py: 0.9,
    px: 1.5,
    textAlign: 'right',
    fontVariantNumeric: 'tabular-nums',
    whiteSpace: 'nowrap',
  } as const
  return (
    <>
      <Box sx={{ overflow: 'auto', flex: 1, mt: 1 }} tabIndex={0} role="region" aria-label={tile.title}>
        <Box component="table" sx={{ borderCollapse: 'collapse', width: '100%', fontSize: '0.9rem' }}>
          <thead>
            <tr>
              <th aria-label={t('table.group')} />
              {a.columns.map((c, i) => (
                <Box
                  component="th"
                  scope="col"
                  key={i}
                  sx={{ ...cell, fontWeight: 650, verticalAlign: 'bottom', whiteSpace: 'normal' }}>
                  {c.title || measureName(c.measure)}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {a.rows.map((row) => {
              const code = row.code ?? ''
              const name = (
                <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 1.5 }}>
                  {row.head && row.colour && (
                    <PegMark {...({ head: row.head, colour: row.colour } as Peg)} size={16} />
                  )}
                  {groupName(row, a.step)}
                </Box>
              )
              return (
                <Box
                  component="tr"
                  key={code}
                  sx={{
                    borderTop: `1px solid ${paint.rowLine}`,
                    bgcolor: picked === code ? paint.buoyWash : undefined,
                  }}>
                  <Box component="th" scope="row" sx={{ textAlign: 'left', fontWeight: 500, py: 0.5 }}>
                    {mayPick ? (
                      <ButtonBase
                        aria-pressed={picked === code}
                        onClick={() => pick(tile.id ?? '', code)}
                        sx={{ py: 0.4, textAlign: 'left' }}>
                        {name}
                      </ButtonBase>
                    ) : (
                      name
                    )}
                  </Box>
                  {row.cells.map((v, i) => (
                    <Box component="td" key={i} sx={cell}>
                      {saidOr(v, a.columns[i]!, row.held.includes(i) && a.least)}
                    </Box>
                  ))}
                </Box>
              )
            })}
          </tbody>
          <tfoot>
            <Box component="tr" sx={{ borderTop: `2px solid ${paint.line2}` }}>
              <Box component="th" scope="row" sx={{ textAlign: 'left', py: 0.9 }}>
                {t('table.all')}
              </Box>
              {a.totals.map((v, i) => (
                <Box component="td" key={i} sx={{ ...cell, fontWeight: 650 }}>
                  {saidOr(v, a.columns[i]!, a.held.includes(i) && a.least)}
                </Box>
              ))}
            </Box>
          </tfoot>
        </Box>
      </Box>
      <Foot
        n={a.held.includes(0) ? null : a.n}
        least={a.least}
        more={a.more > 0 ? ` · ${t('table.more', { n: a.more })}` : null}
      />
    </>
  )
}
