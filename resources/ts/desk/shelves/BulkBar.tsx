import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState, type ReactNode } from 'react'
import { paint } from '../../shared/paint'
import { t } from '../../shared/texts'
import { purposeName } from './catalogue'
import type { Shelf } from './ShelfList'
import type { Action, Thing } from './catalogue'

type Props = {
  picked: Thing[]
  binned: boolean
  shelves: Shelf[]
  purposes: string[]
  owners: { id: number; name: string }[]
  onAct: (action: Action, using?: string | number | null) => void
  onNone: () => void
}

/** What can be done with the things that are chosen. */
export function BulkBar({ picked, binned, shelves, purposes, owners, onAct, onNone }: Props) {
  const tags = [...new Set(picked.flatMap((x) => x.tags))]
  return (
    <Box
      role="toolbar"
      aria-label={t('bulk.title')}
      sx={{
        display: 'flex',
        gap: 1.5,
        alignItems: 'center',
        flexWrap: 'wrap',
        bgcolor: paint.sand,
        borderRadius: 1.5,
        p: 2,
        position: 'sticky',
        top: 8,
        zIndex: 2,
      }}>
      <b>{t('bulk.chosen', { n: picked.length })}</b>
      {binned ? (
        <Button size="small" onClick={() => onAct('restore')}>
          {t('bulk.restore')}
        </Button>
      ) : (
        <>
          <Choose label={t('bulk.shelf')}>
            {(close) => [
              ...shelves.map((s) => (
                <MenuItem
                  key={s.id}
                  onClick={() => {
                    close()
                    onAct('shelf', s.id)
                  }}>
                  {s.name}
                </MenuItem>
              )),
              <MenuItem
                key="none"
                onClick={() => {
                  close()
                  onAct('shelf', null)
                }}>
                {t('bulk.noshelf')}
              </MenuItem>,
            ]}
          </Choose>
          <Choose label={t('bulk.tag')}>
            {(close) => [
              <Word
                key="new"
                label={t('bulk.tag.new')}
                onWord={(word) => {
                  close()
                  onAct('tag', word)
                }}
              />,
              ...tags.map((tag) => (
                <MenuItem
                  key={tag}
                  onClick={() => {
                    close()
                    onAct('untag', tag)
                  }}>
                  {t('bulk.untag', { tag })}
                </MenuItem>
              )),
            ]}
          </Choose>
          <Choose label={t('bulk.purpose')}>
            {(close) => [
              ...purposes.map((p) => {
                const all = picked.every((x) => x.purposes.includes(p))
                return (
                  <MenuItem
                    key={p}
                    selected={all}
                    onClick={() => {
                      close()
                      onAct(all ? 'unpurpose' : 'purpose', p)
                    }}>
                    {all ? t('bulk.unpurpose', { purpose: purposeName(p) }) : purposeName(p)}
                  </MenuItem>
                )
              }),
              <Word
                key="new"
                label={t('bulk.purpose.new')}
                onWord={(word) => {
                  close()
                  onAct('purpose', word)
                }}
              />,
            ]}
          </Choose>
          {owners.length > 1 && (
            <Choose label={t('bulk.owner')}>
              {(close) =>
                owners.map((o) => (
                  <MenuItem
                    key={o.id}
                    onClick={() => {
                      close()
                      onAct('hand_over', o.id)
                    }}>
                    {o.name}
                  </MenuItem>
                ))
              }
            </Choose>
          )}
          <Button size="small" variant="outlined" onClick={() => onAct('copy')}>
            {t('bulk.copy')}
          </Button>
          <Button size="small" variant="outlined" color="error" onClick={() => onAct('bin')}>
            {t('bulk.bin')}
          </Button>
        </>
      )}
      <Button size="small" variant="text" onClick={onNone} sx={{ ml: 'auto' }}>
        {t('bulk.none')}
      </Button>
    </Box>
  )
}

function Choose({ label, children }: { label: string; children: (close: () => void) => ReactNode[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null)
  return (
    <>
      <Button
        size="small"
        variant="outlined"
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}>
        {label}
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {children(() => setAnchor(null))}
      </Menu>
    </>
  )
}

/** A word of one's own, inside a menu. */
function Word({ label, onWord }: { label: string; onWord: (word: string) => void }) {
  const [word, setWord] = useState('')
  return (
    <Box
      component="li"
      role="none"
      onKeyDown={(e) => {
        if (e.key !== 'Escape') e.stopPropagation()
      }}
      sx={{ px: 2, py: 1 }}>
      <Box
        component="form"
        onSubmit={(e) => {
          e.preventDefault()
          if (word.trim()) onWord(word.trim())
        }}
        sx={{ display: 'flex', gap: 1 }}>
        <OutlinedInput
          size="small"
          value={word}
          onChange={(e) => setWord(e.target.value)}
          placeholder={label}
          inputProps={{ 'aria-label': label, maxLength: 40 }}
        />
        <Button size="small" type="submit" disabled={word.trim() === ''}>
          {t('bulk.add')}
        </Button>
      </Box>
    </Box>
  )
}
