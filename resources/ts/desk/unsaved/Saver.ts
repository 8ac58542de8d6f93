import { ApiError } from '../../shared/api'
import { drop, keep, readKept } from './kept'

/**
 * - `waiting`: changed, and about to be sent
 * - `held`: what was typed cannot be sent as it is yet (a title that is empty)
 * - `failed`: it did not get through, and is tried again by itself
 * - `refused`: the server does not take it; it stays until it is changed
 * - `clash`: somebody else changed the same to something else; somebody must decide
 */
export type SaveState = 'saved' | 'waiting' | 'saving' | 'held' | 'failed' | 'refused' | 'clash'

export type Clash = { part: string; theirs: string; now: unknown; path: string }

export type Snapshot<T> = {
  doc: T
  state: SaveState
  error: unknown
  /** Why it waits, where it is held. */
  why: string | null
  clashes: Clash[]
  /** Taken up again from a time before: when it was typed. */
  since: string | null
}

type Kept<T> = { pending: Partial<T>; was: Partial<T> }

export type Rules<T> = {
  /** Sends what was changed, with what that was before. @returns the document as it is now */
  send: (change: Partial<T>, was: Partial<T>) => Promise<T>
  onSaved?: (doc: T) => void
  /** Why a document cannot be sent as it is; null where it can. */
  incomplete?: (doc: T) => string | null
}

const SOON_MS = 500
const LONGEST_MS = 60_000

/**
 * Brings what is changed in a document to the server, one request at a time, and never lets go of it before it is there: what fails
 * is kept in this browser and tried again, also after the page that made it was left. Two people are merged by the server.
 */
export class Saver<T extends object> {
  private server: T
  private pending: Partial<T> = {}
  private was: Partial<T> = {}
  private running = false
  private tries = 0
  private timer: ReturnType<typeof setTimeout> | undefined
  private listeners = new Set<() => void>()
  private shown: Snapshot<T>

  constructor(
    readonly thing: string,
    saved: T,
    public rules: Rules<T>,
  ) {
    this.server = saved
    this.shown = { doc: saved, state: 'saved', error: null, why: null, clashes: [], since: null }
    const kept = readKept<Kept<T>>(thing)
    if (kept && Object.keys(kept.value.pending).length > 0) {
      this.pending = kept.value.pending
      this.was = kept.value.was
      this.tell({ doc: { ...saved, ...this.pending }, state: 'waiting', since: kept.at })
      this.soon(0)
    }
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  snapshot = () => this.shown

  get unsaved() {
    return this.running || Object.keys(this.pending).length > 0
  }

  /** The document as the server has it, asked for anew. What was changed here stays as it was typed. */
  refresh(saved: T) {
    if (this.unsaved) return
    this.server = saved
    this.tell({ doc: saved })
  }

  change(part: Partial<T>, now = false) {
    for (const key of Object.keys(part) as (keyof T)[])
      if (!(key in this.pending)) this.was[key] = this.server[key]
    this.pending = { ...this.pending, ...part }
    this.tries = 0
    this.tell({
      doc: { ...this.shown.doc, ...part },
      state: 'waiting',
      error: null,
      clashes: [],
      since: null,
    })
    this.soon(now ? 0 : SOON_MS)
  }

  /** Now, and not only after the time that one waits after a failure. */
  retry = () => {
    this.tries = 0
    this.soon(0)
  }

  /** Of what clashed, mine stands. */
  keepMine = () => {
    for (const clash of this.shown.clashes) this.was[clash.part as keyof T] = clash.now as T[keyof T]
    this.tell({ clashes: [], error: null, state: 'waiting' })
    this.soon(0)
  }

  /** Of what clashed, theirs stands. */
  takeTheirs = () => {
    const doc = { ...this.shown.doc }
    for (const clash of this.shown.clashes) {
      const part = clash.part as keyof T
      delete this.pending[part]
      delete this.was[part]
      doc[part] = clash.now as T[keyof T]
      this.server = { ...this.server, [part]: clash.now }
    }
    this.tell({ doc, clashes: [], error: null, state: this.unsaved ? 'waiting' : 'saved' })
    this.keepOrDrop()
    this.soon(0)
  }

  /** Keeps what is not on the server for the next time; runs when the page goes. */
  put = () => this.keepOrDrop()

  private soon(ms: number) {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.flush(), ms)
  }

  private async flush() {
    if (this.running || Object.keys(this.pending).length === 0) return
    const why = this.rules.incomplete?.(this.shown.doc) ?? null
    if (why !== null) {
      this.tell({ state: 'held', why })
      this.keepOrDrop()
      return
    }
    const [change, was] = [this.pending, this.was]
    this.pending = {}
    this.was = {}
    this.running = true
    this.tell({ state: 'saving', why: null })
    try {
      const next = await this.rules.send(change, was)
      this.running = false
      this.server = next
      this.tries = 0
      // What was changed meanwhile was changed in what has just been sent.
      for (const key of Object.keys(this.pending) as (keyof T)[])
        if (key in change) this.was[key] = change[key]
      const more = Object.keys(this.pending).length > 0
      this.tell({
        doc: { ...next, ...this.pending },
        state: more ? 'waiting' : 'saved',
        error: null,
        since: null,
      })
      this.keepOrDrop()
      this.rules.onSaved?.(next)
      if (more) this.soon(0)
    } catch (error) {
      this.running = false
      this.pending = { ...change, ...this.pending }
      this.was = { ...this.was, ...was }
      this.failed(error)
    }
  }

  private failed(error: unknown) {
    const clashes = clashesOf(error)
    const final = error instanceof ApiError && error.status >= 400 && error.status < 500
    const again = !final || [401, 408, 419, 425, 429].includes((error as ApiError).status)
    this.tell({ state: clashes.length > 0 ? 'clash' : again ? 'failed' : 'refused', error, clashes })
    this.keepOrDrop()
    if (!again || clashes.length > 0) return
    this.tries++
    const asked = error instanceof ApiError && error.retryAfter !== null ? error.retryAfter * 1000 : 0
    this.soon(Math.max(asked, Math.min(LONGEST_MS, 1000 * 2 ** this.tries)))
  }

  private keepOrDrop() {
    if (Object.keys(this.pending).length > 0)
      keep<Kept<T>>(this.thing, { pending: this.pending, was: this.was })
    else drop(this.thing)
  }

  private tell(part: Partial<Snapshot<T>>) {
    this.shown = { ...this.shown, ...part }
    for (const listener of this.listeners) listener()
  }
}

function clashesOf(error: unknown): Clash[] {
  if (!(error instanceof ApiError)) return []
  return error.problems
    .filter((p) => p.code === 'changed_meanwhile')
    .map((p) => {
      const params = p.params as { part?: string; theirs?: string; now?: string }
      return {
        part: p.field ?? '',
        path: params.part ?? '',
        theirs: params.theirs ?? '',
        now: JSON.parse(params.now ?? 'null') as unknown,
      }
    })
}
