import Box from '@mui/material/Box'
import { visuallyHidden } from '@mui/utils'
import type { ReactNode } from 'react'
import { formatNumber, t } from '../../texts'
import type { AnsweredTile } from '../../types'
import type { OwnPicture } from '../tilePicture'

export type TileOf<K extends AnsweredTile['kind']> = Extract<AnsweredTile, { kind: K }>
/** What every tile is given beside its answer. */
export type TileProps<K extends AnsweredTile['kind']> = {
  tile: TileOf<K>
  /** The board's address in the API. */
  base: string
  /** What was picked, as the server is asked. */
  query: string
  /** Today, by the programme's calendar. */
  today: string
  area: [number, number, number, number]
  /** Where a tile that draws by itself leaves how its picture is made. */
  picture?: OwnPicture
  /** What one can do with it, where the tile has its title itself. */
  menu?: ReactNode
}

/** What a chart draws, for those who hear it. */
export function HeardTable({
  caption,
  heads,
  rows,
}: {
  caption: string
  heads: string[]
  rows: (string | number)[][]
}) {
  return (
    <Box component="table" sx={visuallyHidden}>
      <caption>{caption}</caption>
      <thead>
        <tr>
          {heads.map((h, i) => (
            <th key={i} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, j) => (
              <td key={j}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  )
}

type FootProps = {
  n: number | null
  missing?: number
  least?: number | null
  /** Whether it would be parted once more, were it not of too few. */
  unparted?: boolean
  more?: ReactNode
}

/** Of how many records (null: not told), and what is not in it. */
export function Foot({ n, missing = 0, least = null, unparted, more }: FootProps) {
  return (
    <Box sx={{ color: 'text.secondary', fontSize: '0.82rem', mt: 'auto', pt: 1.5 }}>
      {n !== null && t('board.count', { n })}
      {missing > 0 && ` · ${t('tile.missing', { n: formatNumber(missing) })}`}
      {least !== null && `${n === null ? '' : ' · '}${t('tile.least', { n: least })}`}
      {unparted && ` · ${t('tile.unparted')}`}
      {more}
    </Box>
  )
}

export const Nothing = () => <Box sx={{ color: 'text.secondary', mt: 2 }}>{t('board.nothing')}</Box>
