import type { Box } from './types'

/** A planned piece of field work, with how far it has come. */
export type Outing = {
  id: number
  title: string
  note: string
  crew: number | null
  crew_name: string | null
  from: string
  to: string
  area: Box | null
  layers: number[]
  target: 'none' | 'records' | 'visits'
  count: number | null
  checklist: string[]
  progress: {
    done: number
    wanted: number | null
    due: number
    state: 'ahead' | 'on' | 'behind' | 'done' | 'open'
    when: 'ahead' | 'now' | 'over'
  }
}
