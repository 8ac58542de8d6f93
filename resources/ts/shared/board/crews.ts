import { t } from '../texts'
import type { Api, BoardAnswers } from '../types'
import type { Picks } from './picks'

type Person = Api['CrewPerson']
/** Who is out, by a key that stays while the board is open. */
export type Crew = Person & { key: string; called: string }

/** Visitors that crews were opened to are told of nobody in them. */
const keyOf = (p: Person, i: number) => (p.id === null ? `${p.crew_id ?? 0}-${i}` : String(p.id))

export const crewsIn = (people: Person[]): Crew[] =>
  people.map((p, i) => ({ ...p, key: keyOf(p, i), called: p.name ?? p.crew ?? t('crews.none') }))

/** Those that the crew tiles of a board tell of. */
export const crewsOn = (board: BoardAnswers): Crew[] =>
  board.tiles.flatMap((tile) => (tile.kind === 'crews' ? crewsIn(tile.answer.people) : []))

const FOLLOWED = 'crew:'
export const asFollowed = (key: string) => FOLLOWED + key

/** The crew that maps follow. */
export function followedIn(picks: Picks): { tile: string; key: string } | null {
  const [tile, shown] = Object.entries(picks.show)[0] ?? []
  return tile !== undefined && shown?.startsWith(FOLLOWED)
    ? { tile, key: shown.slice(FOLLOWED.length) }
    : null
}

/** The record that is shown, and the tile that it was tapped in. */
export function shownIn(picks: Picks): { tile: string; record: string } | null {
  const [tile, shown] = Object.entries(picks.show)[0] ?? []
  return tile !== undefined && shown !== undefined && !shown.startsWith(FOLLOWED)
    ? { tile, record: shown }
    : null
}
