import Archive from '@mui/icons-material/Archive'
import Unarchive from '@mui/icons-material/Unarchive'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import Tooltip from '@mui/material/Tooltip'
import Typography from '@mui/material/Typography'
import { useRef, type ClipboardEvent } from 'react'
import { t } from '../../shared/texts'
import type { Choice, Problem } from '../../shared/types'
import { keyFrom, pastedChoices } from './design'

type Props = { choices: Choice[]; onChange: (choices: Choice[]) => void; problems: Problem[]; locked: boolean }

/** Codes with labels; several lines pasted into one become several. */
export function ChoiceList({ choices, onChange, problems, locked }: Props) {
  const list = useRef<HTMLDivElement>(null)
  const change = (i: number, part: Partial<Choice>) => onChange(choices.map((c, j) => (j === i ? { ...c, ...part } : c)))
  const add = () => {
    onChange([...choices, { code: '', label: '' }])
    requestAnimationFrame(() => [...(list.current?.querySelectorAll<HTMLInputElement>('.choice .label input') ?? [])].at(-1)?.focus())
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
      <Typography sx={{ fontWeight: 650, fontSize: '0.92rem' }}>{t('choices.title')} <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>{t('choices.paste')}</Box></Typography>
      {choices.map((choice, i) => {
        const bad = problems.some((p) => p.field?.includes(`/choices/${i}/`))
        return (
          <Box key={i} className="choice" sx={{ display: 'grid', gridTemplateColumns: '1fr 150px auto auto', gap: 1.5, alignItems: 'center', opacity: choice.retired ? 0.6 : 1 }}>
            <OutlinedInput className="label" size="small" error={bad} value={choice.label} placeholder={t('choices.label')} inputProps={{ 'aria-label': t('choices.label.n', { n: i + 1 }) }}
              onChange={(e) => change(i, { label: e.target.value })} onPaste={(e) => paste(i, e)} onKeyDown={(e) => { if (e.key === 'Enter') { e.preventDefault(); add() } }} />
            <OutlinedInput size="small" error={bad} value={choice.code} placeholder={choice.label ? keyFrom(choice.label, codes, 'choice') : t('choices.code')} inputProps={{ 'aria-label': t('choices.code.n', { n: i + 1 }), style: { fontFamily: 'monospace', fontSize: '0.85rem' } }}
              onChange={(e) => change(i, { code: e.target.value })} />
            {locked && (
              <Tooltip title={t(choice.retired ? 'choices.back' : 'choices.retire')}>
                <IconButton size="small" aria-label={t(choice.retired ? 'choices.back.of' : 'choices.retire.of', { choice: choice.label })} onClick={() => onChange(choices.map((c, j) => (j === i ? { code: c.code, label: c.label, ...(c.retired ? {} : { retired: true }) } : c)))}>
                  {choice.retired ? <Unarchive fontSize="small" /> : <Archive fontSize="small" />}
                </IconButton>
              </Tooltip>
            )}
            <IconButton size="small" aria-label={t('choices.remove.of', { choice: choice.label })} onClick={() => onChange(choices.filter((_, j) => j !== i))}><DeleteOutline fontSize="small" /></IconButton>
          </Box>
        )
      })}
      <Box><Button size="small" variant="outlined" onClick={add}>{t('choices.add')}</Button></Box>
    </Box>
  )
}
