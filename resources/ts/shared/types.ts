/** Shapes of the API, as the server's OpenAPI description and JSON Schemas give them. */

export type FieldKind =
  | 'short_text'
  | 'long_text'
  | 'whole_number'
  | 'decimal'
  | 'yes_no'
  | 'date'
  | 'time'
  | 'date_time'
  | 'one_choice'
  | 'several_choices'
  | 'calculated'
  | 'heading'
export type Choice = { code: string; label: string; retired?: boolean; colour?: string; mark?: PegHead }
export type Limit = number | string
export type Field = {
  key: string
  label: string
  kind: FieldKind
  hint?: string
  required?: boolean
  read_only?: boolean
  most?: number
  shape?: string
  unit?: string
  decimals?: number
  limits?: { lowest?: Limit; highest?: Limit; outside?: 'stop' | 'ask' }
  list?: number
  choices?: Choice[]
  default?: Value
  show_when?: string
  require_when?: string
  formula?: string
}
export type Whose = 'all' | 'own' | 'none'
export type CrewRights = { add: boolean; see: 'all' | 'own'; change: Whose; delete: Whose }
export type GeometryKind = 'point' | 'line' | 'area'
export type FileKind = 'photo' | 'audio' | 'video' | 'pdf'
export type Slot = {
  key: string
  label: string
  kind: FileKind
  hint?: string
  least?: number
  most?: number
  max_bytes?: number
}
export type FixDetail = 'altitude' | 'satellites' | 'type' | 'time'
export type LayerInfo = {
  description?: string
  tags?: string[]
  credits?: string
  terms?: string
  source?: string
}
export type Design = {
  title: string
  purpose: string
  geometry: GeometryKind
  /** Title of the layer whose records these are visits to. */
  visits_of?: string | null
  name_field?: string | null
  fields: Field[]
  photos: { allowed: boolean; least: number; most: number; max_bytes: number }
  slots?: Slot[]
  rights: { crew: CrewRights; crews?: (CrewRights & { crew: string })[]; public?: { see: boolean } }
  fix?: { warn_above?: number; refuse_above?: number; keep?: FixDetail[] }
  altitude?: { unit: 'm' | 'ft'; required?: boolean } | null
  info?: LayerInfo
}
/** Conditions and formulas of a design, as trees that core/ made of them. */
export type RuleTrees = {
  order: string[]
  show: Record<string, [string, ...unknown[]]>
  require: Record<string, [string, ...unknown[]]>
  formulas: Record<string, [string, ...unknown[]]>
}
/** Heads that we draw. */
export type OurHead = 'diamond' | 'disc' | 'triangle' | 'bar' | 'ring' | 'cross'
/** Or a mark of one's own, by its token. */
export type PegHead = OurHead | `own-${string}`
export type Peg = { head: PegHead; colour: string }
export type Look =
  | { kind: 'single'; peg: Peg }
  | { kind: 'category'; field: string; classes: (Peg & { code: string })[]; other: Peg }
export type LegendLine = Peg & {
  code: string | null
  label: string | null
  count: number
  geometry?: GeometryKind
}

export type Value = string | number | boolean | string[] | null
export type Values = Record<string, Value>
/** A file of a record: a photo at large, or what a slot holds. */
export type Photo = {
  id: string
  state: 'on_way' | 'stored' | 'refused'
  name: string
  type: string
  slot: string | null
}
export type RecordRow = {
  id: string
  version: number
  lon: number
  lat: number
  /** Of lines and areas; null where the record has not been drawn yet. */
  geometry?: GeoJSON.Geometry | null
  length?: number | null
  area?: number | null
  altitude: number | null
  fix: { satellites?: number; type?: string; at?: string } | null
  /** In a layer of visits: the record that was visited. */
  visited?: string
  visited_name?: string | null
  /** In a layer that is visited. */
  visits?: number
  visited_at?: string | null
  accuracy: number | null
  collected_at: string
  received_at: string
  author: string | null
  values: Values
  name: string | null
  photos: Photo[]
}

export type RecordVersion = {
  version: number
  kind: 'add' | 'change' | 'delete' | 'restore' | 'import'
  author: string | null
  at: string
  /** When it was done, by the phone's corrected clock. */ captured_at: string | null
  /** Seconds by which that clock was behind. */ clock_off: number | null
  design: number
  lon: number
  lat: number
  altitude: number | null
  geometry: GeoJSON.Geometry | null
  values: Values
  changed: string[]
  moved: boolean
  workings: Working[]
}
/** What became of calculated values though nobody changed the record. */
export type Working = {
  cause: 'visits' | 'areas' | 'formulas' | 'import' | 'design' | 'day'
  at: string
  by: string | null
  /** Of all records of the layer. */ all: boolean
  fields: string[]
  was: Values
}

export type Problem = {
  code: string
  field: string | null
  value: unknown
  params: Record<string, string | number | null>
  message: string
}
export type Box = [number, number, number, number]
export type Role = 'coordinator' | 'crew'
export type Me = { id: number; name: string; email: string; roles: { programme: number; role: Role }[] }
export type Programme = {
  id: number
  name: string
  purpose: string
  time_zone: string
  area: Box
  /** Longest edge of photos from phones in pixels; null: as they were taken. */
  photo_edge: number | null
  role: Role
}
export type Stage = 'plan' | 'build' | 'collect' | 'check' | 'publish'
export type ProgrammeWithStages = Programme & { stages: Record<Stage, Record<string, number>> }
export type LayerLine = {
  id: number
  title: string
  purpose: string
  geometry: GeometryKind
  visits_of: number | null
  fields: number
  design_version: number
  records: number
  peg: LegendLine
}
export type Layer = {
  id: number
  programme: number
  design_version: number
  visits_of: number | null
  visits_layer: number | null
  design: Design
  value_schema: object
  rules: RuleTrees
  look: Look
  /** `change` and `delete`: those of others too. */
  rights: { add: boolean; design: boolean; sees_all: boolean; change: boolean; delete: boolean }
}
export type Audience = 'programme' | 'link'
/** A saved place and zoom of a map. */
export type Viewpoint = { id: string; title: string; extent: Box }
export type MapDoc = {
  /** Asks for another address; never told. */ new_link?: true
  id: number
  layer: number
  title: string
  look: Look
  card: { fields: string[]; photos: boolean }
  extent: Box
  viewpoints: Viewpoint[]
  audience: Audience
  address: string | null
}
export type Backdrop = { key: string; address: string; bytes: number; version: string }
export type MapView = {
  title: string
  programme: string
  extent: Box
  viewpoints: Viewpoint[]
  backdrops: Backdrop[]
  by: string | null
  source: string
  layers: unknown[]
  legend: LegendLine[]
  features: GeoJSON.FeatureCollection
  total: number
}
export type CardView = {
  id: string
  name: string | null
  collected_at: string
  values: { label: string; kind: FieldKind; text: string }[]
  photos: { id: string; state: Photo['state'] }[]
}
export type TileKind = 'count' | 'breakdown' | 'latest' | 'map'
export type Tile = {
  id: string
  kind: TileKind
  title: string
  layer: number
  slice: number | null
  field: string | null
  width: number
  height: number
  /** Whether whoever has the board's link is told what its records are called. */
  names?: boolean
}
/** The front door of a programme as its visitors see it; `text` is the colour of letters on `colour`. */
export type GateFront = {
  title: string
  about: string
  colour: string
  text: string
  things: { kind: 'map' | 'board'; title: string; open: boolean; address: string | null; pegs: Peg[] }[]
}
export type GateDoc = {
  /** Asks for another address; never told. */ new_link?: true
  title: string
  about: string
  colour: string
  hung: { kind: 'map' | 'board'; id: number }[]
  open: boolean
  address: string | null
  front: GateFront
}
export type BoardDoc = {
  /** Asks for another address; never told. */ new_link?: true
  id: number
  title: string
  tiles: Tile[]
  audience: Audience
  address: string | null
}
export type TileAnswer =
  | { kind: 'count'; answer: { value: number } }
  | { kind: 'breakdown'; answer: { total: number; rows: LegendLine[] } }
  | {
      kind: 'latest'
      answer: {
        records: { name: string | null; detail: string | null; class: string | null; collected_at: string }[]
        legend: LegendLine[]
      }
    }
  | { kind: 'map'; answer: Pick<MapView, 'source' | 'layers' | 'legend' | 'features' | 'total'> }
export type BoardAnswers = {
  title: string
  programme: string
  area: Box
  as_of: string
  tiles: (Omit<Tile, 'kind'> & { slice_name: string | null } & (
      TileAnswer | { kind: 'broken'; answer: { messages: string[] } }
    ))[]
}
export type Slice = { id: number; name: string; filter: unknown }
