import { useMemo } from 'react'
import { local } from '../../shared/form/moment'
import type { Pack, PackLayer, PhoneRecord } from '../db'
import type { Rules } from './rule'

/** What the rules of a layer's slices ask for, from what this phone carries. */
export function rulesFor(pack: Pack, layer: PackLayer, records: PhoneRecord[], now: Date): Rules {
  const visits = pack.layers.find((l) => l.visits_of === layer.id)
  const visitsBy = new Map<string, PhoneRecord[]>()
  for (const record of visits ? records : [])
    if (record.layer === visits?.id && record.visited) {
      const of = visitsBy.get(record.visited)
      if (of) of.push(record)
      else visitsBy.set(record.visited, [record])
    }
  const kinds = (of: PackLayer | undefined) =>
    new Map(
      of?.design.fields.map((f) => [
        f.key,
        // What a calculated field comes to is told by its value.
        f.kind === 'calculated' ? undefined : f.kind,
      ]),
    )
  const [own, ofVisits] = [kinds(layer), kinds(visits)]
  return {
    today: local(now.toISOString(), pack.time_zone).date,
    zone: pack.time_zone,
    kindOf: (key, ofVisit) => (ofVisit ? ofVisits : own).get(key),
    areaOf: (number, id) => {
      if (!pack.layers.some((l) => l.id === number)) return undefined
      const area = records.find((r) => r.layer === number && r.id === id)
      // Where it is told by its cells no phone knows what lies in it.
      if (area?.blurred) return undefined
      const shape = area?.shape
      return shape?.type === 'Polygon' || shape?.type === 'MultiPolygon' ? shape : null
    },
    visitsTo: (record) => visitsBy.get(record) ?? [],
  }
}

/** The rules of each layer, made anew only when records or the day change. */
export function useRules(packs: Pack[] | undefined, records: PhoneRecord[] | undefined) {
  // There are zones whose days begin at a quarter of an hour.
  const quarter = Math.floor(Date.now() / 900_000)
  return useMemo(() => {
    const made = new Map<number, Rules>()
    return (layer: PackLayer): Rules | null => {
      const pack = packs?.find((p) => p.layers.some((l) => l.id === layer.id))
      if (!pack || !records) return null
      const known = made.get(layer.id) ?? rulesFor(pack, layer, records, new Date(quarter * 900_000))
      made.set(layer.id, known)
      return known
    }
  }, [packs, records, quarter])
}
