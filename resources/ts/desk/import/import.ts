import { api, ApiError, csrfHeaders } from '../../shared/api'
import { t } from '../../shared/texts'
import type { FieldKind, GeometryKind, Problem } from '../../shared/types'

export type Column = {
  take: boolean
  key: string
  label: string
  kind: FieldKind
  order: 'ymd' | 'dmy' | 'mdy' | null
  comma: boolean
  with: number | null
}
export type Location = {
  way: 'pair' | 'text' | 'geometry' | 'none'
  columns: number[]
  system: string
  mend: boolean
  match: number
}
export type Settings = {
  title: string
  mode: 'new' | 'append' | 'update' | 'attach'
  layer: number | null
  within: number
  shape: GeometryKind | null
  table: string
  head_row: number
  zone: string
  names: string[]
  columns: Column[]
  location: Location
  unfit: 'wait' | 'empty'
  key_column: number | null
  new_choices: boolean
  /** What an empty cell means where records are updated. */ empties: 'leave' | 'clear'
  conflicts: 'wait' | 'take'
}
/** In place of a field's key: the column of record ids. */
export const ID_KEY = '@id'
export type Found = {
  name: string
  kind: FieldKind
  confidence: number
  order: Column['order']
  samples: string[]
  filled: number
  empty: number
  distinct: Record<string, number> | null
}
export type Candidate = { name: string; of: string; lon: number; lat: number; score: number }
export type ReviewRow = {
  row: number
  cells: string[]
  bad: Record<string, string>
  values: Record<string, string | null>
  place: string | null
  how: string | null
  problems: Problem[]
}
export type Review = {
  tried: number
  ready: number
  placed: number
  waiting: number
  corrections: {
    swapped: number
    sign: number
    outside: number
    matched: number
    emptied: number
    clock: number
  }
  rows: ReviewRow[]
  points: [number, number, string][]
  geometry: GeometryKind
  unfit: { count: number; rows: { row: number; value: string | number | null }[] }[]
  why: { code: string; count: number; message: string }[]
  undecided: number[]
  new_choices: Record<string, string[]>
  update: {
    changed: number
    unchanged: number
    added: number
    unclear: number
    shown: {
      row: number
      name: string | null
      moved: boolean
      values: { label: string; before: string | null; after: string | null }[]
    }[]
  } | null
}
export type Counts = {
  read?: number
  made?: number
  waiting?: number
  changed?: number
  unchanged?: number
  swapped?: number
  sign?: number
  outside?: number
  matched?: number
  emptied?: number
  undo?: Undone
}
export type Undone = {
  deleted: number
  restored: number
  kept: number
  names: string[]
  layer_binned: boolean
}
export type ImportLine = {
  id: number
  programme: number
  state: 'sending' | 'reading' | 'review' | 'landing' | 'done' | 'failed' | 'cancelled' | 'undone'
  files: { name: string; bytes: number; sha256: string | null }[]
  by: string | null
  at: string
  layer: number | null
  layer_title: string | null
  counts: Counts | null
  problems: Problem[] | null
  progress: number | null
  mode: Settings['mode']
  rows: number | null
}
export type Import = ImportLine & {
  source: {
    kind: 'csv' | 'sheet' | 'geo' | 'photos'
    tables: { name: string; rows: number; geometry?: string }[]
    table?: string
    system?: string | null
    given?: string | null
    wkt?: boolean
    wkt_column?: number
    turned?: boolean
  } | null
  reading: {
    rows: number
    columns: Found[]
    geometry: GeometryKind
    shapes: Record<string, number>
    notes: string[]
  } | null
  settings: Settings | null
  review?: Review
}
export type WaitingRow = {
  row: number
  cells: string[]
  problems: Problem[]
  place: { candidates?: Candidate[]; chosen?: { lon: number; lat: number } } | null
  mended: boolean
}

/** One request carries so many bytes; a cut one is sent again from where the server stands. */
const PIECE = 8_000_000
const TRIES = 5

/** Announces files and sends their bytes. */
export async function sendFiles(
  programme: number,
  files: File[],
  options: { like?: number; layer?: number } = {},
  onShare: (share: number) => void = () => undefined,
): Promise<ImportLine> {
  const made = await api<ImportLine>('POST', `/programmes/${programme}/imports`, {
    files: files.map((f) => ({ name: f.name, bytes: f.size })),
    ...options,
  })
  await sendBytes(made.id, files, onShare)
  return made
}

/** Sends what the server does not have yet of files that were announced, each from where it stands. */
export async function sendBytes(
  id: number,
  files: File[],
  onShare: (share: number) => void = () => undefined,
) {
  const total = files.reduce((sum, f) => sum + f.size, 0)
  let before = 0
  for (const [n, file] of files.entries()) {
    let offset = 0
    let failures = 0
    while (offset < file.size) {
      try {
        const response = await fetch(`/api/v1/imports/${id}/files/${n}`, {
          method: 'PATCH',
          credentials: 'same-origin',
          body: file.slice(offset, offset + PIECE),
          headers: {
            Accept: 'application/json',
            'Content-Type': 'application/offset+octet-stream',
            'Upload-Offset': String(offset),
            ...csrfHeaders(),
          },
        })
        if (!response.ok && response.status !== 409)
          throw new ApiError(
            response.status,
            'failed',
            t('failure.failed'),
            ((await response.json().catch(() => null)) as { problems?: Problem[] } | null)?.problems ?? [],
          )
        offset = ((await response.json()) as { offset: number }).offset
        failures = 0
      } catch (e) {
        if ((e instanceof ApiError && e.status < 500) || ++failures >= TRIES)
          throw e instanceof ApiError ? e : new ApiError(0, 'offline', t('failure.offline'))
        await new Promise((later) => setTimeout(later, 1000 * failures))
      }
      onShare(total ? (before + offset) / total : 1)
    }
    before += file.size
  }
}

/**
 * The files of an import that stopped half-way, in their order, among those that a person chose again; null
 * if one is missing or another.
 */
export function sameFiles(found: ImportLine, chosen: File[]): File[] | null {
  const files = found.files.map((f) =>
    chosen.find((c) => c.size === f.bytes && (c.name === f.name || f.name.endsWith(`-${c.name}`))),
  )
  return files.every((f) => f !== undefined) ? (files as File[]) : null
}
