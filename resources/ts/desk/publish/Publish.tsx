import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Link, useNavigate } from 'react-router'
import { MapPicture } from '../../shared/parts/MapPicture'
import { Pill } from '../../shared/parts/Pill'
import { Problems } from '../../shared/parts/Problems'
import { Empty } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { ApiError } from '../../shared/api'
import type { BoardDoc, LayerLine, MapDoc } from '../../shared/types'
import { AlertShelf } from '../alerts/AlertShelf'
import { useProgramme } from '../ProgrammePage'
import { MyGroups } from './MyGroups'
import { seenAs } from './seen/seenAs'
import { boardsOf, gateOf, makeBoard, makeMap, mapsOf } from '../queries/publish'
import { keys } from '../queries/keys'
import { layersOf } from '../queries/layers'

/** The maps and boards of the programme. */
export function Publish() {
  const programme = useProgramme()
  const navigate = useNavigate()
  const client = useQueryClient()
  const [error, setError] = useState<unknown>(null)
  const maps = useQuery(mapsOf(programme.id))
  const boards = useQuery(boardsOf(programme.id))
  const ofLayers = layersOf(programme.id)
  const layers = useQuery(ofLayers)
  const [choosing, setChoosing] = useState<HTMLElement | null>(null)
  const beginMap = async (button: HTMLElement) => {
    try {
      // Whoever clicks before the layers have come waits for them, and the click is not lost.
      const all = await client.fetchQuery(ofLayers)
      if (all.length === 0) setError(new ApiError(0, 'nolayer', t('publish.nolayer.text')))
      else if (all.length > 1) setChoosing(button)
      else await make('map', all[0])
    } catch (caught) {
      setError(caught)
    }
  }
  const make = async (kind: 'map' | 'board', layer?: LayerLine) => {
    setChoosing(null)
    try {
      const made =
        kind === 'map' && layer
          ? await makeMap(programme.id, {
              layer: layer.id,
              title: t('publish.map.title', { layer: layer.title }),
            })
          : await makeBoard(programme.id, {
              title: t('publish.board.title', { programme: programme.name }),
            })
      await client.invalidateQueries({
        queryKey: kind === 'map' ? keys.maps(programme.id) : keys.boards(programme.id),
      })
      await navigate(`${kind}/${made.id}`)
    } catch (caught) {
      setError(caught)
    }
  }
  // Maps and boards outlive their layers: whoever makes them still finds them. To others they have nothing to show.
  const none =
    layers.data?.length === 0 && (!programme.makes || (maps.data?.length === 0 && boards.data?.length === 0))
  if (none) {
    return (
      <Box sx={{ p: 5 }}>
        <Empty
          title={t(programme.role === 'coordinator' ? 'publish.nolayer' : 'publish.noneseen.title')}
          action={
            programme.role === 'coordinator' && (
              <Button component={Link} to={`/desk/p/${programme.id}/build/new`}>
                {t('build.new')}
              </Button>
            )
          }>
          {t(programme.role === 'coordinator' ? 'publish.nolayer.text' : 'publish.noneseen')}
        </Empty>
      </Box>
    )
  }
  return (
    <Box sx={{ p: { xs: 3, md: 5 }, maxWidth: 1100, width: '100%', mx: 'auto', display: 'grid', gap: 7 }}>
      <Problems error={error ?? maps.error ?? boards.error} />
      {programme.role !== 'coordinator' && <MyGroups />}
      <Shelf
        title={t('publish.maps')}
        kind="map"
        items={maps.data}
        empty={t('publish.maps.empty')}
        make={t('publish.map.new')}
        onMake={(button) => void beginMap(button)}
      />
      <Shelf
        title={t('publish.boards')}
        kind="board"
        items={boards.data}
        empty={t('publish.boards.empty')}
        make={t('publish.board.new')}
        onMake={() => void make('board')}
      />
      {programme.role === 'coordinator' && <GateLine programme={programme.id} />}
      {programme.role === 'coordinator' && <SeenLine />}
      {programme.role === 'coordinator' && <AlertShelf />}
      <Menu
        open={choosing !== null}
        anchorEl={choosing}
        onClose={() => setChoosing(null)}
        slotProps={{ list: { 'aria-label': t('publish.map.of') } }}>
        {layers.data?.map((layer) => (
          <MenuItem key={layer.id} onClick={() => void make('map', layer)}>
            {t('publish.map.title', { layer: layer.title })}
          </MenuItem>
        ))}
      </Menu>
    </Box>
  )
}

/** The way to the front door, and whether it is open. */
function GateLine({ programme }: { programme: number }) {
  const gate = useQuery(gateOf(programme))
  return (
    <Way
      title={t('gate.title')}
      to="gate"
      name={gate.data?.title ?? ' '}
      lead={t('gate.lead')}
      before={
        <Box
          aria-hidden
          sx={{ width: 12, alignSelf: 'stretch', borderRadius: 1, bgcolor: gate.data?.colour ?? 'divider' }}
        />
      }
      after={
        gate.data && (
          <Pill tone={gate.data.open ? 'well' : 'plain'}>
            {t(gate.data.open ? 'gate.is.open' : 'gate.is.closed')}
          </Pill>
        )
      }
    />
  )
}

/** The way to who sees what. */
const SeenLine = () => (
  <Way title={t('seen.title')} to="seen" name={t('seen.layers.what')} lead={t('seen.lead')} />
)

type WayProps = {
  title: string
  to: string
  name: string
  lead: string
  before?: ReactNode
  after?: ReactNode
}

/** A line that leads to a page of its own. */
const Way = ({ title, to, name, lead, before, after }: WayProps) => (
  <section>
    <Typography variant="h1" sx={{ mb: 3 }}>
      {title}
    </Typography>
    <Paper
      variant="outlined"
      component={Link}
      to={to}
      sx={{
        p: 4,
        color: 'inherit',
        textDecoration: 'none',
        display: 'flex',
        gap: 3,
        alignItems: 'center',
        '&:hover': { borderColor: 'text.primary' },
      }}>
      {before}
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography variant="h2">{name}</Typography>
        <Typography variant="body2" color="text.secondary">
          {lead}
        </Typography>
      </Box>
      {after}
    </Paper>
  </section>
)

type ShelfProps = {
  title: string
  kind: 'map' | 'board'
  items: (MapDoc | BoardDoc)[] | undefined
  empty: string
  make: string
  onMake: (button: HTMLElement) => void
}

function Shelf({ title, kind, items, empty, make, onMake }: ShelfProps) {
  const maker = useProgramme().makes
  return (
    <section>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: 3 }}>
        <Typography variant="h1">{title}</Typography>
        {maker && <Button onClick={(e) => onMake(e.currentTarget)}>{make}</Button>}
      </Box>
      {items?.length === 0 && <Typography color="text.secondary">{empty}</Typography>}
      <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'repeat(auto-fill, minmax(300px, 1fr))' }}>
        {items?.map((item) => (
          <Paper
            key={item.id}
            variant="outlined"
            component={Link}
            // Whoever may not change it reads it.
            to={maker ? `${kind}/${item.id}` : `../${kind}/${item.id}`}
            sx={{
              overflow: 'hidden',
              color: 'inherit',
              textDecoration: 'none',
              '&:hover': { borderColor: 'text.primary' },
            }}>
            {/* A picture is asked for as oneself, so it is left out where one looks as others do. */}
            {kind === 'map' && seenAs() === null && (
              <MapPicture address={`/api/v1/maps/${item.id}/picture.png`} />
            )}
            <Box
              sx={{ p: 4, display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 2 }}>
              <Typography variant="h2" sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
                {item.title}
              </Typography>
              <Pill tone={item.audience === 'link' ? 'well' : 'plain'}>{t(`audience.${item.audience}`)}</Pill>
            </Box>
          </Paper>
        ))}
      </Box>
    </section>
  )
}
