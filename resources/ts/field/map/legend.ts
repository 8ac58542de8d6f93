import { isByNumbers, numberText, rangeText } from '../../shared/map/classes'
import { t } from '../../shared/texts'
import type { GeometryKind, Look, Peg } from '../../shared/types'
import type { PackLayer, PackMapLayer } from '../db'

/** By what marks differ, in a line; null where all are alike. */
export function marksBy(look: Look, layer: PackLayer, counted?: PackMapLayer['counted']): string | null {
  if (look.kind === 'inside') return counted ? t('field.marks', { by: counted.by }) : null
  const field = !('field' in look) ? undefined : layer.design.fields.find((f) => f.key === look.field)
  const words = [field ? t('field.marks', { by: field.label }) : null, sizesOf(look, layer)]
  return words.filter(Boolean).join(' ') || null
}

function sizesOf(look: Look, layer: PackLayer): string | null {
  const field = look.size && layer.design.fields.find((f) => f.key === look.size?.field)
  return look.size && field
    ? t(layer.design.geometry === 'line' ? 'field.widths' : 'field.sizes', {
        by: field.label,
        most: `${numberText(look.size.most)}${field.unit ? ` ${field.unit}` : ''}`,
      })
    : null
}

/** What the marks of a look mean, a line for each. */
type Mark = Peg & {
  label: string
  geometry?: GeometryKind
  plain?: boolean
  filled?: boolean
  hatched?: boolean
}

export function pegsOf(look: Look, layer: PackLayer, counted?: PackMapLayer['counted']): Mark[] {
  const area = layer.design.geometry === 'area'
  const drawn: Partial<Mark> =
    layer.design.geometry && layer.design.geometry !== 'point'
      ? { geometry: layer.design.geometry }
      : look.size
        ? { plain: true }
        : {}
  if (look.kind === 'single')
    return [{ ...look.peg, ...drawn, plain: 'geometry' in drawn || Boolean(look.size), label: layer.title }]
  // These come with a legend of their own.
  if (look.kind === 'shades' || look.kind === 'crossed' || look.kind === 'density') return []
  if (isByNumbers(look)) {
    const unit =
      look.kind === 'inside'
        ? counted?.unit.trim()
        : layer.design.fields.find((f) => f.key === look.field)?.unit
    const plain = area ? { plain: true } : {}
    return [
      ...look.classes.map((c, i) => ({
        head: c.head,
        colour: c.colour,
        ...drawn,
        ...plain,
        ...(area ? { filled: true } : {}),
        label: c.label ?? rangeText(look.breaks, i, unit || undefined),
      })),
      ...(look.kind === 'inside' && look.of.least > 0
        ? [{ ...look.other, ...drawn, hatched: true, label: counted?.few ?? '' }]
        : []),
      {
        ...look.other,
        ...drawn,
        ...plain,
        label: t(look.kind === 'inside' ? 'tally.none' : 'legend.missing'),
      },
    ]
  }
  const choices = layer.design.fields.find((f) => f.key === look.field)?.choices ?? []
  return choices
    .filter((c) => !c.retired)
    .map((c) => ({
      ...(look.classes.find((k) => k.code === c.code) ?? look.other),
      ...drawn,
      label: c.label,
    }))
}
