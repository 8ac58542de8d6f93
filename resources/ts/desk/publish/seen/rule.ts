import type { AudienceOf, AudienceRule, SeenLayer, SeenRule } from '../../queries/audiences'
import { formatNumber, t } from '../../../shared/texts'

/** Sides of a cell that is proposed, in metres; and what the server takes. */
export const FIRST_METRES = 500
export const LEAST_METRES = 10
export const MOST_METRES = 500_000

/** Records that a figure is of at least, where figures alone are told: what is proposed, and what the server takes. */
export const FIRST_LEAST = 5
export const FEWEST = 3
export const MOST_LEAST = 1_000

export const isShown = (rule: AudienceRule) => rule.rows !== 'none'

const NOTHING: SeenRule = {
  rows: 'none',
  slice: null,
  accepted: false,
  place: 'none',
  metres: null,
  areas: null,
  fields: [],
  photos: false,
  least: null,
  said: false,
  lost: false,
}

/** What holds for an audience: one that has come since the screen was filled sees nothing yet. */
export const ruleOf = (layer: SeenLayer, audience: string): SeenRule => layer.rules[audience] ?? NOTHING

/** A few of many names. */
export const some = (names: string[]) =>
  names.length > 6 ? `${names.slice(0, 5).join(', ')} …` : names.join(', ')

/** What an audience is called. */
export const titleOf = (audience: AudienceOf) =>
  audience.title ?? t(`seen.of.${audience.kind as 'link' | 'guests' | 'makers' | 'crews'}`)

/** What goes without saying for an audience, and can be gone back to; null where that is nothing. */
export const unsaidOf = (audience: AudienceOf) =>
  audience.kind === 'crews' || audience.kind === 'guests' || audience.kind === 'makers'
    ? t(`seen.unsaid.${audience.kind}`)
    : null

/** Whether those who bring records can be shown their own alone. */
export const goesOut = (audience: AudienceOf) => ['crews', 'crew', 'group'].includes(audience.kind)

/** Whether it is of crews, who are told of their own anyway. */
export const isCrew = (audience: AudienceOf) => audience.kind === 'crews' || audience.kind === 'crew'

/** Whether somebody would see less by a rule than by another. */
export function narrows(layer: SeenLayer, from: AudienceRule, to: AudienceRule): boolean {
  const rows = (r: AudienceRule) => ({ all: 0, slice: 1, own: 2, none: 3 })[r.rows]
  // Of a cell its size is known; of areas it is not, so other areas may tell less.
  const sharp = (r: AudienceRule) =>
    ({ exact: 0, cell: r.metres ?? 0, area: MOST_METRES + 1, none: Infinity })[r.place]
  if (!isShown(from)) return false
  if ((to.least ?? 1) > (from.least ?? 1) || (to.accepted && !from.accepted)) return true
  if (rows(to) > rows(from) || (to.rows === 'slice' && from.rows === 'slice' && to.slice !== from.slice))
    return true
  return (
    sharp(to) > sharp(from) ||
    (to.place === 'area' && from.place === 'area' && to.areas !== from.areas) ||
    (from.photos && !to.photos && layer.photos) ||
    fieldsShown(layer, from).some((f) => !fieldsShown(layer, to).includes(f))
  )
}

/** A rule in a few words, the widest-reaching first. */
export function wordsOf(
  layer: SeenLayer,
  rule: AudienceRule,
  lost = false,
): { text: string; tone: 'well' | 'info' | 'plain' }[] {
  if (!isShown(rule) || lost) return []
  if (rule.rows === 'own') return [{ text: t('seen.own'), tone: 'plain' }]
  const words: { text: string; tone: 'well' | 'info' | 'plain' }[] = []
  if (rule.least !== null)
    words.push({
      text: t('seen.least.word', { n: Number.isFinite(rule.least) ? rule.least : '…' }),
      tone: 'info',
    })
  if (rule.slice !== null)
    words.push({ text: layer.slices.find((s) => s.id === rule.slice)?.name ?? '', tone: 'plain' })
  if (rule.accepted) words.push({ text: t('seen.accepted.word'), tone: 'info' })
  if (rule.place === 'cell')
    words.push({ text: t('seen.blurred', { metres: formatNumber(rule.metres ?? 0) }), tone: 'info' })
  if (rule.place === 'area')
    words.push({
      text: t('seen.inareas', {
        areas: layer.areas.find((a) => a.id === rule.areas)?.title ?? t('seen.areas.lost'),
      }),
      tone: 'info',
    })
  if (rule.place === 'none' && rule.least === null) words.push({ text: t('seen.noplace'), tone: 'info' })
  const shown = fieldsShown(layer, rule)
  if (shown.length < layer.fields.length)
    words.push({ text: t('seen.fields', { n: shown.length, of: layer.fields.length }), tone: 'plain' })
  if (layer.photos && !rule.photos && rule.least === null)
    words.push({ text: t('seen.nophotos'), tone: 'plain' })
  return words.length ? words : [{ text: t('seen.all'), tone: 'well' }]
}

/** Fields that are told; one that tells a place that is hidden is not, whatever was chosen. */
export const fieldsShown = (layer: SeenLayer, rule: AudienceRule) =>
  layer.fields.filter((f) => (rule.fields === null || rule.fields.includes(f.key)) && !tellsMore(f, rule))

/** Whether a field tells more of where a record is than a rule lets be known. */
export const tellsMore = (field: SeenLayer['fields'][number], rule: AudienceRule) =>
  rule.place !== 'exact' &&
  field.tells_place &&
  !(rule.place === 'area' && rule.areas !== null && field.tells_areas.includes(rule.areas))

/** Why a rule can't be saved as it is; null where it can. */
export function lacks(layer: SeenLayer, rule: AudienceRule): string | null {
  if (rule.rows === 'none' || rule.rows === 'own') return null
  if (
    rule.least !== null &&
    !(Number.isInteger(rule.least) && rule.least >= FEWEST && rule.least <= MOST_LEAST)
  )
    return t('seen.least.wrong', { least: FEWEST, most: MOST_LEAST })
  if (rule.place === 'area') return layer.areas.some((a) => a.id === rule.areas) ? null : t('seen.areas.none')
  if (rule.place !== 'cell') return null
  const metres = rule.metres ?? NaN
  return Number.isInteger(metres) && metres >= LEAST_METRES && metres <= MOST_METRES
    ? null
    : t('seen.metres.wrong', { least: LEAST_METRES, most: MOST_METRES })
}
