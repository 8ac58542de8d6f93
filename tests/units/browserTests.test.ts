import { readdirSync, readFileSync } from 'node:fs'
import { expect, test } from 'vitest'

const folder = new URL('../browser/', import.meta.url)

test('the pages of every browser test are closed when it ends', () => {
  const specs = readdirSync(folder).filter((name) => name.endsWith('.spec.ts'))
  expect(specs.length).toBeGreaterThan(30)
  const others = specs.filter(
    (name) =>
      !/import \{[^}]*\btest\b[^}]*\} from '\.\/test'/.test(readFileSync(new URL(name, folder), 'utf8')),
  )
  expect(others).toEqual([])
})
