import SearchIcon from '@mui/icons-material/Search'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState, type KeyboardEvent } from 'react'
import { useNavigate } from 'react-router'
import { paint } from '../../shared/paint'
import { Pill } from '../../shared/parts/Pill'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { foundBy } from '../queries/programmes'

type Found = Api['FoundThing']

function addressOf(f: Found): string {
  const base = `/desk/p/${f.programme}`
  switch (f.kind) {
    case 'programme':
      return base
    case 'layer':
      return `${base}/build/${f.id}`
    case 'field':
      return `${base}/build/${f.layer}`
    case 'map':
      return `${base}/publish/map/${f.id}`
    case 'board':
      return `${base}/publish/board/${f.id}`
    case 'outing':
      return `${base}/plan?part=outings`
    case 'list':
      return `${base}/build`
    case 'question':
      return `${base}/plan`
    case 'record':
      return `${base}/check?layer=${f.layer}&record=${f.id}`
  }
}

/** Finds anything by its words; opens with `/` from anywhere. */
export function SearchBox() {
  const navigate = useNavigate()
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const [asked, setAsked] = useState('')
  const [at, setAt] = useState(0)
  const list = useRef<HTMLUListElement>(null)
  const found = useQuery({
    ...foundBy(asked),
    enabled: asked.trim().length > 1,
    placeholderData: (old) => old,
  })
  useEffect(() => {
    const timer = setTimeout(() => {
      setAsked(text)
      setAt(0)
    }, 200)
    return () => clearTimeout(timer)
  }, [text])
  useEffect(() => {
    const press = (e: globalThis.KeyboardEvent) => {
      const el = document.activeElement
      if (
        e.key !== '/' ||
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        el?.closest('input, textarea, select, [contenteditable]')
      )
        return
      e.preventDefault()
      setOpen(true)
    }
    document.addEventListener('keydown', press)
    return () => document.removeEventListener('keydown', press)
  }, [])
  const results = asked.trim().length > 1 ? (found.data ?? []) : []
  const go = (f: Found | undefined) => {
    if (!f) return
    setOpen(false)
    setText('')
    void navigate(addressOf(f))
  }
  const keys = (e: KeyboardEvent) => {
    if (e.key === 'Enter') return go(results[at])
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return
    e.preventDefault()
    const next = Math.max(0, Math.min(results.length - 1, at + (e.key === 'ArrowDown' ? 1 : -1)))
    setAt(next)
    list.current?.children[next]?.scrollIntoView({ block: 'nearest' })
  }
  return (
    <>
      <Button
        variant="outlined"
        onClick={() => setOpen(true)}
        aria-label={t('search.open')}
        aria-keyshortcuts="/"
        sx={{ color: 'inherit', borderColor: paint.onDarkLine, minHeight: 34, minWidth: 0, gap: 1.5 }}>
        <SearchIcon fontSize="small" />
        <Box component="span" sx={{ display: { xs: 'none', md: 'inline' } }}>
          {t('search.open')}
        </Box>{' '}
        <Box
          component="kbd"
          aria-hidden
          sx={{
            display: { xs: 'none', md: 'inline' },
            ml: 1,
            px: 1.25,
            border: `1px solid ${paint.onDarkLine}`,
            borderRadius: 1,
            fontFamily: 'inherit',
            fontSize: '0.8rem',
          }}>
          /
        </Box>
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        maxWidth="sm"
        fullWidth
        aria-label={t('search.open')}
        sx={{ '& .MuiDialog-container': { alignItems: 'start' } }}>
        <Box sx={{ p: 3, pb: 2 }}>
          <OutlinedInput
            autoFocus
            fullWidth
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={keys}
            placeholder={t('search.hint')}
            startAdornment={<SearchIcon sx={{ mr: 2, color: 'text.secondary' }} />}
            inputProps={{
              'aria-label': t('search.hint'),
              role: 'combobox',
              'aria-expanded': results.length > 0,
              'aria-controls': 'search-results',
              'aria-activedescendant': results.length ? `search-${at}` : undefined,
            }}
          />
        </Box>
        <Box
          component="ul"
          ref={list}
          id="search-results"
          role="listbox"
          aria-label={t('search.results')}
          sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 420, overflow: 'auto' }}>
          {results.map((f, i) => (
            <Box
              component="li"
              key={f.kind + f.id + (f.layer ?? '')}
              id={`search-${i}`}
              role="option"
              aria-selected={i === at}
              onClick={() => go(f)}
              onMouseMove={() => setAt(i)}
              sx={{
                display: 'flex',
                alignItems: 'center',
                justifyContent: 'space-between',
                gap: 3,
                px: 4,
                py: 1.75,
                cursor: 'pointer',
                bgcolor: i === at ? paint.sand : 'transparent',
              }}>
              <Box sx={{ minWidth: 0 }}>
                <b>{f.title}</b>
                <Typography variant="body2" color="text.secondary" noWrap>
                  {f.under}
                </Typography>
              </Box>
              <Pill>{t(`search.kind.${f.kind}`)}</Pill>
            </Box>
          ))}
        </Box>
        {asked.trim().length > 1 && found.isSuccess && results.length === 0 && (
          <Typography sx={{ px: 4, pb: 3 }} role="status">
            {t('search.none', { text: asked })}
          </Typography>
        )}
      </Dialog>
    </>
  )
}
