import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { KINDS, said } from '../../resources/ts/desk/publish/board/tileEdits'

test('what goes without saying of a tile is said as the server says it', () => {
  const unsaid = JSON.parse(readFileSync('tests/vectors/tiles-unsaid.json', 'utf8')) as Record<string, object>
  expect(Object.keys(unsaid).sort()).toEqual([...KINDS].sort())
  const bare = { id: 'x', title: 'T', width: 3, height: 2 }
  for (const kind of KINDS) expect(said({ ...bare, kind })).toEqual({ ...bare, kind, ...unsaid[kind] })
  expect(said({ ...bare, kind: 'latest', order: 'name' }).order).toBe('name')
})
