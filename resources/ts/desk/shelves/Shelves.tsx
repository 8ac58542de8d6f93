import Star from '@mui/icons-material/Star'
import StarBorder from '@mui/icons-material/StarBorder'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import Chip from '@mui/material/Chip'
import IconButton from '@mui/material/IconButton'
import Link from '@mui/material/Link'
import OutlinedInput from '@mui/material/OutlinedInput'
import Snackbar from '@mui/material/Snackbar'
import Table from '@mui/material/Table'
import TableBody from '@mui/material/TableBody'
import TableCell from '@mui/material/TableCell'
import TableHead from '@mui/material/TableHead'
import TableRow from '@mui/material/TableRow'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { sentences } from '../../shared/api'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { ago, formatDate, t } from '../../shared/texts'
import { BulkBar } from './BulkBar'
import { useProgramme } from '../ProgrammePage'
import { Storage } from './StorageUse'
import { ShelfList, type View } from './ShelfList'
import { addressOf, tidy, type Action, type Thing, purposeName } from './catalogue'
import { keys } from '../queries/keys'
import { thingsOf } from '../queries/programmes'

const same = (a: Thing, b: Thing) => a.kind === b.kind && a.id === b.id
/**
 * Everything of a programme in one list: on shelves, with tags, purposes and stars; several things are put in
 * order at once.
 */
export function Shelves() {
  const programme = useProgramme()
  const client = useQueryClient()
  const [view, setView] = useState<View>({ kind: 'all' })
  const binned = view.kind === 'bin'
  const answer = useQuery(thingsOf(programme.id, binned))
  const [chosen, setChosen] = useState<Thing[]>([])
  const [words, setWords] = useState('')
  const [told, setTold] = useState<{ text: string; undo?: () => Promise<unknown> } | null>(null)
  const [said, setSaid] = useState<string[]>([])
  const again = async () => {
    for (const kind of ['things', 'layers', 'maps', 'boards', 'ready', 'designSheet', 'programme'] as const)
      await client.invalidateQueries({ queryKey: keys[kind](programme.id) })
  }
  const act = async (action: Action, things: Thing[], using: string | number | null = null) => {
    setSaid([])
    try {
      const after = await tidy(action, things, using)
      if (action === 'bin')
        setTold({
          text: t('things.binned', { n: things.length }),
          undo: () =>
            tidy(
              'restore',
              things.filter((x) => x.kind === 'layer'),
            ).then(() =>
              tidy(
                'restore',
                things.filter((x) => x.kind !== 'layer'),
              ).catch(() => undefined),
            ),
        })
      if (action === 'restore') setTold({ text: t('things.restored', { n: things.length }) })
      if (action === 'copy') setTold({ text: t('things.copied', { n: things.length }) })
      setChosen(
        action === 'bin' || action === 'restore' || action === 'copy'
          ? []
          : chosen.map((c) => after.find((x) => same(x, c)) ?? c),
      )
      await again()
    } catch (e) {
      setSaid(sentences(e))
    }
  }
  const { things = [], shelves = [], purposes = [], owners = [] } = answer.data ?? {}
  const shown = things.filter(
    (x) =>
      fits(x, view) &&
      words
        .toLowerCase()
        .split(/\s+/)
        .every((w) => `${x.title} ${x.tags.join(' ')} ${x.owner ?? ''}`.toLowerCase().includes(w)),
  )
  const picked = shown.filter((x) => chosen.some((c) => same(c, x)))
  const toggle = (x: Thing) =>
    setChosen(chosen.some((c) => same(c, x)) ? chosen.filter((c) => !same(c, x)) : [...chosen, x])
  return (
    <Box
      sx={{
        p: { xs: 3, md: 5 },
        display: 'grid',
        gap: 4,
        gridTemplateColumns: '1fr',
        '@media (min-width: 760px)': { gridTemplateColumns: '200px minmax(0,1fr)' },
        alignItems: 'start',
      }}>
      <ShelfList
        programme={programme.id}
        things={things}
        shelves={shelves}
        purposes={purposes}
        view={view}
        onView={(v) => {
          setView(v)
          setChosen([])
        }}
        onChanged={() => void again()}
      />
      <Box sx={{ display: 'grid', gap: 3, minWidth: 0 }}>
        <Box
          sx={{
            display: 'flex',
            justifyContent: 'space-between',
            alignItems: 'end',
            gap: 3,
            flexWrap: 'wrap',
          }}>
          <Box>
            <Typography variant="h1">{t('things.title')}</Typography>
            <Typography color="text.secondary">{t(binned ? 'things.bin.lead' : 'things.lead')}</Typography>
          </Box>
          <OutlinedInput
            size="small"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            placeholder={t('things.filter')}
            inputProps={{ 'aria-label': t('things.filter') }}
          />
        </Box>
        <Problems error={answer.error} />
        {said.length > 0 && (
          <Box role="alert" sx={{ color: 'error.main' }}>
            {said.map((line) => (
              <div key={line}>{line}</div>
            ))}
          </Box>
        )}
        {picked.length > 0 && (
          <BulkBar
            picked={picked}
            binned={binned}
            shelves={shelves}
            purposes={purposes}
            owners={owners}
            onAct={(action, using) => void act(action, picked, using)}
            onNone={() => setChosen([])}
          />
        )}
        {answer.data && shown.length === 0 && (
          <Empty title={t(binned ? 'things.bin.empty' : 'things.empty')}>
            {t(binned ? 'things.bin.empty.text' : 'things.empty.text')}
          </Empty>
        )}
        {shown.length > 0 && (
          <Box
            sx={{
              overflowX: 'auto',
              bgcolor: 'background.paper',
              border: '1px solid',
              borderColor: 'divider',
              borderRadius: 1.5,
            }}>
            <Table size="small">
              <TableHead>
                <TableRow>
                  <TableCell padding="checkbox">
                    <Checkbox
                      size="small"
                      indeterminate={picked.length > 0 && picked.length < shown.length}
                      checked={picked.length === shown.length}
                      onChange={() => setChosen(picked.length === shown.length ? [] : shown)}
                      inputProps={{ 'aria-label': t('things.all') }}
                    />
                  </TableCell>
                  {(
                    ['things.name', 'things.what', 'things.where', 'things.owner', 'things.changed'] as const
                  ).map((k) => (
                    <TableCell key={k} sx={{ fontWeight: 650 }}>
                      {t(binned && k === 'things.changed' ? 'things.until' : k)}
                    </TableCell>
                  ))}
                </TableRow>
              </TableHead>
              <TableBody>
                {shown.map((x) => (
                  <TableRow key={x.kind + x.id} hover selected={picked.includes(x)}>
                    <TableCell padding="checkbox">
                      <Checkbox
                        size="small"
                        checked={picked.includes(x)}
                        onChange={() => toggle(x)}
                        inputProps={{ 'aria-label': t('things.choose', { title: x.title }) }}
                      />
                    </TableCell>
                    <TableCell>
                      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
                        {!binned && (
                          <IconButton
                            size="small"
                            aria-pressed={x.starred}
                            aria-label={t(x.starred ? 'things.unstar' : 'things.star', { title: x.title })}
                            onClick={() => void act(x.starred ? 'unstar' : 'star', [x])}>
                            {x.starred ? (
                              <Star fontSize="small" sx={{ color: 'secondary.main' }} />
                            ) : (
                              <StarBorder fontSize="small" />
                            )}
                          </IconButton>
                        )}
                        {binned ? (
                          <b>{x.title}</b>
                        ) : (
                          <Link component={RouterLink} to={addressOf(x)} sx={{ fontWeight: 650 }}>
                            {x.title}
                          </Link>
                        )}
                        {x.purposes.map((p) => (
                          <Chip
                            key={p}
                            size="small"
                            color="primary"
                            variant="outlined"
                            label={purposeName(p)}
                          />
                        ))}
                        {x.tags.map((tag) => (
                          <Chip key={tag} size="small" label={tag} />
                        ))}
                      </Box>
                    </TableCell>
                    <TableCell>
                      {t(`things.kind.${x.kind}`)}
                      {x.shared && ` · ${t('things.shared')}`}
                    </TableCell>
                    <TableCell>{shelves.find((s) => s.id === x.shelf)?.name ?? ''}</TableCell>
                    <TableCell>{x.owner ?? ''}</TableCell>
                    <TableCell sx={{ whiteSpace: 'nowrap' }}>
                      {binned
                        ? x.gone_on
                          ? formatDate(x.gone_on)
                          : ''
                        : x.changed_at
                          ? ago(x.changed_at)
                          : ''}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Box>
        )}
        {programme.role === 'coordinator' && <Storage programme={programme.id} />}
      </Box>
      <Snackbar
        open={told !== null}
        autoHideDuration={12_000}
        onClose={(_, why) => {
          if (why === 'timeout') setTold(null)
        }}
        message={told?.text}
        action={
          told?.undo ? (
            <Button
              size="small"
              color="inherit"
              variant="outlined"
              onClick={() => {
                const { undo } = told
                setTold(null)
                void undo?.().then(again)
              }}>
              {t('undo')}
            </Button>
          ) : undefined
        }
      />
    </Box>
  )
}

function fits(x: Thing, view: View): boolean {
  switch (view.kind) {
    case 'star':
      return x.starred
    case 'shelf':
      return x.shelf === view.id
    case 'loose':
      return x.shelf === null
    case 'purpose':
      return x.purposes.includes(view.name)
    case 'tag':
      return x.tags.includes(view.name)
    default:
      return true
  }
}
