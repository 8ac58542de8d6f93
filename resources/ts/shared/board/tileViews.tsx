import LockOutlined from '@mui/icons-material/LockOutlined'
import Box from '@mui/material/Box'
import { lazy, type ComponentType } from 'react'
import { t } from '../texts'
import type { AnsweredTile } from '../types'
import { BreakdownTile } from './tiles/BreakdownTile'
import { CoverageTile } from './tiles/CoverageTile'
import { CrewsTile } from './tiles/CrewsTile'
import { FormTile } from './tiles/FormTile'
import { LatestTile } from './tiles/LatestTile'
import { LinkTile } from './tiles/LinkTile'
import { NumberTile } from './tiles/NumberTile'
import { OutingsTile } from './tiles/OutingsTile'
import { PhotosTile } from './tiles/PhotosTile'
import { PickerTile } from './tiles/PickerTile'
import { TableTile } from './tiles/TableTile'
import { TargetTile } from './tiles/TargetTile'
import { TextTile } from './tiles/TextTile'
import type { TileProps } from './tiles/shared'

/* Charts and maps come when a board has one of them. */
const TrendTile = lazy(() => import('./tiles/TrendTile').then((m) => ({ default: m.TrendTile })))
const SpreadTile = lazy(() => import('./tiles/SpreadTile').then((m) => ({ default: m.SpreadTile })))
const PairsTile = lazy(() => import('./tiles/PairsTile').then((m) => ({ default: m.PairsTile })))
const DetailsTile = lazy(() => import('./tiles/DetailsTile').then((m) => ({ default: m.DetailsTile })))
const MapTile = lazy(() => import('./tiles/MapTile').then((m) => ({ default: m.MapTile })))

function BrokenTile({ tile }: TileProps<'broken'>) {
  // What is not open to somebody is nothing that they could mend.
  if (tile.answer.closed)
    return (
      <Box sx={{ mt: 2, color: 'text.secondary', display: 'flex', alignItems: 'center', gap: 2 }}>
        <LockOutlined fontSize="small" aria-hidden />
        {tile.answer.messages.join(' ')}
      </Box>
    )
  return (
    <Box sx={{ mt: 2, color: 'secondary.main' }}>
      {t('board.broken')} {tile.answer.messages.join(' ')}
    </Box>
  )
}

/** The component of each kind of tile (PinYard\Board\TileKinds has the other half). */
export const TILE_VIEWS: { [K in AnsweredTile['kind']]: ComponentType<TileProps<K>> } = {
  number: NumberTile,
  target: TargetTile,
  breakdown: BreakdownTile,
  trend: TrendTile,
  spread: SpreadTile,
  pairs: PairsTile,
  table: TableTile,
  latest: LatestTile,
  details: DetailsTile,
  form: FormTile,
  map: MapTile,
  coverage: CoverageTile,
  crews: CrewsTile,
  outings: OutingsTile,
  photos: PhotosTile,
  text: TextTile,
  link: LinkTile,
  picker: PickerTile,
  broken: BrokenTile,
}
