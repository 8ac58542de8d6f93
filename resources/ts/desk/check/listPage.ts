import type { Api } from '../../shared/types'

export type Page = Api['RecordPage']

/** A page of the list: where it begins, and how one came there. */
export type ListPage = { number: number; after: string | null; before: (string | null)[] }
export const FIRST: ListPage = { number: 0, after: null, before: [] }

/** Forth to the next page, or back to one that was seen. */
export function turned(page: ListPage, to: number, next: string | null): ListPage {
  if (to > page.number && next !== null)
    return { number: page.number + 1, after: next, before: [...page.before, page.after] }
  if (to < page.number)
    return { number: to, after: page.before[to] ?? null, before: page.before.slice(0, to) }
  return page
}
