import type { AnsweredTile } from '../../../shared/types'

/** Where the records behind a tile are at the desk. */
export const recordsOf = (programme: number) => (tile: AnsweredTile) =>
  tile.layer === undefined || tile.kind === 'broken'
    ? null
    : `/desk/p/${programme}/check?layer=${tile.layer}${tile.slice ? `&slice=${tile.slice}` : ''}`
