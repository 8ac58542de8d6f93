import { useLiveQuery } from 'dexie-react-hooks'
import { useEffect, useMemo } from 'react'
import { db, type PhoneRecord } from '../db'

/** Photos of this phone's own outbox and those that were fetched, to stand as marks. */
export type MarkPhotos = {
  of: (record: PhoneRecord) => string | undefined
  address: (id: string) => string | null
}

/** @param wanted whether the map that is shown draws any */
export function useMarkPhotos(wanted: boolean): MarkPhotos {
  const found = useLiveQuery(
    async () =>
      wanted
        ? [
            ...(await db.thumbs.toArray()),
            ...(await db.photos.filter((p) => p.type.startsWith('image/')).toArray()),
          ]
        : [],
    [wanted],
  )
  const photos = useMemo(() => {
    const byRecord = new Map<string, string>()
    const blobs = new Map<string, Blob>()
    for (const { id, record, blob } of found ?? []) {
      if (!byRecord.has(record)) byRecord.set(record, id)
      if (!blobs.has(id)) blobs.set(id, blob)
    }
    const urls = new Map<string, string>()
    return {
      urls,
      of: (record: PhoneRecord) => byRecord.get(record.id),
      address: (id: string) => {
        const blob = blobs.get(id)
        if (!blob) return null
        const url = urls.get(id) ?? URL.createObjectURL(blob)
        urls.set(id, url)
        return url
      },
    }
  }, [found])
  // A picture is read once, right after its address was asked for; later it may go.
  useEffect(
    () => () => {
      for (const url of photos.urls.values()) setTimeout(() => URL.revokeObjectURL(url), 10_000)
    },
    [photos],
  )
  return photos
}
