import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import Popover from '@mui/material/Popover'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { HEADS } from '../../shared/map/pegs'
import { PegMark } from '../../shared/parts/PegMark'
import { formatNumber, t } from '../../shared/texts'
import type { LegendLine, Look, Peg, PegHead } from '../../shared/types'

const COLOURS = ['#0F5C53', '#E0A030', '#9B2226', '#2F5D8A', '#7A4B8C', '#4D4A3F', '#4F9DA6', '#C8420E', '#A9A860', '#5E3B1E', '#B0578D', '#1D2B2E']
const DEFAULT: Peg = { head: 'diamond', colour: '#0F5C53' }

type Props = { lines: LegendLine[]; look: Look; single: string; onChange: (look: Look) => void }

/** The legend, where each peg can be given another head and colour. */
export function PegLegend({ lines, look, single, onChange }: Props) {
  const [open, setOpen] = useState<{ at: HTMLElement; line: LegendLine } | null>(null)
  const put = (peg: Peg) => {
    if (!open) return
    const code = open.line.code
    if (look.kind === 'single') onChange({ kind: 'single', peg })
    else if (code === null) onChange({ ...look, other: peg })
    else onChange({ ...look, classes: [...look.classes.filter((c) => c.code !== code), { code, ...peg }] })
    setOpen({ ...open, line: { ...open.line, ...peg } })
  }
  const pegOf = (line: LegendLine): Peg => (look.kind === 'single' ? (look.peg ?? line) : line.code === null ? (look.other ?? line) : (look.classes?.find((c) => c.code === line.code) ?? line))
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line) => {
        const label = line.label ?? (lines.length === 1 ? single : t('legend.other'))
        const peg = pegOf(line) ?? DEFAULT
        return (
          <li key={line.code ?? ''}>
            <ButtonBase onClick={(e) => setOpen({ at: e.currentTarget, line: { ...line, ...peg } })} aria-haspopup="dialog"
              sx={{ width: '100%', justifyContent: 'flex-start', gap: 3, px: 1.5, py: 0.75, borderRadius: 1.5, textAlign: 'left', '&:hover': { bgcolor: '#F4EFE4' } }}>
              <PegMark head={peg.head} colour={peg.colour} />
              <Box sx={{ flex: 1 }}>{label} <span className="visually-hidden">{t('legend.change')}</span></Box>
              <Box sx={{ color: 'text.secondary', fontVariantNumeric: 'tabular-nums' }}>{formatNumber(line.count)}</Box>
            </ButtonBase>
          </li>
        )
      })}
      <Popover open={open !== null} anchorEl={open?.at} onClose={() => setOpen(null)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }} slotProps={{ paper: { sx: { p: 3, border: '1px solid #D8CFBC' } } }}>
        {open && (
          <Box sx={{ display: 'grid', gap: 2 }}>
            <Typography variant="h3">{t('legend.head')}</Typography>
            <Box sx={{ display: 'flex', gap: 1 }}>
              {(Object.keys(HEADS) as PegHead[]).map((head) => (
                <ButtonBase key={head} aria-label={t(`peg.${head}`)} aria-pressed={open.line.head === head} onClick={() => put({ head, colour: open.line.colour })}
                  sx={{ width: 40, height: 40, borderRadius: 1.5, border: '2px solid', borderColor: open.line.head === head ? 'text.primary' : 'transparent' }}><PegMark head={head} colour={open.line.colour} size={26} /></ButtonBase>
              ))}
            </Box>
            <Typography variant="h3">{t('legend.colour')}</Typography>
            <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(6, 40px)', gap: 1 }}>
              {COLOURS.map((colour) => (
                <ButtonBase key={colour} aria-label={colour} aria-pressed={open.line.colour === colour} onClick={() => put({ head: open.line.head, colour })}
                  sx={{ height: 32, borderRadius: 1.5, bgcolor: colour, border: '3px solid', borderColor: open.line.colour === colour ? 'text.primary' : '#fff' }} />
              ))}
            </Box>
          </Box>
        )}
      </Popover>
    </Box>
  )
}
