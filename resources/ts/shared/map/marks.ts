import type { PegHead } from '../types'

/** Where pictures of marks of one's own are: at the server, or on the phone that carries them. */
const here = new Map<string, string>()

export const isOwn = (head: string): head is Extract<PegHead, `own-${string}`> => head.startsWith('own-')
export const markAddress = (head: string) => here.get(head) ?? `/api/v1/open/marks/${head.slice(4)}`

/** Makes known what is carried; data addresses by head. */
export function carryMarks(marks: Record<string, string>) {
  for (const [head, address] of Object.entries(marks)) here.set(head, address)
}
