import { useEffect, useState } from 'react'
import { ApiError } from '../../shared/api'
import type { Api, Design, Problem } from '../../shared/types'
import { finished } from './design'
import { checkDesign } from '../queries/layers'

export type Checked = Api['DesignChecked']

/** Has the server check the design a moment after each change; keeps the last sound one for the form. */
export function useDesignCheck(
  design: Design,
  layer: number | null,
): { problems: Problem[]; checked: Checked | null } {
  const [problems, setProblems] = useState<Problem[]>([])
  const [checked, setChecked] = useState<Checked | null>(null)
  const document = JSON.stringify(finished(design))
  useEffect(() => {
    let stale = false
    const timer = setTimeout(() => {
      const titled = JSON.parse(document) as Design
      // A layer that has no title yet can still show its form.
      checkDesign(layer, {
        ...titled,
        title: titled.title.trim() || '…',
      })
        .then((c) => {
          if (!stale) {
            setChecked(c)
            setProblems([])
          }
        })
        .catch((e: unknown) => {
          if (!stale && e instanceof ApiError) setProblems(e.problems)
        })
    }, 250)
    return () => {
      stale = true
      clearTimeout(timer)
    }
  }, [document, layer])
  return { problems, checked }
}
