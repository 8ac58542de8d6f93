import { useEffect, useState } from 'react'
import { v7 as uuid } from 'uuid'
import { db, type Draft, type Pack, type PackLayer } from './db'
import { readFix } from './position'
import { formKey } from './save'

/**
 * Records that are being written: each belongs to one window at a time, and keeps the form that it was begun
 * with.
 */

/** The draft of what is new in a layer; visits to different records are different drafts. */
export const newKey = (layer: number, visited: string | null = null) =>
  visited ? `new-${layer}-${visited}` : `new-${layer}`

/** A new record at the place that an address names; null where it names none, for nobody has chosen 0, 0. */
export function blank(layer: number, design: number, search: URLSearchParams): Draft | null {
  const altitude = search.get('altitude')
  const visited = search.get('visited')
  const [lon, lat] = [search.get('lon'), search.get('lat')]
  if (!lon || !lat || !Number.isFinite(Number(lon)) || !Number.isFinite(Number(lat))) return null
  return {
    key: newKey(layer, visited),
    begun_at: new Date().toISOString(),
    layer,
    design,
    values: {},
    photos: [],
    record: uuid(),
    lon: Number(lon),
    lat: Number(lat),
    fix: readFix(search),
    altitude: altitude === null ? null : Number(altitude),
    ...(visited ? { visited } : {}),
  }
}

// --- one window at a time

const mine = new Map<string, { holders: number; release: () => void }>()
/** From a form to its map and back the window keeps its hold. */
const LINGER_MS = 1_500

/**
 * Holds a draft for this window. @returns whether it could be had; it is let go when the window closes, or by
 * {@see letGo}
 */
async function hold(key: string): Promise<boolean> {
  const held = mine.get(key)
  if (held) {
    held.holders++
    return true
  }
  if (!navigator.locks) return true
  return new Promise((answer) => {
    void navigator.locks.request(`pin-yard-draft-${key}`, { ifAvailable: true }, (lock) => {
      if (!lock) return answer(false)
      return new Promise<void>((release) => {
        mine.set(key, { holders: 1, release })
        answer(true)
      })
    })
  })
}

function letGo(key: string) {
  setTimeout(() => {
    const held = mine.get(key)
    if (!held || --held.holders > 0) return
    mine.delete(key)
    held.release()
  }, LINGER_MS)
}

/** What a form opens with. */
export type Opened = {
  draft: Draft
  layer: PackLayer
  zone: string
  edge: number | null
  /** The design of the layer is a newer one by now, or the layer has left this phone. */ since:
    'newer' | 'gone' | null
  /** Begun at the place that the address names, if a draft from elsewhere was there. */ asked: Draft | null
}

/**
 * Opens the draft that an address names, or begins one there.
 *
 * @returns 'none' where there is nothing to write (it was saved, or thrown away), 'elsewhere' where another
 *   window of this phone has it
 */
export function useDraft(layer: number, search: URLSearchParams): Opened | 'none' | 'elsewhere' | null {
  const [opened, setOpened] = useState<Opened | 'none' | 'elsewhere' | null>(null)
  const mend = search.get('mend')
  useEffect(() => {
    let key: string | null = mend ?? newKey(layer, search.get('visited'))
    let left = false
    const open = async (): Promise<Opened | 'none' | 'elsewhere'> => {
      let held = await hold(key!)
      if (!held && mend) {
        key = null
        return 'elsewhere'
      }
      // Another window is writing a new one: this is one more.
      if (!held) held = await hold((key = `${key}-${uuid()}`))
      const kept = await db.drafts.get(key!)
      const pack = (await db.packs.toArray()).find((p) => p.layers.some((l) => l.id === layer))
      const now = pack?.layers.find((l) => l.id === layer)
      const form =
        kept && kept.design !== now?.design_version
          ? await db.forms.get(formKey(layer, kept.design))
          : undefined
      const shown = form?.layer ?? now
      const begun = blank(layer, now?.design_version ?? 0, search)
      if (!shown || (!kept && (mend || !begun))) return 'none'
      const draft = kept ?? { ...begun!, key: key! }
      // A name of one record is never another's: a record may have been saved while its draft came back.
      if (!draft.from && !draft.fixes_op && (await db.records.get(draft.record))) draft.record = uuid()
      return {
        draft,
        layer: shown,
        zone: pack?.time_zone ?? form?.zone ?? 'UTC',
        edge: pack?.photo_edge ?? form?.edge ?? null,
        since: !now ? 'gone' : shown.design_version === now.design_version ? null : 'newer',
        asked: mend ? null : begun && { ...begun, key: key! },
      }
    }
    void open().then((found) => {
      if (!left) setOpened(found)
    })
    return () => {
      left = true
      if (key) letGo(key)
    }
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- only when the screen opens
  }, [layer, mend])
  return opened
}

/**
 * Keeps the forms of drafts whose layer changes its design or leaves the phone; runs in the caller's
 * transaction, before the pack is put.
 */
export async function keepForms(before: Pack | undefined, after: PackLayer[]): Promise<void> {
  for (const layer of before?.layers ?? []) {
    if (after.find((l) => l.id === layer.id)?.design_version === layer.design_version) continue
    if (
      (await db.drafts
        .where('layer')
        .equals(layer.id)
        .filter((d) => d.design === layer.design_version)
        .count()) === 0
    )
      continue
    await db.forms.put({
      key: formKey(layer.id, layer.design_version),
      layer,
      programme: before!.programme,
      zone: before!.time_zone,
      edge: before!.photo_edge ?? null,
    })
  }
}
