import type { components } from './api.generated'

/** What the API answers, by name; made from the server's description (app/OpenApi/answers.yaml). */
export type Api = components['schemas']

export type FieldKind = Api['FieldKind']
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
export type GeometryKind = Api['GeometryKind']
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
export type Peg = {
  head: PegHead
  colour: string
  /** How a line is drawn, or the outline of an area; solid where nothing is said. */
  dash?: 'solid' | 'dashed' | 'dotted'
  /** How an area is filled; as the look fills all where nothing is said. */
  fill?: 'tint' | 'full' | 'stripes' | 'dots' | 'grid' | 'none'
}
export type Look = (
  | { kind: 'single'; peg: Peg }
  | { kind: 'category'; field: string; classes: (Peg & { code: string })[]; other: Peg }
  | NumberLook
  | InsideLook
  | ShadesLook
  | CrossedLook
  | DensityLook
) & {
  size?: SizeBy
  gather?: Gathering
  /** Pixels of lines and of the outlines of areas. */
  width?: number
  /** Photos stand for records, from near. */
  photos?: boolean
}
/** Colours that pass into each other with a number (PinYard\Carto\Marks\Shades). */
export type ShadesLook = {
  kind: 'shades'
  field: string
  scheme: NumberLook['scheme']
  from: number
  to: number
  other: Peg
}
/** Two numbers at once, each in up to three classes. */
export type CrossedLook = {
  kind: 'crossed'
  fields: [string, string]
  breaks: [number[], number[]]
  scheme: 'reef' | 'heath'
  other: Peg
}
/** Records counted in the cells of a grid, or a number of theirs summed. */
export type DensityLook = Omit<NumberLook, 'kind' | 'field'> & {
  kind: 'density'
  field: string | null
  bits: number
}
/** Points that lie close together, as one mark with a number. */
export type Gathering = {
  tell: 'count' | 'sum' | 'share'
  field?: string
  code?: string
  /** Zoom from which each stands by itself. */
  until: number
}
/** How large records are drawn, by a number: `most` is what the largest stands for. */
export type SizeBy = { field: string; most: number; pixels?: number }
/** Marks by classes of a number. */
export type NumberLook = {
  kind: 'classes'
  field: string
  method: 'natural' | 'quantile' | 'equal' | 'deviation' | 'round' | 'hand'
  scheme: 'tide' | 'ember' | 'dusk' | 'shore'
  /** Ascending; one fewer than there are classes. */
  breaks: number[]
  classes: (Peg & { label?: string })[]
  /** Of records without the number. */
  other: Peg
}
/** Marks of areas by classes of what is told of the records in them. */
export type InsideLook = Omit<NumberLook, 'kind' | 'field'> & { kind: 'inside'; of: Tally }
/** Which records, and what of them (PinYard\Carto\Tally). */
export type Tally = {
  layer: number
  slice: number | null
  measure: 'count' | 'sum' | 'mean' | 'least' | 'most' | 'share' | 'rate'
  field: string | null
  share: number | null
  /** A number of the areas that a rate is told by; null: their square kilometres. */
  by: string | null
  times: number
  /** Records below which nothing is told. */
  least: number
}
export type LegendLine = Peg & {
  code: string | null
  label: string | null
  count: number
  geometry?: GeometryKind
  /** A line or an area without a head, where there is but one class. */
  plain?: boolean
  /** An area by a class of numbers. */
  filled?: boolean
  /** An area with too few records to say anything. */
  hatched?: boolean
  /** Colours that pass into each other, with what stands at either end. */
  ramp?: string[]
  /** Of two numbers the classes of both, counted from the lowest; `ends` are their ranges. */
  at?: [number, number]
  ends?: [string, string]
}

export type Value = Api['Value']
export type Values = Api['Values']
/** A file of a record: a photo at large, or what a slot holds. */
export type Photo = Api['Photo']
export type RecordRow = Api['RecordRow']
/** As phones get it: what has no place does not go there. */
export type NewsRecord = Api['NewsRecord']

export type RecordVersion = Api['RecordVersion']
/** What became of calculated values though nobody changed the record. */
export type Working = Api['Working']

export type Problem = Api['Problem']
export type Box = Api['Box']
export type Role = Api['Role']
export type Me = Api['Me']
export type Programme = Api['Programme']
export type Stage = 'plan' | 'build' | 'collect' | 'check' | 'publish'
export type ProgrammeWithStages = Api['ProgrammeWithStages']
export type LayerLine = Api['LayerLine']
export type Layer = Api['Layer']
export type Audience = Api['Audience']
/** A saved place and zoom of a map. */
export type Viewpoint = Api['Viewpoint']
export type MapDoc = Api['MapDoc'] & {
  /** Asks for another address; never told. */ new_link?: true
}
/** One layer of a map, as it is made. */
export type LayerOnMap = Api['LayerOnMap']
export type MapLabel = Api['MapLabel']
export type Backdrop = Api['Backdrop']
export type MapView = Api['MapView']
export type MapTable = Api['MapTable']
/** One layer of a map, as its audience gets it. */
export type MapViewLayer = Api['MapViewLayer']
export type CardView = Api['CardView']
export type TileKind = Api['TileKind']
export type Tile = Api['Tile']
/** A tile that could answer a question, before it is on a board. */
export type ProposedTile = Omit<Tile, 'id'>
/** The front door of a programme as its visitors see it; `text` is the colour of letters on `colour`. */
export type GateFront = Api['GateFront']
export type GateDoc = Api['GateDoc'] & {
  /** Asks for another address; never told. */ new_link?: true
}
export type BoardDoc = Api['BoardDoc'] & {
  /** Asks for another address; never told. */ new_link?: true
}
/** A tile with what it shows now. */
export type AnsweredTile = Api['AnsweredTile']
export type BoardAnswers = Api['BoardAnswers']
export type Slice = Api['Slice']
