import type { Field, Layer } from '../../../shared/types'

/** The fields of a layer that hold numbers; also those that are worked out and come out as one. */
export const numbersOf = (layer: Layer): Field[] =>
  layer.design.fields.filter(
    (f) =>
      f.kind === 'whole_number' ||
      f.kind === 'decimal' ||
      (f.kind === 'calculated' && layer.results[f.key] === 'number'),
  )
