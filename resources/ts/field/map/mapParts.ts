import type { MapLayer } from '../../shared/map/putLayers'
import type { MapLabel } from '../../shared/types'
import type { PackLayer, PackMap, PackMapLayer, PhoneRecord } from '../db'
import { nameBy } from '../name'
import { canTell, matches } from '../slices/matches'
import type { Rule, Rules } from '../slices/rule'
import { drawn } from './onMap'

/** A part of a map with the layer that it shows; of layers that are not on this phone there is no part. */
export type Part = PackMapLayer & { of: PackLayer }

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
            visible: true,
            in_legend: true,
          },
        ]
      : [])
  return parts.flatMap((part) => {
    const of = layers.find((l) => l.id === part.layer)
    return of ? [{ ...part, of }] : []
  })
}

/** Under which name this phone keeps that a part was switched on or off. */
export const switchOf = (map: number, part: string) => `${map}:${part}`

/** A part as this phone shows it now. */
export type ShownPart = Part & {
  on: boolean
  /** Its slice asks for what no phone knows, so that it cannot be drawn: more would be shown than was meant. */
  untold: boolean
}

export const partsShown = (
  map: PackMap,
  layers: PackLayer[],
  switched: Record<string, boolean>,
  rulesOf: (layer: PackLayer) => Rules | null,
): ShownPart[] =>
  partsOf(map, layers).map((part) => {
    const rules = part.slice ? rulesOf(part.of) : null
    return {
      ...part,
      on: switched[switchOf(map.id, part.id)] ?? part.visible,
      untold: rules !== null && !canTell(part.slice?.filter as Rule, rules),
    }
  })

/** What parts of a map draw, the lowest first. */
export const drawnParts = (
  parts: ShownPart[],
  records: PhoneRecord[],
  rulesOf: (layer: PackLayer) => Rules | null,
): MapLayer[] =>
  parts
    .filter((part) => part.on && !part.untold)
    .map((part) =>
      drawn({ ...part.of, look: part.look, style: part.style }, inSlice(part, records, rulesOf(part.of)), {
        source: sourceOf(part),
        label: part.label ? (record) => labelText(part.label as MapLabel, part.of, record) : undefined,
      }),
    )
    .reverse()

function inSlice(part: Part, records: PhoneRecord[], rules: Rules | null): PhoneRecord[] {
  if (!part.slice) return records
  const rule = part.slice.filter as Rule
  return rules ? records.filter((r) => r.layer === part.of.id && matches(rule, r, rules)) : []
}

/** The source that a part's style names: the one that all its layers have. */
const sourceOf = (part: Part) =>
  (part.style[0] as { source?: string } | undefined)?.source ?? `layer-${part.of.id}`

/** As the server puts a label together (PinYard\Carto\Label); undefined where the record has none of its values. */
export function labelText(label: MapLabel, layer: PackLayer, record: PhoneRecord): string | undefined {
  let any = false
  const text = label.parts.map((part) => {
    if ('text' in part) return part.text
    const field = layer.design.fields.find((f) => f.key === part.field)
    const value = field ? nameBy(field, record.values[field.key]) : null
    if (value === null || value === '') return '–'
    any = true
    return value
  })
  return any ? text.join('').trim() : undefined
}
