import Dexie, { type EntityTable } from 'dexie'
import { v7 as uuid } from 'uuid'
import type { Outing } from '../shared/outing'
import type { Place } from '../shared/form/geodesic'
import type {
  Api,
  Backdrop,
  Box,
  Design,
  Look,
  NewsRecord,
  RuleTrees,
  Values,
  Viewpoint,
} from '../shared/types'

/** What the phone holds. IndexedDB is the truth here; the server is told of it when there is signal. */

export type PackLayer = {
  id: number
  title: string
  /** The layer whose records these are visits to. */
  visits_of: number | null
  design_version: number
  design: Design
  name_field: string | null
  value_schema: object
  rules: RuleTrees
  look: Look
  style: unknown[]
  records: number
  rights: { add: boolean; change: 'all' | 'own' | 'none'; delete: 'all' | 'own' | 'none'; see: 'all' | 'own' }
  /** What this person sees of it; not in packs from before that was told. */
  seen?: {
    place: 'exact' | 'cell' | 'area' | 'none'
    metres: number | null
    fields: string[]
    photos: boolean
  }
}
/** A map of the programme, drawn here from the phone's own records. */
export type PackMap = {
  id: number
  title: string
  /** The topmost first; absent in packs that were fetched by an older app. */
  layers?: PackMapLayer[]
  extent: Box
  viewpoints: Viewpoint[]
  /** Absent in packs that were fetched by an older app. */ searches?: PackSearch[]
  /** In those older packs: the one layer that there was. */
  layer?: number
  look?: Look
  style?: unknown[]
}
export type PackMapLayer = Api['PackMapLayer']
export type PackSearch = Api['PackSearch']
export type Pack = {
  programme: number
  name: string
  crew: string | null
  time_zone: string
  area: Box
  /** Longest edge of photos in pixels. */ photo_edge?: number | null
  backdrops: Backdrop[]
  outings?: Outing[]
  /** Marks of one's own, by head. */ marks?: Record<string, string>
  /** How many places it carries. */ places?: number
  /** Absent in packs that were fetched by an older app. */ maps?: PackMap[]
  layers: PackLayer[]
  fetched_at?: string
  /** Bytes of maps and places that are newer on the server. */ newer?: number
}
/** Up to where a layer's news have been taken in. */
export type Cursor = {
  layer: number
  since: number
  /** names what this person may see of it: another name is another way of seeing */
  scope?: string
  /** Nothing of the layer was here when this began. */ filling?: boolean
  /** A name of its own for each filling from nothing. */ begun?: string
}
/** What this phone takes of a programme: all layers but some, the whole area or a part. */
export type Take = {
  programme: number
  without: number[]
  area: Box | null
  /** The part that the records here were asked for in; the wanted one, once it has been fetched. */ held?: Box | null
  paused: boolean
}
/** Named places: name, what it is of, longitude, latitude. */
export type PackPlaces = { programme: number; rows: [string, string, number, number][] }
/** A small picture of a photo, to stand as its record's mark on a map. */
export type Thumb = { id: string; record: string; blob: Blob }
export type StoredBackdrop = {
  key: string
  /** As it came: whoever asks what is here does not read it. An older app kept it read. */
  data: Blob | GeoJSON.FeatureCollection
  bytes: number
  version?: string
  /** Absent where an older app took it. */ style?: Backdrop['style']
}
/** A record as the server last told it, or as it was made here. */
export type Told = Pick<NewsRecord, 'id' | 'lon' | 'lat' | 'values' | 'collected_at' | 'author' | 'name'> & {
  shape?: GeoJSON.Geometry | null
  altitude?: number | null
  visited?: string
  layer: number
  photos: number
  /** The first of them that is a picture. */ photo?: string
  /** Of the server; 0 for one that it has not got yet. */
  version?: number
  mine?: boolean
  gone?: boolean
  /** It stands somewhere in its square; where it is is not told to this person. */
  blurred?: boolean
}
/**
 * A record as the phone shows it: what was told, and over it what was done here and has not arrived
 * (`local`).
 */
export type PhoneRecord = Told & { told?: Told | null; local?: 'waiting' | 'refused' | 'held' | undefined }
export type Fix = {
  accuracy: number | null
  at: string | null
  altitude?: number | null
  satellites?: number
  type?: string
} | null
export type Operation = {
  op: string
  kind: 'add' | 'visit' | 'change' | 'move' | 'delete' | 'restore'
  seq: number
  layer: number
  design: number
  record: string
  captured_at: string
  /** All of a record that is added; else only what was changed. */
  values: Values
  /** Null where the place stays. */
  geometry: GeoJSON.Geometry | null
  fix: Fix
  /** Version of the record that it began from, and what it replaced. */
  base?: number
  was?: Values
  was_geometry?: GeoJSON.Geometry
  /** Seconds by which this phone's clock was known to be behind the server's. */
  clock_off?: number
  /** The server's time at the last round before this was done: nothing was done before that. */
  heard_at?: string
  /** Of a deletion: up to which change of the layer of visits this person had been told. */
  visits_known?: number
  altitude?: number | null
  /** What a change of the altitude replaced. */
  was_altitude?: number | null
  /** In a layer of visits: the record that was visited. */
  visited?: string
  photos: { id: string; name: string; type: string; bytes: number; sha256: string; slot?: string | null }[]
}
export type OutboxItem = {
  seq: number
  op: string
  operation: Operation
  name: string
  state: 'waiting' | 'refused'
  problems: string[]
  saved_at: string
  /** Refused by its size alone, before the server read it. */ large?: boolean
}
export type PhonePhoto = {
  id: string
  record: string
  layer: number
  blob: Blob
  name: string
  type: string
  bytes: number
  sha256: string
  slot?: string | null
  state: 'waiting' | 'refused'
  sent: number
  upload: string | null
  reason: string | null
}
/**
 * A record that is being written. `key` is the layer's for a new one, the record's for one that is mended.
 */
export type Draft = {
  key: string
  begun_at: string
  layer: number
  /** Version of the design whose form it was begun with; it is finished with that one. */ design: number
  values: Values
  lon: number
  lat: number
  fix: Fix
  /** Of a line or an area. */ corners?: Place[]
  altitude?: number | null
  visited?: string
  photos: {
    id: string
    blob: Blob
    name: string
    slot?: string | null
    /** Where it was taken, as it says itself. */ at?: { lon: number; lat: number }
  }[]
  record: string
  /** The record as it was when its change began. */ from?: Told
  fixes_op?: string | undefined
  confirmed?: Values
  /** What the form has no place for, in words. */ outgrown?: string
}

/**
 * What the desk must know of this person's work: it clashed with somebody else's, or is held. Shown until it
 * is read.
 */
export type Note = {
  id?: number
  record: string
  name: string
  outcome: 'clash' | 'held' | /** Values of a form that is no more; they are here alone. */ 'outgrown'
  text: string
  at: string
}

/** What the desk asks about a record that this person made; with the answer, until the server has it. */
export type RecordQuestion = {
  id: number
  layer: number
  record: string
  name: string | null
  text: string
  by: string | null
  at: string
  answer?: string
  answered_here?: string
}

/** What an alert of the programme told this person; once it was read, until the server knows. */
export type PhoneNotice = Api['Notice'] & { read_here?: string }

/** Drawn on the map with a finger, and what was noted beside it; on this phone alone. */
export type Sketch = { id: number; at: string; note: string; lines: Place[][]; lon: number; lat: number }

/**
 * A layer as it was when a draft was begun: the form of a draft stays, whatever becomes of the layer
 * meanwhile.
 */
export type KeptForm = { key: string; layer: PackLayer; programme: number; zone: string; edge: number | null }

/** What a person had not sent when somebody else signed in: it waits for its own, and can be rescued. */
export type Parked = {
  person: number
  name: string
  parked_at: string
  outbox: OutboxItem[]
  photos: PhonePhoto[]
  drafts: Draft[]
  forms: KeptForm[]
  asked: RecordQuestion[]
  notes: Note[]
  sketches: Sketch[]
  trail: TrailPoint[]
}

/** One point of where this phone has been; metres, milliseconds. */
export type TrailPoint = {
  at: number
  lon: number
  lat: number
  accuracy: number
  programme: number
  sent: 0 | 1
}

class PhoneStore extends Dexie {
  meta!: EntityTable<{ key: string; value: unknown }, 'key'>
  packs!: EntityTable<Pack, 'programme'>
  backdrops!: EntityTable<StoredBackdrop, 'key'>
  records!: EntityTable<PhoneRecord, 'id'>
  cursors!: EntityTable<Cursor, 'layer'>
  takes!: EntityTable<Take, 'programme'>
  places!: EntityTable<PackPlaces, 'programme'>
  sketches!: EntityTable<Sketch, 'id'>
  asked!: EntityTable<RecordQuestion, 'id'>
  notices!: EntityTable<PhoneNotice, 'id'>
  trail!: EntityTable<TrailPoint, 'at'>
  notes!: EntityTable<Note, 'id'>
  outbox!: EntityTable<OutboxItem, 'seq'>
  photos!: EntityTable<PhonePhoto, 'id'>
  thumbs!: EntityTable<Thumb, 'id'>
  drafts!: EntityTable<Draft, 'key'>
  forms!: EntityTable<KeptForm, 'key'>
  parked!: EntityTable<Parked, 'person'>

  constructor() {
    // Answers are handed out as they are: copying each of them takes as long as reading it.
    super('pin-yard', { cache: 'disabled' })
    this.version(1).stores({
      meta: 'key',
      packs: 'programme',
      backdrops: 'key',
      records: 'id, layer',
      cursors: 'layer',
      outbox: 'seq, op, state',
      photos: 'id, record, state',
      drafts: 'key',
    })
    this.version(2).stores({ records: 'id, layer, visited' })
    this.version(3).stores({ notes: '++id' })
    this.version(4).stores({ trail: 'at, sent' })
    // Records that were fetched before say nothing of their version and whose they are: all are asked for
    // once more.
    this.version(5)
      .stores({})
      .upgrade((tx) => tx.table('cursors').toCollection().modify({ since: 0 }))
    this.version(6).stores({ takes: 'programme', places: 'programme', sketches: '++id' })
    this.version(7).stores({ asked: 'id, record' })
    // An outbox of thousands is asked for by state and by record, never read as a whole.
    this.version(8)
      .stores({
        outbox: 'seq, op, state, [state+seq], operation.record, operation.layer',
        forms: 'key',
        parked: 'person',
        drafts: 'key, layer',
      })
      .upgrade(async (tx) => {
        const layers = new Map(
          (await tx.table<Pack>('packs').toArray())
            .flatMap((p) => p.layers)
            .map((l) => [l.id, l.design_version]),
        )
        await tx
          .table<Draft>('drafts')
          .toCollection()
          .modify((draft) => {
            draft.design ??= layers.get(draft.layer) ?? 0
          })
      })
    this.version(9).stores({ notices: 'id' })
    // Records that were fetched before do not name their photos: all are asked for once more.
    this.version(10)
      .stores({ thumbs: 'id' })
      .upgrade((tx) => tx.table('cursors').toCollection().modify({ since: 0 }))
  }
}

export const db = new PhoneStore()

export async function meta<T>(key: string): Promise<T | undefined> {
  return (await db.meta.get(key))?.value as T | undefined
}
export const setMeta = (key: string, value: unknown) => db.meta.put({ key, value })

/** This phone's id, made once. */
export async function deviceId(): Promise<string> {
  return db.transaction('rw', db.meta, async () => {
    const known = await meta<string>('device')
    if (known) return known
    const made = uuid()
    await setMeta('device', made)
    return made
  })
}
