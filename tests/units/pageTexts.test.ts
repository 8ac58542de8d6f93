import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { openTexts } from '../../resources/build/page-texts.mjs'

/* Open pages carry the sentences that they can say, and those alone. */

const en = JSON.parse(readFileSync('resources/texts/en.json', 'utf8')) as Record<string, string>

test('every sentence that an open page asks for by its key is there', () => {
  const texts = openTexts()
  for (const file of [
    'open/OpenMap',
    'open/OpenBoard',
    'open/Join',
    'open/Reset',
    'open/Forgot',
    'open/Closed',
    'shared/api',
    'shared/parts/MapLegend',
    'shared/parts/RecordCard',
    'shared/board/BoardTiles',
    'shared/parts/GateSight',
  ]) {
    const name = [`${file}.tsx`, `${file}.ts`].find((f) => {
      try {
        return readFileSync(`resources/ts/${f}`)
      } catch {
        return false
      }
    })
    const code = readFileSync(`resources/ts/${name}`, 'utf8')
    // As a word, or chosen among several words in one call.
    for (const [, call] of code.matchAll(/\bt\(([^)]*)\)/g))
      for (const [, key] of call!.matchAll(/'([a-z][\w.]*)'/g))
        if (key! in en) expect(texts).toHaveProperty([key!])
    // Put together from its beginning: from nothing it could be any.
    expect(code).not.toMatch(/\bt\(`\$\{/)
    for (const [, begun] of code.matchAll(/\bt\(`([\w.]+)\$\{/g))
      expect(Object.keys(texts).filter((k) => k.startsWith(begun!)).length).toBe(
        Object.keys(en).filter((k) => k.startsWith(begun!)).length,
      )
  }
})

test('what only the desk says is not there', () => {
  const keys = Object.keys(openTexts())
  expect(keys.length).toBeGreaterThan(40)
  expect(keys.filter((k) => /^(design|problem|outbox|bring)\./.test(k))).toEqual([])
})

test('no sentence is written down twice: the second would silently take the place of the first', () => {
  const keys = [...readFileSync('resources/texts/en.json', 'utf8').matchAll(/^ {2}"([^"]+)":/gm)].map(
    ([, k]) => k!,
  )
  expect(keys.length).toBeGreaterThan(1000)
  expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([])
})
