import { expect, test } from 'vitest'
import {
  withCopy,
  withField,
  withMoved,
  without,
  withRetired,
} from '../../resources/ts/desk/build/fieldEdits'
import type { Design } from '../../resources/ts/shared/types'

/* What one does to the fields of a design at the desk. */

const design = (...labels: string[]): Design => ({
  title: 'Trees',
  purpose: '',
  geometry: 'point',
  fields: labels.map((label) => ({ key: label.toLowerCase(), label, kind: 'short_text' })),
  photos: { allowed: false, least: 0, most: 0, max_bytes: 1 },
  rights: { crew: { add: true, see: 'all', change: 'own', delete: 'none' } },
})
const keysOf = (d: Design) => d.fields.map((f) => f.key)

test('a key follows its label until the layer is made, and is never one that there is', () => {
  const two = design('Girth', 'Height')
  expect(keysOf(withField(two, 0, { label: 'Größe' }, []))).toEqual(['grosse', 'height'])
  expect(keysOf(withField(two, 0, { label: 'Height' }, []))).toEqual(['height_2', 'height'])
  expect(keysOf(withField(two, 0, { label: 'Size' }, ['girth']))).toEqual(['girth', 'height'])
  const own = withField(two, 0, { key: 'g' }, [])
  expect(keysOf(withField(own, 0, { label: 'Size' }, []))).toEqual(['g', 'height'])
})

test('moving there and back is nothing, and keeps every field', () => {
  const many = design('A', 'B', 'C', 'D')
  for (let i = 0; i < 4; i++)
    for (let by = -i; by < 4 - i; by++) {
      const moved = withMoved(many, i, by)
      expect(moved.fields[i + by]).toBe(many.fields[i])
      expect([...keysOf(moved)].sort()).toEqual(keysOf(many))
      expect(withMoved(moved, i + by, -by)).toEqual(many)
    }
})

test('a copy stands behind its field with a key of its own; what is taken away leaves the others', () => {
  const once = withCopy(design('A', 'B'), 0)
  const twice = withCopy(once, 0)
  expect(new Set(keysOf(twice)).size).toBe(4)
  expect(keysOf(twice)[3]).toBe('b')
  expect(keysOf(without(twice, 3))).toEqual(keysOf(twice).slice(0, 3))
  expect(withCopy(design('A'), 7)).toEqual(design('A'))
})

test('a choice that was taken away comes back retired, and only that', () => {
  const saved = design('State')
  saved.fields[0] = {
    ...saved.fields[0]!,
    kind: 'one_choice',
    choices: [
      { code: 'dead', label: 'Dead' },
      { code: 'sick', label: 'Sick' },
    ],
  }
  const now = { ...saved, fields: [{ ...saved.fields[0]!, choices: [{ code: 'sick', label: 'Sick' }] }] }
  expect(withRetired(now, saved, 'state', 'dead').fields[0]!.choices).toEqual([
    { code: 'sick', label: 'Sick' },
    { code: 'dead', label: 'Dead', retired: true },
  ])
  expect(withRetired(now, saved, 'state', 'never')).toBe(now)
})
