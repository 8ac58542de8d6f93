import type { AudienceRule, SeenLayer } from '../../queries/audiences'
import { formatNumber, t } from '../../../shared/texts'

/** Sides of a cell that is proposed, in metres; and what the server takes. */
export const FIRST_METRES = 500
export const LEAST_METRES = 10
export const MOST_METRES = 500_000

export const isShown = (rule: AudienceRule) => rule.rows !== 'none'

/** A rule in a few words, the widest-reaching first. */
export function wordsOf(
  layer: SeenLayer,
  rule: AudienceRule,
): { text: string; tone: 'well' | 'info' | 'plain' }[] {
  if (!isShown(rule) || layer.lost) return []
  const words: { text: string; tone: 'well' | 'info' | 'plain' }[] = []
  if (rule.slice !== null)
    words.push({ text: layer.slices.find((s) => s.id === rule.slice)?.name ?? '', tone: 'plain' })
  if (rule.place === 'cell')
    words.push({ text: t('seen.blurred', { metres: formatNumber(rule.metres ?? 0) }), tone: 'info' })
  if (rule.place === 'none') words.push({ text: t('seen.noplace'), tone: 'info' })
  const shown = fieldsShown(layer, rule)
  if (shown.length < layer.fields.length)
    words.push({ text: t('seen.fields', { n: shown.length, of: layer.fields.length }), tone: 'plain' })
  if (layer.photos && !rule.photos) words.push({ text: t('seen.nophotos'), tone: 'plain' })
  return words.length ? words : [{ text: t('seen.all'), tone: 'well' }]
}

/** Fields that are told; one that tells a place that is hidden is not, whatever was chosen. */
export const fieldsShown = (layer: SeenLayer, rule: AudienceRule) =>
  layer.fields.filter(
    (f) =>
      (rule.fields === null || rule.fields.includes(f.key)) && (rule.place === 'exact' || !f.tells_place),
  )

/** Why a rule can't be saved as it is; null where it can. */
export function lacks(rule: AudienceRule): string | null {
  if (!isShown(rule) || rule.place !== 'cell') return null
  const metres = rule.metres ?? NaN
  return Number.isInteger(metres) && metres >= LEAST_METRES && metres <= MOST_METRES
    ? null
    : t('seen.metres.wrong', { least: LEAST_METRES, most: MOST_METRES })
}
