import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Edit from '@mui/icons-material/EditOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState, type ReactNode } from 'react'
import { paint } from '../../shared/paint'
import { sentences } from '../../shared/api'
import { t } from '../../shared/texts'
import { purposeName } from './catalogue'
import type { Thing } from './catalogue'
import { deleteShelf, makeShelf, renameShelf } from '../queries/programmes'

export type Shelf = { id: number; name: string }
export type View =
  | { kind: 'all' | 'star' | 'loose' | 'bin' }
  | { kind: 'shelf'; id: number }
  | { kind: 'purpose' | 'tag'; name: string }

type Props = {
  programme: number
  things: Thing[]
  shelves: Shelf[]
  purposes: string[]
  view: View
  onView: (view: View) => void
  onChanged: () => void
}

/** What can be looked at: all, starred, each shelf, each purpose, each tag, the bin. */
export function ShelfList({ programme, things, shelves, purposes, view, onView, onChanged }: Props) {
  const [naming, setNaming] = useState<{ id: number | null; name: string } | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const key = JSON.stringify(view)
  const tags = [...new Set(things.flatMap((x) => x.tags))].sort((a, b) => a.localeCompare(b))
  const work = async (request: Promise<unknown>) => {
    try {
      await request
      setNaming(null)
      setSaid([])
      onChanged()
    } catch (e) {
      setSaid(sentences(e))
    }
  }
  const save = () =>
    naming?.name.trim() &&
    void work(
      naming.id === null
        ? makeShelf(programme, { name: naming.name })
        : renameShelf(programme, naming.id, { name: naming.name }),
    )
  const line = (to: View, label: string, n: number | null, more?: ReactNode) => (
    <Box component="li" key={JSON.stringify(to)} sx={{ display: 'flex', alignItems: 'center' }}>
      <ButtonBase
        onClick={() => onView(to)}
        aria-current={key === JSON.stringify(to) || undefined}
        sx={{
          flex: 1,
          justifyContent: 'space-between',
          textAlign: 'left',
          px: 2,
          py: 1.25,
          borderRadius: 1.5,
          fontWeight: key === JSON.stringify(to) ? 700 : 400,
          bgcolor: key === JSON.stringify(to) ? paint.sand : 'transparent',
          minWidth: 0,
        }}>
        <span>{label}</span>
        {n !== null && (
          <Box component="span" sx={{ color: 'text.secondary', fontVariantNumeric: 'tabular-nums' }}>
            {n}
          </Box>
        )}
      </ButtonBase>
      {more}
    </Box>
  )
  const count = (test: (x: Thing) => boolean) => (view.kind === 'bin' ? null : things.filter(test).length)
  return (
    <Box component="nav" aria-label={t('things.views')} sx={{ display: 'grid', gap: 3 }}>
      <List>
        {line(
          { kind: 'all' },
          t('things.view.all'),
          count(() => true),
        )}
        {line(
          { kind: 'star' },
          t('things.view.star'),
          count((x) => x.starred),
        )}
      </List>
      <Box>
        <Typography variant="h3" sx={{ px: 2 }}>
          {t('things.shelves')}
        </Typography>
        <List>
          {shelves.map((s) =>
            line(
              { kind: 'shelf', id: s.id },
              s.name,
              count((x) => x.shelf === s.id),
              <>
                <IconButton
                  size="small"
                  aria-label={t('shelf.rename', { name: s.name })}
                  onClick={() => setNaming({ id: s.id, name: s.name })}>
                  <Edit sx={{ fontSize: 16 }} />
                </IconButton>
                <IconButton
                  size="small"
                  aria-label={t('shelf.remove', { name: s.name })}
                  title={t('shelf.remove.note')}
                  onClick={() => void work(deleteShelf(programme, s.id)).then(() => onView({ kind: 'all' }))}>
                  <DeleteOutline sx={{ fontSize: 16 }} />
                </IconButton>
              </>,
            ),
          )}
          {shelves.length > 0 &&
            line(
              { kind: 'loose' },
              t('things.view.loose'),
              count((x) => x.shelf === null),
            )}
        </List>
        {naming ? (
          <Box
            component="form"
            onSubmit={(e) => {
              e.preventDefault()
              save()
            }}
            sx={{ display: 'flex', gap: 1, px: 1 }}>
            <OutlinedInput
              size="small"
              autoFocus
              value={naming.name}
              onChange={(e) => setNaming({ ...naming, name: e.target.value })}
              onKeyDown={(e) => e.key === 'Escape' && setNaming(null)}
              inputProps={{ 'aria-label': t('shelf.name'), maxLength: 80 }}
            />
            <Button size="small" type="submit">
              {t('save')}
            </Button>
          </Box>
        ) : (
          <Button size="small" variant="text" onClick={() => setNaming({ id: null, name: '' })}>
            {t('shelf.new')}
          </Button>
        )}
        {said.length > 0 && (
          <Typography role="alert" variant="body2" color="error">
            {said.join(' ')}
          </Typography>
        )}
      </Box>
      <Box>
        <Typography variant="h3" sx={{ px: 2 }}>
          {t('things.purposes')}
        </Typography>
        <List>
          {purposes.map((p) =>
            line(
              { kind: 'purpose', name: p },
              purposeName(p),
              count((x) => x.purposes.includes(p)),
            ),
          )}
        </List>
      </Box>
      {tags.length > 0 && (
        <Box>
          <Typography variant="h3" sx={{ px: 2 }}>
            {t('things.tags')}
          </Typography>
          <List>
            {tags.map((tag) =>
              line(
                { kind: 'tag', name: tag },
                tag,
                count((x) => x.tags.includes(tag)),
              ),
            )}
          </List>
        </Box>
      )}
      <List>{line({ kind: 'bin' }, t('things.view.bin'), view.kind === 'bin' ? things.length : null)}</List>
    </Box>
  )
}

const List = ({ children }: { children: ReactNode }) => (
  <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
    {children}
  </Box>
)
