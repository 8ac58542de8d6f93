import ArrowDownward from '@mui/icons-material/ArrowDownward'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import Link from '@mui/material/Link'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link as RouterLink, useParams } from 'react-router'
import { BoardTiles } from '../../shared/board/BoardTiles'
import { useBoard } from '../../shared/board/useBoard'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Problems } from '../../shared/parts/Problems'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { BoardDoc, LayerLine, Tile } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { AudiencePart } from './AudiencePart'
import { NewTile } from './NewTile'
import { SaveLine, SaveTrouble } from '../unsaved/SaveState'
import { titled } from '../unsaved/titled'
import { useAutosave } from '../unsaved/useAutosave'
import { keys } from '../queries/keys'
import { layersOf } from '../queries/layers'
import { editedBoard } from '../queries/publish'
import { slicesOf } from '../queries/slices'
import { SlicePicker } from '../slices/SlicePicker'

/** Where a board is made: its tiles in order, its audience; the live board beside them. */
export function BoardEditor() {
  const { board: id } = useParams()
  const programme = useProgramme()
  const board = useQuery(editedBoard(Number(id)))
  const layers = useQuery(layersOf(programme.id))
  if (board.error)
    return (
      <Box sx={{ p: 5 }}>
        <Problems error={board.error} />
      </Box>
    )
  return board.data && layers.data ? <Bench key={id} saved={board.data} layers={layers.data} /> : null
}

const WIDTHS = [3, 4, 6, 8, 12]

function Bench({ saved, layers }: { saved: BoardDoc; layers: LayerLine[] }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const { board, error: boardError, refresh } = useBoard(`/boards/${saved.id}/answers`)
  const autosave = useAutosave(
    `/boards/${saved.id}`,
    saved,
    (next) => {
      client.setQueryData(keys.board(saved.id), next)
      void client.invalidateQueries({ queryKey: keys.boards(programme.id) })
      refresh()
    },
    { incomplete: (d) => (titled(d.title, ...d.tiles.map((tile) => tile.title)) ? null : t('save.title')) },
  )
  const { doc, change } = autosave
  const tiles = (next: Tile[]) => change({ tiles: next })
  const put = (i: number, part: Partial<Tile>) =>
    tiles(doc.tiles.map((tile, j) => (j === i ? { ...tile, ...part } : tile)))
  const move = (i: number, by: -1 | 1) => {
    const next = [...doc.tiles]
    next.splice(i + by, 0, ...next.splice(i, 1))
    tiles(next)
  }
  return (
    <BenchShowing
      plain
      benchWidth="380px"
      bench={
        <Box sx={{ display: 'grid', gap: 3.5 }}>
          <Box>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('publish.boards')}
              </Link>
            </Typography>
            <Typography variant="h1">{doc.title || saved.title}</Typography>
            <SaveLine autosave={autosave} />
          </Box>
          <SaveTrouble autosave={autosave} />
          <TextInput
            label={t('board.title')}
            value={doc.title}
            error={doc.title.trim() ? null : t('save.title')}
            onChange={(title) => change({ title })}
          />
          <Sheet title={t('board.tiles')}>
            <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 2 }}>
              {doc.tiles.map((tile, i) => (
                <Paper
                  key={tile.id}
                  variant="outlined"
                  component="li"
                  sx={{ p: 2.5, display: 'grid', gap: 2 }}>
                  <TextInput
                    label={t(`tile.${tile.kind}`)}
                    value={tile.title}
                    error={tile.title.trim() ? null : t('save.title')}
                    onChange={(title) => put(i, { title })}
                  />
                  {layers.some((l) => l.id === tile.layer) && (
                    <TileSlice tile={tile} onChange={(change) => put(i, change)} />
                  )}
                  <Box sx={{ display: 'flex', alignItems: 'end', gap: 1 }}>
                    <Labelled label={t('board.width')}>
                      {({ id }) => (
                        <NativeSelect
                          id={id}
                          input={<OutlinedInput size="small" />}
                          value={tile.width}
                          onChange={(e) => put(i, { width: Number(e.target.value) })}>
                          {[...new Set([...WIDTHS, tile.width])]
                            .sort((a, b) => a - b)
                            .map((w) => (
                              <option key={w} value={w}>
                                {t('board.twelfths', { n: w })}
                              </option>
                            ))}
                        </NativeSelect>
                      )}
                    </Labelled>
                    <Box sx={{ flex: 1 }} />
                    <IconButton
                      disabled={i === 0}
                      onClick={() => move(i, -1)}
                      aria-label={t('design.up.of', { field: tile.title })}>
                      <ArrowUpward fontSize="small" />
                    </IconButton>
                    <IconButton
                      disabled={i === doc.tiles.length - 1}
                      onClick={() => move(i, 1)}
                      aria-label={t('design.down.of', { field: tile.title })}>
                      <ArrowDownward fontSize="small" />
                    </IconButton>
                    <IconButton
                      onClick={() => tiles(doc.tiles.filter((_, j) => j !== i))}
                      aria-label={t('design.remove.of', { field: tile.title })}>
                      <DeleteOutline fontSize="small" />
                    </IconButton>
                  </Box>
                  {(tile.kind === 'latest' || tile.kind === 'map') && (
                    <FormControlLabel
                      label={t('tile.names')}
                      control={
                        <Checkbox
                          size="small"
                          checked={tile.names === true}
                          onChange={(e) => put(i, { names: e.target.checked })}
                        />
                      }
                    />
                  )}
                </Paper>
              ))}
            </Box>
            <NewTile layers={layers} onAdd={(tile) => tiles([...doc.tiles, tile])} />
          </Sheet>
          <AudiencePart
            audience={doc.audience}
            address={doc.address}
            onChange={(audience) => change({ audience }, true)}
            onNewLink={() => change({ new_link: true }, true)}
          />
          {layers.length === 0 && (
            <Button component={RouterLink} to={`/desk/p/${programme.id}/build/new`}>
              {t('build.new')}
            </Button>
          )}
        </Box>
      }
      showing={
        <Box sx={{ p: 4 }}>
          <Problems error={boardError} />
          {board && <BoardTiles board={board} />}
        </Box>
      }
    />
  )
}

/** Of which records a tile tells; a title that was a slice's name goes on being one. */
function TileSlice({ tile, onChange }: { tile: Tile; onChange: (change: Partial<Tile>) => void }) {
  const slices = useQuery(slicesOf(tile.layer))
  const named = slices.data?.some((s) => s.id === tile.slice && s.name === tile.title)
  return (
    <SlicePicker
      label={t('tile.slice')}
      layer={tile.layer}
      mayMake
      size="small"
      value={tile.slice}
      onChange={(slice) =>
        onChange({ slice: slice?.id ?? null, ...(named && slice ? { title: slice.name } : {}) })
      }
    />
  )
}
