import Box from '@mui/material/Box'
import { PART_COLOURS, paint } from '../../paint'
import ButtonBase from '@mui/material/ButtonBase'
import { lazy, Suspense } from 'react'
import { PegMark } from '../../parts/PegMark'
import { t } from '../../texts'
import type { Api, Peg } from '../../types'
import { saidOr, stepName } from '../numbers'
import { usePicking } from '../picks'
import { Foot, Nothing, type TileOf, type TileProps } from './shared'

const Donut = lazy(() => import('./Donut').then((m) => ({ default: m.Donut })))

type Row = Api['BreakdownRow']

export const groupName = (row: { code: string | null; label: string | null }, step: Api['Step'] | null) =>
  step && row.code ? stepName(row.code, step) : (row.label ?? t('legend.other'))

const colourOf = (row: Row) => (row.code === null ? paint.line2 : (row.colour ?? paint.tide))

/** A measure of each group; a tap on one and the other tiles follow. */
export function BreakdownTile({ tile }: TileProps<'breakdown'>) {
  const a = tile.answer
  if (a.rows.length === 0) return <Nothing />
  return (
    <>
      {a.shape === 'donut' && (
        <Suspense fallback={<Box sx={{ height: 140 }} />}>
          <Donut
            slices={[
              ...a.rows.map((r) => ({
                name: groupName(r, a.step),
                value: r.value ?? 0,
                colour: colourOf(r),
              })),
              ...(a.others
                ? [
                    {
                      name: t('tile.others', { n: a.others.groups }),
                      value: a.others.value ?? 0,
                      colour: paint.line2,
                    },
                  ]
                : []),
            ]}
          />
        </Suspense>
      )}
      {a.lines.length > 0 && <Parts lines={a.lines} />}
      <Bars tile={tile} />
      <Foot
        n={a.held ? null : a.n}
        missing={a.missing}
        least={a.least}
        unparted={a.unparted}
        more={a.overlaps ? ` · ${t('tile.overlaps')}` : null}
      />
    </>
  )
}

/** What the parts of the bars mean. */
function Parts({ lines }: { lines: Api['GroupLine'][] }) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 3, rowGap: 0.5, fontSize: '0.84rem', mt: 1 }}>
      {lines.map((line, i) => (
        <Box key={line.code ?? ''} sx={{ display: 'flex', alignItems: 'center', gap: 1.25 }}>
          <Box sx={{ width: 12, height: 12, borderRadius: 0.5, bgcolor: partColour(line, i) }} />
          {line.label ?? t('legend.other')}
        </Box>
      ))}
    </Box>
  )
}

const partColour = (line: Api['GroupLine'], i: number) =>
  line.code === null ? paint.line2 : (line.colour ?? PART_COLOURS[i % PART_COLOURS.length]!)

function Bars({ tile }: { tile: TileOf<'breakdown'> }) {
  const a = tile.answer
  const { picks, pick, mayPick } = usePicking()
  const picked = picks.pick[tile.id ?? '']
  const values = [...a.rows.map((r) => r.value ?? 0), a.others?.value ?? 0]
  const whole = a.rows.some((r) => r.share !== null)
  // Bars of shares fill to the whole, not to the largest; of other measures there is no whole.
  const full = whole
    ? a.overlaps || (a.counts && a.least !== null && !a.held)
      ? a.n
      : values.reduce((sum, v) => sum + v, 0)
    : Math.max(...values.map(Math.abs))
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 1.5, p: 0, display: 'grid', gap: 1 }}>
      {a.rows.map((row) => {
        const code = row.code ?? ''
        const content = (
          <Bar row={row} tile={tile} full={full} faded={picked !== undefined && picked !== code} />
        )
        return (
          <Box component="li" key={code}>
            {mayPick ? (
              <ButtonBase
                onClick={() => pick(tile.id ?? '', code)}
                aria-pressed={picked === code}
                sx={{
                  width: '100%',
                  display: 'block',
                  textAlign: 'left',
                  borderRadius: 1,
                  py: 0.5,
                  '&:hover': { bgcolor: paint.pointed },
                }}>
                {content}
              </ButtonBase>
            ) : (
              content
            )}
          </Box>
        )
      })}
      {a.others && (
        <Box component="li" sx={{ py: 0.5 }}>
          <Bar
            row={{ code: null, label: t('tile.others', { n: a.others.groups }), held: false, ...a.others }}
            tile={tile}
            full={full}
          />
        </Box>
      )}
    </Box>
  )
}

function Bar({
  row,
  tile,
  full,
  faded = false,
}: {
  row: Row
  tile: TileOf<'breakdown'>
  full: number
  faded?: boolean
}) {
  const a = tile.answer
  const width = (v: number) => `${full > 0 ? Math.min(100, (Math.abs(v) / full) * 100) : 0}%`
  return (
    <Box>
      <Box
        sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 2, fontSize: '0.92rem' }}>
        {row.head && row.colour && <PegMark {...({ head: row.head, colour: row.colour } as Peg)} size={17} />}
        <Box sx={{ flex: '1 1 6.5rem', minWidth: 0, overflowWrap: 'anywhere' }}>{groupName(row, a.step)}</Box>
        <Box sx={{ fontWeight: 650, fontVariantNumeric: 'tabular-nums', whiteSpace: 'nowrap' }}>
          {saidOr(row.value, a, row.held && a.least)}
          {row.share !== null && ` · ${row.share} %`}
          {!a.counts && row.share === null && !row.held && (
            <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
              {' '}
              · {t('tile.n', { n: row.n })}
            </Box>
          )}
        </Box>
      </Box>
      <Box
        aria-hidden
        sx={{
          mt: 0.75,
          height: 9,
          bgcolor: paint.rowLine,
          // Those that were not picked stand back; their words stay to be read.
          '& > *': { opacity: faded ? 0.3 : 1 },
          borderRadius: 0.5,
          display: 'flex',
          overflow: 'hidden',
        }}>
        {row.parts ? (
          row.parts.map((v, i) => (
            <Box key={i} sx={{ width: width(v), bgcolor: partColour(a.lines[i]!, i) }} />
          ))
        ) : (
          <Box sx={{ width: width(row.value ?? 0), bgcolor: colourOf(row) }} />
        )}
      </Box>
    </Box>
  )
}
