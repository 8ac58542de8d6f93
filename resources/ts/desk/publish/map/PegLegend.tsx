import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { useState } from 'react'
import { paint } from '../../../shared/paint'
import { PegMark } from '../../../shared/parts/PegMark'
import { PegPicker } from '../../../shared/parts/PegPicker'
import { isByNumbers, rangeText } from '../../../shared/map/classes'
import { useMarks } from './useMarks'
import { formatNumber, t } from '../../../shared/texts'
import type { LegendLine, Look, Peg } from '../../../shared/types'

const DEFAULT: Peg = { head: 'diamond', colour: paint.kelp }

type Props = {
  lines: LegendLine[]
  look: Exclude<Look, { kind: 'shades' | 'crossed' }>
  single: string
  unit?: string | undefined
  onChange: (look: Look) => void
}

/** The legend, where each peg can be given another head and colour. */
export function PegLegend({ lines, look, single, unit, onChange }: Props) {
  const [open, setOpen] = useState<{ at: HTMLElement; line: LegendLine } | null>(null)
  const marks = useMarks()
  const put = (peg: Peg) => {
    if (!open) return
    const code = open.line.code
    if (look.kind === 'single') onChange({ ...look, peg })
    else if (code === null) onChange({ ...look, other: peg })
    else if (isByNumbers(look))
      onChange({ ...look, classes: look.classes.map((c, i) => (String(i) === code ? { ...c, ...peg } : c)) })
    else onChange({ ...look, classes: [...look.classes.filter((c) => c.code !== code), { code, ...peg }] })
    setOpen({ ...open, line: { ...open.line, ...peg } })
  }
  // A class of numbers can be called by what it means.
  const named = open && isByNumbers(look) && open.line.code !== null ? Number(open.line.code) : null
  const pegOf = (line: LegendLine): Peg =>
    look.kind === 'single'
      ? (look.peg ?? line)
      : line.code === null
        ? (look.other ?? line)
        : ((isByNumbers(look)
            ? look.classes[Number(line.code)]
            : look.classes?.find((c) => c.code === line.code)) ?? line)
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line) => {
        const label = line.label ?? (lines.length === 1 ? single : t('legend.other'))
        const peg = pegOf(line) ?? DEFAULT
        return (
          <li key={line.code ?? ''}>
            <ButtonBase
              // What is hatched has the colour of what is missing, and nothing of its own.
              disabled={line.hatched === true}
              onClick={(e) => setOpen({ at: e.currentTarget, line: { ...line, ...peg } })}
              aria-haspopup="dialog"
              sx={{
                width: '100%',
                justifyContent: 'flex-start',
                gap: 3,
                px: 1.5,
                py: 0.75,
                borderRadius: 1.5,
                textAlign: 'left',
                '&:hover': { bgcolor: paint.page },
              }}>
              <PegMark
                {...peg}
                plain={line.plain ?? false}
                filled={line.filled ?? false}
                hatched={line.hatched ?? false}
                {...(line.geometry ? { geometry: line.geometry } : {})}
              />
              <Box sx={{ flex: 1 }}>
                {label}
                {!line.hatched && <span className="visually-hidden"> {t('legend.change')}</span>}
              </Box>
              <Box sx={{ color: 'text.secondary', fontVariantNumeric: 'tabular-nums' }}>
                {formatNumber(line.count)}
              </Box>
            </ButtonBase>
          </li>
        )
      })}
      <PegPicker
        at={open?.at ?? null}
        peg={open?.line ?? DEFAULT}
        {...marks}
        name={
          named !== null && isByNumbers(look)
            ? { typed: look.classes[named]?.label ?? '', proposed: rangeText(look.breaks, named, unit) }
            : null
        }
        geometry={open?.line.geometry ?? 'point'}
        onName={(label) =>
          isByNumbers(look) &&
          onChange({ ...look, classes: look.classes.map((c, i) => (i === named ? { ...c, label } : c)) })
        }
        onChange={put}
        onClose={() => setOpen(null)}
      />
    </Box>
  )
}
