import { numberText } from '../../shared/map/classes'
import type { Picked } from '../../shared/map/MapView'
import type { MapLayer } from '../../shared/map/putLayers'
import type { PackLayer, PackMap, PackMapLayer, PackSearch, PhoneRecord } from '../db'
import { canTell, matches } from '../slices/matches'
import type { Rule, Rules } from '../slices/rule'
import { cellsOf } from './cells'
import { labelsOf } from './labels'
import { drawn } from './onMap'
import { byOf, classOfArea, FEW, isFew, tallied, valueOf } from './tally'

/** A part of a map with the layer that it shows; of layers that are not on this phone there is no part. */
export type Part = PackMapLayer & {
  of: PackLayer
  /** Whose records colour its areas, where that layer is on this phone. */
  countedLayer: PackLayer | null
}

/** The parts of a map, the topmost first; also of a map that was fetched by an older app. */
export function partsOf(map: PackMap, layers: PackLayer[]): Part[] {
  const parts: PackMapLayer[] =
    map.layers ??
    (map.look && map.style && map.layer !== undefined
      ? [
          {
            id: 'only',
            layer: map.layer,
            title: layers.find((l) => l.id === map.layer)?.title ?? map.title,
            look: map.look,
            style: map.style,
            label: null,
            slice: null,
            counted: null,
            visible: true,
            in_legend: true,
          },
        ]
      : [])
  return parts.flatMap((part) => {
    const of = layers.find((l) => l.id === part.layer)
    const counted = part.look.kind === 'inside' ? part.look.of.layer : null
    return of ? [{ ...part, of, countedLayer: layers.find((l) => l.id === counted) ?? null }] : []
  })
}

/** Under which name this phone keeps that a part was switched on or off. */
export const switchOf = (map: number, part: string) => `${map}:${part}`

/** A part as this phone shows it now. */
export type ShownPart = Part & {
  on: boolean
  /** Its slice asks for what no phone knows, so that it cannot be drawn: more would be shown than was meant. */
  untold: boolean
  /** What colours its areas is not on this phone, or asks for what no phone knows: they are drawn without colours. */
  uncounted: boolean
  /** What was asked of it: only the records of that slice are shown. */
  asked: PackSearch['slice'] | null
}

/** The searches that this phone can answer; the others ask for what no phone knows. */
export const searchesOf = (
  map: PackMap,
  layers: PackLayer[],
  rulesOf: (layer: PackLayer) => Rules | null,
): PackSearch[] =>
  (map.searches ?? []).filter((search) => {
    const part = partsOf(map, layers).find((p) => p.id === search.part)
    const rules = part && rulesOf(part.of)
    return !!rules && canTell(search.slice.filter as Rule, rules)
  })

/** @param search what is asked, of those that this phone can answer */
export const partsShown = (
  map: PackMap,
  layers: PackLayer[],
  switched: Record<string, boolean>,
  rulesOf: (layer: PackLayer) => Rules | null,
  search: PackSearch | null = null,
): ShownPart[] =>
  partsOf(map, layers).map((part) => {
    const rules = part.slice ? rulesOf(part.of) : null
    return {
      ...part,
      asked: search?.part === part.id ? search.slice : null,
      on: switched[switchOf(map.id, part.id)] ?? part.visible,
      untold: rules !== null && !canTell(part.slice?.filter as Rule, rules),
      uncounted: part.look.kind === 'inside' && !canCount(part, rulesOf),
    }
  })

function canCount(part: Part, rulesOf: (layer: PackLayer) => Rules | null): boolean {
  const rules = part.countedLayer && rulesOf(part.countedLayer)
  return (
    part.countedLayer !== null &&
    [part.counted?.slice, part.counted?.share].every((s) => !s || !rules || canTell(s.filter as Rule, rules))
  )
}

/** Whether photos stand as marks of a part; its card must show them, too. */
export const drawsPhotos = (part: PackMapLayer): boolean =>
  part.look.photos === true && part.card?.photos === true

/**
 * What parts of a map draw, the lowest first.
 *
 * @param photoOf which photo of a record this phone has
 */
export const drawnParts = (
  parts: ShownPart[],
  records: PhoneRecord[],
  rulesOf: (layer: PackLayer) => Rules | null,
  photoOf?: (record: PhoneRecord) => string | undefined,
): MapLayer[] =>
  parts
    .filter((part) => part.on && !part.untold)
    .map((part) => {
      const rules = rulesOf(part.of)
      const shown = inSlice(part.of, part.asked, inSlice(part.of, part.slice, records, rules), rules)
      if (part.look.kind === 'density')
        return {
          source: sourceOf(part),
          layers: part.style,
          data: cellsOf(
            part.look,
            shown.filter((r) => r.layer === part.of.id),
          ),
        }
      const areas = part.uncounted ? null : areasOf(part, shown, records, rulesOf)
      return drawn({ ...part.of, look: part.look, style: part.style }, shown, {
        source: sourceOf(part),
        label: part.label
          ? labelsOf(part.label, part.of, rulesOf(part.of)?.zone ?? 'UTC', areas?.textOf)
          : undefined,
        classOf: areas?.classOf,
        photoOf: drawsPhotos(part) ? photoOf : undefined,
        gather: part.gather ?? null,
      })
    })
    .reverse()

/** How a part's areas are coloured by the records in them; null where they are not. */
function areasOf(
  part: Part,
  shown: PhoneRecord[],
  records: PhoneRecord[],
  rulesOf: (layer: PackLayer) => Rules | null,
) {
  const { look, countedLayer: layer } = part
  if (look.kind !== 'inside' || !layer) return null
  const rules = rulesOf(layer)
  const share = part.counted?.share?.filter as Rule | undefined
  const states = tallied(
    look.of,
    // What lies in an area that is told by its cells, is not told.
    shown.filter((r) => r.layer === part.of.id && !r.blurred),
    inSlice(layer, part.counted?.slice ?? null, records, rules).filter((r) => r.layer === layer.id),
    (record) => share !== undefined && rules !== null && matches(share, record, rules),
  )
  return {
    classOf: (record: PhoneRecord) => {
      const state = states.get(record.id)
      return state && classOfArea(look, state, byOf(look.of, record))
    },
    textOf: (record: PhoneRecord) => {
      const state = states.get(record.id)
      const value = state && !isFew(look.of, state) ? valueOf(look.of, state, byOf(look.of, record)) : null
      return value === null ? null : numberText(Math.round(value * 100) / 100) + (part.counted?.unit ?? '')
    },
  }
}

/** What colours an area, as its card says it; null where nothing does. */
export function tallyOnCard(
  part: ShownPart,
  record: PhoneRecord,
  records: PhoneRecord[],
  rulesOf: (layer: PackLayer) => Rules | null,
) {
  const areas = part.uncounted ? null : areasOf(part, [record], records, rulesOf)
  if (!areas || !part.counted) return null
  const few = areas.classOf(record) === FEW ? part.counted.few : null
  return { label: part.counted.by, text: areas.textOf(record) ?? few }
}

/** The parts and records under a tap, of those that have cards. */
export const cardsUnder = (parts: ShownPart[], under: Picked[]): { picked: Picked; part: ShownPart }[] =>
  under.flatMap((picked) => {
    const part = parts.find((p) => p.card && p.look.kind !== 'density' && sourceOf(p) === picked.source)
    return part ? [{ picked, part }] : []
  })

function inSlice(
  layer: PackLayer,
  slice: PackMapLayer['slice'],
  records: PhoneRecord[],
  rules: Rules | null,
): PhoneRecord[] {
  if (!slice) return records
  const rule = slice.filter as Rule
  return rules ? records.filter((r) => r.layer === layer.id && matches(rule, r, rules)) : []
}

/** The source that a part's style names: the one that all its layers have. */
const sourceOf = (part: Part) =>
  (part.style[0] as { source?: string } | undefined)?.source ?? `layer-${part.of.id}`
