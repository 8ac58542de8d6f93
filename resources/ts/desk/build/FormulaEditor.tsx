import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ListSubheader from '@mui/material/ListSubheader'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { paint } from '../../shared/paint'
import { Labelled } from '../../shared/parts/Labelled'
import { shownValue } from '../../shared/form/shownValue'
import { t } from '../../shared/texts'
import type { Api, Design, Field, Problem } from '../../shared/types'
import { finished } from './design'
import { formulaFunctions, tryFormula } from '../queries/layers'

type Trial = Api['FormulaTrial']

type Props = {
  label: string
  value: string
  onChange: (text: string) => void
  design: Design
  /** The field that it belongs to, which it cannot read itself. */
  field: Field
  problem: Problem | undefined
  result?: string | undefined
  condition?: boolean
  /** The saved layer, whose records it is tried on. */
  layer: number | null
}

/**
 * A formula, with fields and functions to pick, what is off marked in place, and what it gives for real
 * records.
 */
export function FormulaEditor({
  label,
  value,
  onChange,
  design,
  field,
  problem,
  result,
  condition = false,
  layer,
}: Props) {
  const input = useRef<HTMLTextAreaElement>(null)
  const [menu, setMenu] = useState<{ at: HTMLElement; what: 'fields' | 'functions' } | null>(null)
  const groups = useQuery(formulaFunctions())
  const fields = design.fields.filter((f) => f.kind !== 'heading' && f.key !== field.key && f.label)
  const insert = (text: string) => {
    const el = input.current
    const [from, to] = [el?.selectionStart ?? value.length, el?.selectionEnd ?? value.length]
    onChange(value.slice(0, from) + text + value.slice(to))
    setMenu(null)
    requestAnimationFrame(() => {
      el?.focus()
      el?.setSelectionRange(from + text.length, from + text.length)
    })
  }
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Labelled label={label} error={problem?.message ?? null}>
        {({ id, describedBy }) => (
          <OutlinedInput
            id={id}
            fullWidth
            multiline
            minRows={1}
            maxRows={10}
            error={Boolean(problem)}
            value={value}
            placeholder={t('formula.placeholder')}
            inputRef={input}
            onChange={(e) => onChange(e.target.value)}
            inputProps={{
              'aria-describedby': describedBy,
              spellCheck: false,
              style: { fontFamily: 'monospace', fontSize: '0.92rem' },
            }}
          />
        )}
      </Labelled>
      {problem && (
        <Marked
          text={value}
          at={Number(problem.params.at ?? 0)}
          length={Number(problem.params.length ?? 1)}
        />
      )}
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button
          size="small"
          variant="outlined"
          aria-haspopup="menu"
          onClick={(e) => setMenu({ at: e.currentTarget, what: 'fields' })}>
          {t('formula.fields')}
        </Button>
        <Button
          size="small"
          variant="outlined"
          aria-haspopup="menu"
          onClick={(e) => setMenu({ at: e.currentTarget, what: 'functions' })}>
          {t('formula.functions')}
        </Button>
        {!problem && result && (
          <Typography variant="body2" color="text.secondary" role="status">
            {t('formula.gives', { type: result })}
          </Typography>
        )}
      </Box>
      <Menu
        open={menu !== null}
        anchorEl={menu?.at ?? null}
        onClose={() => setMenu(null)}
        slotProps={{ paper: { sx: { maxHeight: 420 } } }}>
        {menu?.what === 'fields'
          ? fields.map((f) => (
              <MenuItem key={f.key} onClick={() => insert(f.key)}>
                {f.label}
                <Box component="code" sx={{ ml: 3, color: 'text.secondary', fontSize: '0.8rem' }}>
                  {f.key}
                </Box>
              </MenuItem>
            ))
          : groups.data?.groups.flatMap((g) => [
              <ListSubheader key={g.key} sx={{ lineHeight: 2.4, bgcolor: 'background.paper' }}>
                {g.label}
              </ListSubheader>,
              ...g.functions.map((f) => (
                <MenuItem
                  key={f.name}
                  onClick={() => insert(f.write)}
                  aria-label={t('formula.insert', { name: f.name })}>
                  <Box>
                    <code>{f.write}</code>
                    <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
                      {f.hint}
                    </Typography>
                  </Box>
                </MenuItem>
              )),
            ])}
      </Menu>
      {layer !== null && !problem && value.trim() !== '' && (
        <Tries layer={layer} design={design} field={field} formula={value} condition={condition} />
      )}
    </Box>
  )
}

/** The formula again, with the part that is off underlined. */
function Marked({ text, at, length }: { text: string; at: number; length: number }) {
  const letters = [...text]
  return (
    <Box
      aria-hidden
      sx={{
        fontFamily: 'monospace',
        fontSize: '0.85rem',
        whiteSpace: 'pre-wrap',
        overflowWrap: 'anywhere',
        maxHeight: 80,
        overflow: 'auto',
      }}>
      {letters.slice(Math.max(0, at - 200), at).join('')}
      <Box
        component="mark"
        sx={{ bgcolor: paint.buoyWash, color: 'error.main', textDecoration: 'underline wavy' }}>
        {letters.slice(at, at + length).join('') || ' '}
      </Box>
      {letters.slice(at + length, at + length + 200).join('')}
    </Box>
  )
}

function Tries({
  layer,
  design,
  field,
  formula,
  condition,
}: {
  layer: number
  design: Design
  field: Field
  formula: string
  condition: boolean
}) {
  const [trial, setTrial] = useState<Trial | null>(null)
  // The field itself need not be sound yet for its formula to be tried.
  const draft = JSON.stringify({
    ...finished({
      ...design,
      title: design.title || '…',
      fields: design.fields.filter((f) => f.key !== field.key && f.label),
    }),
    name_field: null,
  })
  useEffect(() => {
    let stale = false
    const timer = setTimeout(() => {
      tryFormula(layer, {
        design: JSON.parse(draft) as unknown,
        formula,
        ...(condition ? { gives: 'yes_no' } : {}),
      })
        .then((got) => {
          if (!stale) setTrial(got)
        })
        .catch(() => {
          if (!stale) setTrial(null)
        })
    }, 400)
    return () => {
      stale = true
      clearTimeout(timer)
    }
  }, [layer, draft, formula, condition])
  if (!trial) return null
  if (trial.tries.length === 0)
    return (
      <Typography variant="body2" color="text.secondary">
        {t('formula.notries')}
      </Typography>
    )
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: 1.5,
        p: 2,
      }}>
      <Typography variant="caption" sx={{ fontWeight: 650 }}>
        {t('formula.tries')}
      </Typography>
      {trial.tries.map((r) => (
        <Box key={r.id} sx={{ display: 'flex', justifyContent: 'space-between', gap: 3, fontSize: '0.9rem' }}>
          <span>{r.name ?? t('record.unnamed')}</span>
          <Box
            component="span"
            sx={{
              fontVariantNumeric: 'tabular-nums',
              fontWeight: 650,
              color: r.value === null ? 'text.secondary' : undefined,
            }}>
            {shownValue({ ...field, kind: 'calculated' }, r.value) || t('formula.none')}
          </Box>
        </Box>
      ))}
    </Box>
  )
}
