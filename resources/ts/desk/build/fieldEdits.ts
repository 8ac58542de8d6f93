import { t } from '../../shared/texts'
import type { Design, Field } from '../../shared/types'
import { keyFrom } from './design'

/* What one does to the fields of a design; each gives the design that comes of it. */

/** The key follows the label until the layer is made (`locked`: keys that are in use) or someone writes a key. */
export const withField = (design: Design, i: number, change: Partial<Field>, locked: string[]): Design => ({
  ...design,
  fields: design.fields.map((f, j) => {
    if (j !== i) return f
    const next = { ...f, ...change }
    const others = design.fields.filter((_, k) => k !== i).map((o) => o.key)
    if (change.label !== undefined && !locked.includes(f.key) && f.key === keyFrom(f.label, others))
      next.key = keyFrom(change.label, others)
    return next
  }),
})

export const withMoved = (design: Design, i: number, by: number): Design => {
  const fields = [...design.fields]
  fields.splice(i + by, 0, ...fields.splice(i, 1))
  return { ...design, fields }
}

export const withCopy = (design: Design, i: number): Design => {
  const field = design.fields[i]
  if (!field) return design
  const label = t('design.copy.label', { label: field.label })
  const taken = design.fields.map((f) => f.key)
  const fields = [...design.fields]
  fields.splice(i + 1, 0, { ...field, label, key: keyFrom(label, taken) })
  return { ...design, fields }
}

export const without = (design: Design, i: number): Design => ({
  ...design,
  fields: design.fields.filter((_, j) => j !== i),
})

/** A choice that was taken away is kept with the field after all, but nobody can choose it any more. */
export const withRetired = (design: Design, saved: Design, key: string, code: string): Design => {
  const gone = saved.fields.find((f) => f.key === key)?.choices?.find((c) => c.code === code)
  return gone
    ? {
        ...design,
        fields: design.fields.map((f) =>
          f.key === key ? { ...f, choices: [...(f.choices ?? []), { ...gone, retired: true }] } : f,
        ),
      }
    : design
}
