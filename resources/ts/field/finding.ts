import { useLiveQuery } from 'dexie-react-hooks'
import { useMemo } from 'react'
import { db, type PackLayer, type PhoneRecord } from './db'

/** Finding records and places by their words, without signal. */

export type FoundPlace = { name: string; of: string; lon: number; lat: number }

/** Letters without accents, small. */
export const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()

const wordsIn = (text: string) => plain(text).split(/[^\p{L}\p{N}]+/u).filter(Boolean)

/** All that a record says, to be searched: choices by their labels, the rest as it is kept, for many thousands are made ready at once. */
export function reader(layers: Map<number, PackLayer>): (record: PhoneRecord) => string {
  const labels = new Map([...layers].map(([id, l]) => [id, new Map(l.design.fields.flatMap((f) => (f.choices ?? []).map((c) => [`${f.key} ${c.code}`, c.label] as const)))]))
  return ({ layer, name, values }) => {
    const known = labels.get(layer)
    const words = Object.entries(values).flatMap(([key, value]) => (Array.isArray(value) ? value : [value]).map((v) => known?.get(`${key} ${String(v)}`) ?? (v === null || v === undefined ? '' : String(v))))
    return plain(`${name ?? ''} ${words.join(' ')}`)
  }
}

/** Records whose texts hold all the words, wherever. */
export function search<T>(all: { text: string; it: T }[], asked: string): T[] {
  const words = wordsIn(asked)
  return all.filter(({ text }) => words.every((w) => text.includes(w))).map(({ it }) => it)
}

const PLACES = 8

/** Places whose words begin with the words asked for; whole names first, then by length. */
export function placesNamed(places: (FoundPlace & { text: string })[], asked: string): FoundPlace[] {
  const words = wordsIn(asked)
  if (words.length === 0 || words.join('').length < 2) return []
  const whole = words.join(' ')
  return places
    .filter(({ text }) => words.every((w) => ` ${text}`.includes(` ${w}`)))
    .sort((a, b) => Number(b.text.startsWith(whole)) - Number(a.text.startsWith(whole)) || a.name.length - b.name.length)
    .slice(0, PLACES)
}

/** The places of all packs here, made ready to be searched. */
export function usePlaces(): (FoundPlace & { text: string })[] {
  const rows = useLiveQuery(async () => (await db.places.toArray()).flatMap((p) => p.rows))
  return useMemo(() => (rows ?? []).map(([name, of, lon, lat]) => ({ name, of, lon, lat, text: wordsIn(name).join(' ') })), [rows])
}
