import { filesMissing } from '../shared/form/files'
import { filled, type compileRules, type FieldProblem, type Here } from '../shared/form/rules'
import { t } from '../shared/texts'
import type { Value, Values } from '../shared/types'
import type { Draft, PackLayer } from './db'

/** What stands between a form and its record; with nothing in the way its values are those to save. */
export type Judged = {
  values: Values
  /** Of single fields, with what is unusual and was not said to be right. */ problems: FieldProblem[]
  /** Of files, place, shape and altitude. */ refused: string[]
}

/** Whether a form may be saved as it stands. The server's rules are the same, and asked again when it arrives. */
export function judged(
  layer: PackLayer,
  draft: Draft,
  rules: ReturnType<typeof compileRules>,
  here: Here,
  shape: GeoJSON.Geometry | null,
): Judged {
  const { design } = layer
  const { values, problems, asks } = rules(known(layer, filled(draft.values)), here)
  const unsure = asks
    .filter((a) => draft.confirmed?.[a.field] !== draft.values[a.field])
    .map((a) => ({
      ...a,
      message: t('ask.first', { label: design.fields.find((f) => f.key === a.field)?.label ?? a.field }),
    }))
  const refused: string[] = []
  // A record that is changed keeps the files that it has, and this form does not hold them.
  if (!draft.from)
    refused.push(
      ...filesMissing(
        design,
        draft.photos.map((p) => ({ ...p, slot: p.slot ?? null })),
      ),
    )
  if (design.geometry !== 'point' && !shape) refused.push(t(`draw.${design.geometry}.needed`))
  if (design.altitude?.required && (draft.altitude ?? null) === null)
    refused.push(t('problem.altitude_required'))
  const [accuracy, wanted] = [draft.fix?.accuracy, design.fix?.refuse_above]
  if (accuracy && wanted && accuracy > wanted)
    refused.push(t('form.fix.poor', { accuracy: Math.round(accuracy), wanted }))
  if (design.geometry === 'point' && !(Math.abs(draft.lon) <= 180 && Math.abs(draft.lat) <= 90))
    refused.push(t('problem.position_outside_world', { lon: draft.lon, lat: draft.lat }))
  return { values, problems: [...problems, ...unsure], refused }
}

const hasField = ({ design }: PackLayer, key: string) => design.fields.some((f) => f.key === key)

const known = (layer: PackLayer, values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([key]) => hasField(layer, key)))

/**
 * Values of a draft of an older app, whose form nobody kept: what today's form has no place for is shown, and goes into
 * the note that stays on the phone.
 */
export const outgrownOf = (layer: PackLayer, { values }: Draft): [string, Value][] =>
  Object.entries(values).filter(([key, value]) => value !== null && value !== '' && !hasField(layer, key))

/** The same as last: never what names a record, nor what is worked out. */
export const sameAs = (last: Values | undefined, { design, name_field }: PackLayer): Values =>
  Object.fromEntries(
    design.fields.flatMap(({ key, kind }) => {
      const value = last?.[key] ?? null
      return key === name_field || kind === 'calculated' || value === null ? [] : [[key, value]]
    }),
  )
