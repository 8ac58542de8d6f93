import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { apiForm, sentences } from '../../../shared/api'
import type { OwnMark } from '../../../shared/parts/PegPicker'
import type { PegHead } from '../../../shared/types'
import { keys } from '../../queries/keys'
import { marksOf } from '../../queries/layers'

/** The programme's marks of its own, and the way to add one. */
export function useMarks() {
  const programme = Number(useParams().programme)
  const client = useQueryClient()
  const [said, setSaid] = useState<string | null>(null)
  const marks = useQuery({ ...marksOf(programme), enabled: programme > 0 })
  const onAdd = async (file: File): Promise<PegHead | null> => {
    const form = new FormData()
    form.set('file', file)
    form.set('name', file.name.replace(/\.\w+$/, ''))
    try {
      const made = await apiForm<OwnMark>(`/programmes/${programme}/marks`, form)
      setSaid(null)
      await client.invalidateQueries({ queryKey: keys.marks(programme) })
      return made.head
    } catch (e) {
      setSaid(sentences(e)[0] ?? null)
      return null
    }
  }
  return { own: marks.data ?? [], onAdd, said }
}
