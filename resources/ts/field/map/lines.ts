import { t } from '../../shared/texts'
import type { Look } from '../../shared/types'
import { setMeta, type PackLayer } from '../db'
import type { SheetLine } from './LayersSheet'
import { marksBy, pegsOf } from './legend'
import { switchOf, type ShownPart } from './mapParts'

/* What can be switched on the map: its layers, or the parts of the map that was chosen; kept on this phone. */

export const linesOfLayers = (layers: PackLayer[], hidden: number[]): SheetLine[] =>
  layers.map((layer) => ({
    id: String(layer.id),
    title: layer.title,
    on: !hidden.includes(layer.id),
    pegs: pegsOf(layer.look, layer),
    onSwitch: (on) =>
      void setMeta('hidden', on ? hidden.filter((id) => id !== layer.id) : [...hidden, layer.id]),
  }))

const uncoloured = ({ look, uncounted }: ShownPart): Look =>
  uncounted && look.kind === 'inside' ? { kind: 'single', peg: look.other } : look

export const linesOfMap = (map: number, parts: ShownPart[], switched: Record<string, boolean>): SheetLine[] =>
  parts
    .filter((part) => part.in_legend)
    .map((part) => ({
      id: part.id,
      title: part.slice ? `${part.title}: ${part.slice.name}` : part.title,
      on: part.on,
      pegs: pegsOf(uncoloured(part), { ...part.of, title: part.title }, part.counted),
      note: part.untold
        ? t('field.map.untold', { slice: part.slice?.name ?? '' })
        : part.uncounted
          ? t('field.map.uncounted')
          : part.by
            ? t('field.marks', { by: part.by })
            : marksBy(part.look, part.of, part.counted),
      legend: part.untold ? null : (part.legend ?? null),
      onSwitch: (on) => void setMeta('switched', { ...switched, [switchOf(map, part.id)]: on }),
    }))
