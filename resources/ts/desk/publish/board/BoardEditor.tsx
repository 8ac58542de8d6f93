import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Link from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link as RouterLink, useParams } from 'react-router'
import { paint } from '../../../shared/paint'
import { BoardTiles } from '../../../shared/board/BoardTiles'
import { asQuery, PickingContext, usePicksInAddress } from '../../../shared/board/picks'
import { TileFrame } from '../../../shared/board/TileFrame'
import { useBoard } from '../../../shared/board/useBoard'
import { BenchShowing } from '../../../shared/parts/BenchShowing'
import { TextInput } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { Segments } from '../../../shared/parts/Segments'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import type { BoardDoc, LayerLine, Tile } from '../../../shared/types'
import { useProgramme } from '../../ProgrammePage'
import { keys } from '../../queries/keys'
import { layersOf } from '../../queries/layers'
import { editedBoard, mapsOf, measurableOf, proposalsOf } from '../../queries/publish'
import { SaveLine, SaveTrouble } from '../../unsaved/SaveState'
import { titled } from '../../unsaved/titled'
import { useAutosave } from '../../unsaved/useAutosave'
import { AudiencePart } from '../AudiencePart'
import { QuestionsPart } from './QuestionsPart'
import { PagesPart } from './PagesPart'
import { PhoneOrder } from './PhoneOrder'
import { recordsOf } from './recordsOf'
import { TileEditor } from './TileEditor'
import { changed, newTile, said } from './tileEdits'

const Arrange = lazy(() => import('./Arrange').then((m) => ({ default: m.Arrange })))

/** Where a board is made: from questions, as sentences; the live board beside them. */
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

type View = 'arrange' | 'read' | 'phone'

function Bench({ saved, layers }: { saved: BoardDoc; layers: LayerLine[] }) {
  const programme = useProgramme()
  const client = useQueryClient()
  const picking = usePicksInAddress(true)
  const base = `/boards/${saved.id}`
  const { board, query, error: boardError, refresh } = useBoard(`${base}/answers`, asQuery(picking.picks))
  const maps = useQuery(mapsOf(programme.id))
  const questions = useQuery(proposalsOf(programme.id))
  const first = useQuery(measurableOf(layers[0]?.id))
  const autosave = useAutosave(
    `/boards/${saved.id}`,
    saved,
    (next) => {
      client.setQueryData(keys.board(saved.id), next)
      void client.invalidateQueries({ queryKey: keys.boards(programme.id) })
      void client.invalidateQueries({ queryKey: keys.reach(`/boards/${saved.id}`) })
      void client.invalidateQueries({ queryKey: keys.questions(programme.id) })
      refresh()
    },
    { incomplete: (d) => (titled(d.title, ...d.tiles.map((tile) => tile.title)) ? null : t('save.title')) },
  )
  const { doc, change } = autosave
  const [selected, setSelected] = useState<string | null>(null)
  const [view, setView] = useState<View>('arrange')
  const [removed, setRemoved] = useState<{ tile: Tile; at: number } | null>(null)
  const [page, setPage] = useState(0)
  const pages = Math.max(1, doc.pages.length)
  const onPage = Math.min(page, pages - 1)
  const pageOf = (tile: Tile) => Math.min(tile.page ?? 0, pages - 1)
  const tiles = (next: Tile[]) => change({ tiles: next.map(said) })
  const tile = doc.tiles.find((one) => one.id === selected)
  const add = (more: Tile[]) => {
    tiles([...doc.tiles, ...more.map((one) => changed(one, { page: onPage || undefined }))])
    setSelected(more.at(-1)?.id ?? null)
  }
  const answers = new Map(board?.tiles.map((one) => [one.id, one]))
  const pick = (id: string) => {
    setSelected(id)
    const found = doc.tiles.find((one) => one.id === id)
    if (found) setPage(pageOf(found))
  }
  const frame = (one: Tile) => {
    const answered = answers.get(one.id)
    return board && answered ? (
      <TileFrame
        tile={{ ...answered, title: one.title }}
        base={base}
        query={query}
        today={board.today}
        area={board.area as [number, number, number, number]}
        records={recordsOf(programme.id)(answered)}
        gripped
      />
    ) : (
      <Box
        sx={{
          border: `2px dashed ${paint.line2}`,
          borderRadius: 1.5,
          height: '100%',
          p: 3,
          color: 'text.secondary',
        }}>
        {one.title} · {t('tile.coming')}
      </Box>
    )
  }
  return (
    <BenchShowing
      plain
      benchWidth="400px"
      bench={
        <Box sx={{ display: 'grid', gap: 4 }}>
          <Box>
            <Typography variant="caption" sx={{ fontWeight: 600 }}>
              <Link component={RouterLink} to={`/desk/p/${programme.id}/publish`}>
                {t('publish.boards')}
              </Link>
            </Typography>
            <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
              {doc.title || saved.title}
            </Typography>
            <SaveLine autosave={autosave} />
          </Box>
          <SaveTrouble autosave={autosave} />
          {tile && (
            <TileEditor
              key={tile.id}
              tile={tile}
              layers={layers}
              maps={maps.data ?? []}
              pages={doc.pages}
              onChange={(next) => tiles(doc.tiles.map((one) => (one.id === next.id ? next : one)))}
              onRemove={() => {
                setRemoved({ tile, at: doc.tiles.indexOf(tile) })
                tiles(doc.tiles.filter((one) => one.id !== tile.id))
                setSelected(null)
              }}
            />
          )}
          {removed && (
            <Box role="status" sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
              <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
                {t('tile.removed', { tile: removed.tile.title })}
              </Box>
              <Button
                variant="outlined"
                size="small"
                onClick={() => {
                  const next = [...doc.tiles]
                  next.splice(removed.at, 0, removed.tile)
                  tiles(next)
                  setSelected(removed.tile.id)
                  setRemoved(null)
                }}>
                {t('tile.putback')}
              </Button>
            </Box>
          )}
          {view === 'phone' && (
            <PhoneOrder
              tiles={doc.tiles.filter((one) => pageOf(one) === onPage)}
              onChange={(next) => {
                const now = new Map(next.map((one) => [one.id, one]))
                tiles(doc.tiles.map((one) => now.get(one.id) ?? one))
              }}
            />
          )}
          {questions.data && (
            <QuestionsPart
              programme={programme.id}
              questions={questions.data}
              board={saved.id}
              tiles={doc.tiles}
              layers={layers}
              maps={maps.data ?? []}
              onAdd={add}
              onPick={pick}
            />
          )}
          {layers.length === 0 ? (
            <Button component={RouterLink} to={`/desk/p/${programme.id}/build/new`}>
              {t('build.new')}
            </Button>
          ) : (
            <Button
              variant="outlined"
              sx={{ justifySelf: 'start' }}
              disabled={!first.data}
              onClick={() => first.data && add([newTile(layers[0]!.title, layers[0]!.id, first.data)])}>
              {t('board.addtile')}
            </Button>
          )}
          <Sheet title={t('board.itself')}>
            <TextInput
              label={t('board.title')}
              value={doc.title}
              error={doc.title.trim() ? null : t('save.title')}
              onChange={(title) => change({ title })}
            />
          </Sheet>
          <PagesPart
            pages={doc.pages}
            onChange={(next) => change({ pages: next })}
            onRemove={(gone) =>
              change({
                pages: doc.pages.length <= 2 ? [] : doc.pages.filter((_, i) => i !== gone),
                tiles: doc.tiles.map((one) =>
                  pageOf(one) < gone || pageOf(one) === 0
                    ? one
                    : changed(one, { page: pageOf(one) - 1 || undefined, x: undefined, y: undefined }),
                ),
              })
            }
          />
          <AudiencePart
            thing={`/boards/${saved.id}`}
            doc={doc}
            onChange={(shown) => change(shown, true)}
            onNewLink={() => change({ new_link: true }, true)}
            onLeave={(layer) => tiles(doc.tiles.filter((one) => !('layer' in one && one.layer === layer)))}
          />
          {doc.audience === 'link' && (
            <FormControlLabel
              label={t('board.visitors')}
              control={
                <Checkbox
                  checked={doc.visitors_pick}
                  onChange={(e) => change({ visitors_pick: e.target.checked }, true)}
                />
              }
            />
          )}
        </Box>
      }
      showing={
        <Box sx={{ p: 4 }}>
          <Box sx={{ display: 'flex', gap: 2, mb: 3, flexWrap: 'wrap', alignItems: 'center' }}>
            <Segments
              label={t('board.view')}
              value={view}
              onChange={setView}
              options={[
                { value: 'arrange', label: t('board.view.arrange') },
                { value: 'read', label: t('board.view.read') },
                { value: 'phone', label: t('board.view.phone') },
              ]}
            />
            <Link component={RouterLink} to={`/desk/p/${programme.id}/board/${saved.id}`}>
              {t('board.alone')}
            </Link>
            {view === 'arrange' && pages > 1 && (
              <Segments
                label={t('board.pages')}
                value={String(onPage)}
                onChange={(v) => setPage(Number(v))}
                options={doc.pages.map((title, i) => ({
                  value: String(i),
                  label: title || t('board.page', { n: i + 1 }),
                }))}
              />
            )}
          </Box>
          <Problems error={boardError} />
          {board && view === 'arrange' && (
            <PickingContext.Provider value={{ ...picking, mayPick: false }}>
              {doc.tiles.length === 0 && <Box sx={{ color: 'text.secondary' }}>{t('board.empty')}</Box>}
              <Suspense fallback={null}>
                <Arrange
                  tiles={doc.tiles.filter((one) => pageOf(one) === onPage)}
                  selected={selected}
                  onSelect={setSelected}
                  onArrange={(spots) =>
                    tiles(doc.tiles.map((one) => (spots[one.id] ? { ...one, ...spots[one.id] } : one)))
                  }>
                  {frame}
                </Arrange>
              </Suspense>
            </PickingContext.Provider>
          )}
          {board && view !== 'arrange' && (
            <Box sx={view === 'phone' ? { width: 390, maxWidth: '100%', mx: 'auto' } : {}}>
              <BoardTiles
                board={board}
                base={base}
                picking={picking}
                query={query}
                away={Boolean(boardError)}
                recordsOf={recordsOf(programme.id)}
                {...(view === 'phone' ? { phone: true } : {})}
              />
            </Box>
          )}
        </Box>
      }
    />
  )
}
