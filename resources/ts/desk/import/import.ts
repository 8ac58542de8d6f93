import { ApiError, csrfHeaders } from '../../shared/api'
import { t } from '../../shared/texts'
import type { Api, FieldKind, Problem } from '../../shared/types'
import { announceImport } from '../queries/imports'

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
export type Settings = Api['ImportSettings']
/** In place of a field's key: the column of record ids. */
export const ID_KEY = '@id'
export type Found = Api['ImportedColumn']
export type Candidate = Api['Candidate']
export type ReviewRow = Api['ReviewRow']
export type Review = Api['ImportReview']
export type Counts = Api['ImportCounts']
export type Undone = Api['Undone']
export type ImportLine = Api['ImportLine']
export type Import = Api['Import']
export type WaitingRow = Api['WaitingRow']

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
  const made = await announceImport(programme, {
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
