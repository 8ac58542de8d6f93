import Archive from '@mui/icons-material/Archive'
import Unarchive from '@mui/icons-material/Unarchive'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import Tooltip from '@mui/material/Tooltip'
import Typography from '@mui/material/Typography'
import { useRef, useState, type ClipboardEvent } from 'react'
import { HEADS } from '../../shared/map/pegs'
import { useMarks } from '../publish/map/useMarks'
import { PegMark } from '../../shared/parts/PegMark'
import { MARK_COLOURS } from '../../shared/paint'
import { PegPicker } from '../../shared/parts/PegPicker'
import { t } from '../../shared/texts'
import type { Choice, PegHead, Problem } from '../../shared/types'
import { keyFrom, pastedChoices } from './design'

type Props = {
  choices: Choice[]
  onChange: (choices: Choice[]) => void
  problems: Problem[]
  locked: boolean
}

/** So many rows stay quick to type in; a list may have 5,000. */
const PAGE = 100

/** Codes with labels; several lines pasted into one become several. */
export function ChoiceList({ choices, onChange, problems, locked }: Props) {
  const list = useRef<HTMLDivElement>(null)
  const [asked, setPage] = useState(0)
  const pages = Math.max(1, Math.ceil(choices.length / PAGE))
  const page = Math.min(asked, pages - 1)
  const change = (i: number, part: Partial<Choice>) =>
    onChange(choices.map((c, j) => (j === i ? { ...c, ...part } : c)))
  const add = () => {
    onChange([...choices, { code: '', label: '' }])
    setPage(Math.floor(choices.length / PAGE))
    requestAnimationFrame(() =>
      [...(list.current?.querySelectorAll<HTMLInputElement>('.choice .label input') ?? [])].at(-1)?.focus(),
    )
  }
  const paste = (i: number, e: ClipboardEvent) => {
    const rows = pastedChoices(e.clipboardData.getData('text'))
    if (rows.length < 2) return
    e.preventDefault()
    onChange([...choices.slice(0, i), ...rows, ...choices.slice(i + 1).filter((c) => c.label || c.code)])
  }
  const codes = choices.map((c) => c.code)
  return (
    <Box ref={list} sx={{ display: 'grid', gap: 1.5 }}>
      <Typography sx={{ fontWeight: 650, fontSize: '0.92rem' }}>
        {t('choices.title')}{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
          {t('choices.paste')}
        </Box>
      </Typography>
      {choices.slice(page * PAGE, (page + 1) * PAGE).map((choice, n) => {
        const i = page * PAGE + n
        const bad = problems.some((p) => p.field?.includes(`/choices/${i}/`))
        return (
          <Box
            key={i}
            className="choice"
            sx={{
              display: 'grid',
              gridTemplateColumns: 'minmax(0,1fr) 130px auto auto auto',
              gap: 1.5,
              alignItems: 'center',
              opacity: choice.retired ? 0.6 : 1,
            }}>
            <OutlinedInput
              className="label"
              size="small"
              error={bad}
              value={choice.label}
              placeholder={t('choices.label')}
              inputProps={{ 'aria-label': t('choices.label.n', { n: i + 1 }) }}
              onChange={(e) => change(i, { label: e.target.value })}
              onPaste={(e) => paste(i, e)}
              onKeyDown={(e) => {
                if (e.key === 'Enter') {
                  e.preventDefault()
                  add()
                }
              }}
            />
            <OutlinedInput
              size="small"
              error={bad}
              value={choice.code}
              placeholder={choice.label ? keyFrom(choice.label, codes, 'choice') : t('choices.code')}
              inputProps={{
                'aria-label': t('choices.code.n', { n: i + 1 }),
                style: { fontFamily: 'monospace', fontSize: '0.85rem' },
              }}
              onChange={(e) => change(i, { code: e.target.value })}
            />
            <ChoiceMark
              choice={choice}
              i={i}
              onChange={(part) => onChange(choices.map((c, j) => (j === i ? { ...c, ...part } : c)))}
            />
            {locked && (
              <Tooltip title={t(choice.retired ? 'choices.back' : 'choices.retire')}>
                <IconButton
                  size="small"
                  aria-label={t(choice.retired ? 'choices.back.of' : 'choices.retire.of', {
                    choice: choice.label,
                  })}
                  onClick={() =>
                    onChange(
                      choices.map((c, j) =>
                        j === i
                          ? (({ retired, ...rest }) => (retired ? rest : { ...rest, retired: true }))(c)
                          : c,
                      ),
                    )
                  }>
                  {choice.retired ? <Unarchive fontSize="small" /> : <Archive fontSize="small" />}
                </IconButton>
              </Tooltip>
            )}
            <IconButton
              size="small"
              aria-label={t('choices.remove.of', { choice: choice.label })}
              onClick={() => onChange(choices.filter((_, j) => j !== i))}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
        )
      })}
      {pages > 1 && (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
          <Button size="small" variant="outlined" disabled={page === 0} onClick={() => setPage(page - 1)}>
            {t('choices.before')}
          </Button>
          <Typography variant="body2">
            {t('choices.page', {
              from: page * PAGE + 1,
              to: Math.min(choices.length, (page + 1) * PAGE),
              all: choices.length,
            })}
          </Typography>
          <Button
            size="small"
            variant="outlined"
            disabled={page === pages - 1}
            onClick={() => setPage(page + 1)}>
            {t('choices.after')}
          </Button>
        </Box>
      )}
      <Box>
        <Button size="small" variant="outlined" onClick={add}>
          {t('choices.add')}
        </Button>
      </Box>
    </Box>
  )
}

/** The colour and the head of a choice's peg; without one of its own it has the next of the series. */
function ChoiceMark({
  choice,
  i,
  onChange,
}: {
  choice: Choice
  i: number
  onChange: (part: Partial<Choice>) => void
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  const marks = useMarks()
  const heads = Object.keys(HEADS) as PegHead[]
  const peg = {
    head: choice.mark ?? heads[i % heads.length]!,
    colour: choice.colour ?? MARK_COLOURS[i % MARK_COLOURS.length]!,
  }
  return (
    <>
      <IconButton
        size="small"
        aria-haspopup="dialog"
        aria-label={t('choices.colour', { choice: choice.label })}
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ opacity: choice.colour || choice.mark ? 1 : 0.55 }}>
        <PegMark {...peg} size={20} />
      </IconButton>
      <PegPicker
        at={anchor}
        peg={peg}
        {...marks}
        onChange={({ head, colour }) => onChange({ mark: head, colour })}
        onClose={() => setAnchor(null)}
      />
    </>
  )
}
