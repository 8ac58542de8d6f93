import { useLiveQuery } from 'dexie-react-hooks'
import { useMemo } from 'react'
import { db, type PackLayer, type PhoneRecord } from './db'

/** Finding records and places by their words, without signal. */

export type FoundPlace = { name: string; of: string; lon: number; lat: number }

/** Letters without accents, small. */
export const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()

const wordsIn = (text: string) =>
  plain(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)

/**
 * All that a record says, to be searched: choices by their labels, the rest as it is kept, for many thousands
 * are made ready at once.
 */
export function reader(layers: Map<number, PackLayer>): (record: PhoneRecord) => string {
  const labels = new Map(
    [...layers].map(([id, l]) => [
      id,
      new Map(
        l.design.fields.flatMap((f) =>
          (f.choices ?? []).map((c) => [`${f.key} ${c.code}`, c.label] as const),
        ),
      ),
    ]),
  )
  return ({ layer, name, values }) => {
    const known = labels.get(layer)
    const words = Object.entries(values).flatMap(([key, value]) =>
      (Array.isArray(value) ? value : [value]).map(
        (v) => known?.get(`${key} ${String(v)}`) ?? (v === null || v === undefined ? '' : String(v)),
      ),
    )
    return plain(`${name ?? ''} ${words.join(' ')}`)
  }
}

/** Records whose texts hold all the words, wherever. */
export function search<T>(all: { text: string; it: T }[], asked: string): T[] {
  const words = wordsIn(asked)
  return all.filter(({ text }) => words.every((w) => text.includes(w))).map(({ it }) => it)
}

/** The few with the least weight, in order: a heap of the few, so that many need not be put in order. */
export function foremost<T>(all: T[], weigh: (it: T) => number, few: number): T[] {
  const heap: { it: T; weight: number }[] = []
  const swap = (a: number, b: number) => {
    const kept = heap[a]!
    heap[a] = heap[b]!
    heap[b] = kept
  }
  for (const it of all) {
    const weight = weigh(it)
    if (heap.length < few) {
      heap.push({ it, weight })
      for (let i = heap.length - 1; i > 0 && heap[(i - 1) >> 1]!.weight < heap[i]!.weight; i = (i - 1) >> 1)
        swap(i, (i - 1) >> 1)
    } else if (weight < heap[0]!.weight) {
      heap[0] = { it, weight }
      for (let i = 0; ;) {
        const [left, right] = [2 * i + 1, 2 * i + 2]
        const next = right < few && heap[right]!.weight > heap[left]!.weight ? right : left
        if (next >= few || heap[next]!.weight <= heap[i]!.weight) break
        swap(i, next)
        i = next
      }
    }
  }
  return heap.sort((a, b) => a.weight - b.weight).map(({ it }) => it)
}

const PLACES = 8

/** Places whose words begin with the words asked for; whole names first, then by length. */
export function placesNamed(places: (FoundPlace & { text: string })[], asked: string): FoundPlace[] {
  const words = wordsIn(asked)
  if (words.length === 0 || words.join('').length < 2) return []
  const whole = words.join(' ')
  return places
    .filter(({ text }) => words.every((w) => ` ${text}`.includes(` ${w}`)))
    .sort(
      (a, b) =>
        Number(b.text.startsWith(whole)) - Number(a.text.startsWith(whole)) || a.name.length - b.name.length,
    )
    .slice(0, PLACES)
}

/** The places of all packs here, made ready to be searched. */
export function usePlaces(): (FoundPlace & { text: string })[] {
  const rows = useLiveQuery(async () => (await db.places.toArray()).flatMap((p) => p.rows))
  return useMemo(
    () => (rows ?? []).map(([name, of, lon, lat]) => ({ name, of, lon, lat, text: wordsIn(name).join(' ') })),
    [rows],
  )
}
