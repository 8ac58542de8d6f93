import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Popover from '@mui/material/Popover'
import Typography from '@mui/material/Typography'
import { useLatest } from '../lateAnswers'
import { HEADS } from '../map/pegs'
import { MARK_COLOURS, paint } from '../paint'
import { t } from '../texts'
import type { GeometryKind, OurHead, Peg, PegHead } from '../types'
import { TextInput } from './Labelled'
import { DrawnChoice } from './DrawnChoice'
import { PegMark } from './PegMark'

export type OwnMark = { head: PegHead; name: string }

/** Head and colour of a peg, to pick from; opens beside what was pressed. */
export function PegPicker({
  at,
  peg: given,
  own,
  onAdd,
  said,
  name,
  geometry = 'point',
  onName,
  onChange,
  onClose,
}: {
  at: HTMLElement | null
  peg: Peg
  own?: OwnMark[]
  onAdd?: (file: File) => Promise<PegHead | null>
  said?: string | null
  /** What it stands for, where that can be called otherwise; empty by its numbers. */
  name?: { typed: string; proposed: string } | null
  /** Lines and areas can be told apart by how they are drawn, too. */
  geometry?: GeometryKind
  onName?: (name: string) => void
  onChange: (peg: Peg) => void
  onClose: () => void
}) {
  // Whatever else is said beside it stays where it was.
  const peg: Peg = {
    head: given.head,
    colour: given.colour,
    ...(given.dash ? { dash: given.dash } : {}),
    ...(given.fill ? { fill: given.fill } : {}),
  }
  const latest = useLatest({ at, peg, onChange })
  /** A mark that was sent takes its time; meanwhile a colour may have been chosen, or another line. */
  const add = async (file: File) => {
    const head = await onAdd?.(file)
    const now = latest.current
    if (head && now.at === at) now.onChange({ ...now.peg, head })
  }
  return (
    <Popover
      open={at !== null}
      anchorEl={at}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{ paper: { sx: { p: 3, border: `1px solid ${paint.line}` } } }}>
      <Box sx={{ display: 'grid', gap: 2 }}>
        {name && (
          <TextInput
            label={t('classes.name')}
            size="small"
            value={name.typed}
            placeholder={name.proposed}
            inputProps={{ maxLength: 80 }}
            onChange={(typed) => onName?.(typed)}
          />
        )}
        <Typography variant="h3">{t('legend.head')}</Typography>
        <Box sx={{ display: 'flex', gap: 1 }}>
          {(Object.keys(HEADS) as OurHead[]).map((head) => (
            <ButtonBase
              key={head}
              aria-label={t(`peg.${head}`)}
              aria-pressed={peg.head === head}
              onClick={() => onChange({ ...peg, head })}
              sx={{
                width: 40,
                height: 40,
                borderRadius: 1.5,
                border: '2px solid',
                borderColor: peg.head === head ? 'text.primary' : 'transparent',
              }}>
              <PegMark head={head} colour={peg.colour} size={26} />
            </ButtonBase>
          ))}
        </Box>
        {onAdd && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', maxWidth: 270 }}>
            {own?.map((mark) => (
              <ButtonBase
                key={mark.head}
                aria-label={mark.name}
                title={mark.name}
                aria-pressed={peg.head === mark.head}
                onClick={() => onChange({ ...peg, head: mark.head })}
                sx={{
                  width: 40,
                  height: 40,
                  borderRadius: 1.5,
                  border: '2px solid',
                  borderColor: peg.head === mark.head ? 'text.primary' : 'transparent',
                }}>
                <PegMark head={mark.head} colour={peg.colour} size={26} />
              </ButtonBase>
            ))}
            <Button size="small" variant="outlined" component="label">
              {t('marks.add')}
              <input
                type="file"
                hidden
                accept=".svg,.png,image/svg+xml,image/png"
                aria-label={t('marks.add')}
                onChange={(e) => {
                  const file = e.target.files?.[0]
                  e.target.value = ''
                  if (file) void add(file)
                }}
              />
            </Button>
            {said && (
              <Typography role="alert" variant="body2" color="error.main" sx={{ flexBasis: '100%' }}>
                {said}
              </Typography>
            )}
          </Box>
        )}
        {geometry === 'area' && <DrawnChoice of="fill" peg={peg} onChange={onChange} />}
        {geometry !== 'point' && <DrawnChoice of="dash" peg={peg} onChange={onChange} />}
        <Typography variant="h3">{t('legend.colour')}</Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(6, 40px)', gap: 1 }}>
          {MARK_COLOURS.map((colour) => (
            <ButtonBase
              key={colour}
              aria-label={colour}
              aria-pressed={peg.colour === colour}
              onClick={() => onChange({ ...peg, colour })}
              sx={{
                height: 32,
                borderRadius: 1.5,
                bgcolor: colour,
                border: '3px solid',
                borderColor: peg.colour === colour ? 'text.primary' : paint.white,
              }}
            />
          ))}
        </Box>
        <Box component="label" sx={{ display: 'flex', alignItems: 'center', gap: 2, minHeight: 40 }}>
          <input
            type="color"
            value={peg.colour.toLowerCase()}
            onChange={(e) => onChange({ ...peg, colour: e.target.value.toUpperCase() })}
            style={{ width: 40, height: 32, padding: 0, border: 0, background: 'none' }}
          />
          {t('legend.colour.own')}
        </Box>
      </Box>
    </Popover>
  )
}
