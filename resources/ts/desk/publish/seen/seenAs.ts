import { lookAs } from '../../../shared/api'

const KEPT = 'pin-yard-seen-as'

/** An audience as which a coordinator looks at a programme: for this tab alone, until they go back. */
export type SeenAs = { programme: number; audience: string; title: string }

export function seenAs(): SeenAs | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEPT) ?? 'null') as SeenAs | null
    return kept && typeof kept.programme === 'number' && typeof kept.audience === 'string' ? kept : null
  } catch {
    return null
  }
}

/** Everything is loaded anew, so that nothing of what was seen before stays on the screen. */
export function seeAs(next: SeenAs, address: string) {
  sessionStorage.setItem(KEPT, JSON.stringify(next))
  location.assign(address)
}

export function seeAsOneself(address: string) {
  sessionStorage.removeItem(KEPT)
  location.assign(address)
}

/** Before anything is asked. */
export function beginSeenAs() {
  const kept = seenAs()
  lookAs(kept && `${kept.programme}:${kept.audience}`)
}
