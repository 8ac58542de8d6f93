import { IntlMessageFormat } from 'intl-messageformat'
import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

/* Every language says every sentence, with the same values in it. */

const read = (file: string) =>
  JSON.parse(readFileSync(`resources/texts/${file}`, 'utf8')) as Record<string, string>
const en = read('en.json')
const others = readdirSync('resources/texts').filter((file) => file.endsWith('.json') && file !== 'en.json')

type Part = ReturnType<IntlMessageFormat['getAst']>[number]

/** The values that a sentence takes, and the cases that it tells apart by words (numbers have others elsewhere). */
function values(sentence: string): string[] {
  const found = new Set<string>()
  const walk = (parts: Part[]) => {
    for (const part of parts) {
      if ('options' in part) {
        const counted = 'pluralType' in part
        found.add(`${part.value}: ${counted ? 'counted' : Object.keys(part.options).sort().join()}`)
        for (const option of Object.values(part.options)) walk(option.value)
      } else if ('value' in part && part.type !== 0) found.add(part.value)
    }
  }
  walk(new IntlMessageFormat(sentence, 'en').getAst())
  return [...found].sort()
}

/** Blanks at either end, line breaks: sentences are put together by them. */
const shape = (sentence: string) =>
  [/^\s*/, /\s*$/, /\n/g].map((blanks) => (sentence.match(blanks) ?? []).join('|'))

const count = (text: string, letter: string) => text.split(letter).length - 1

describe.each(others)('%s', (file) => {
  const texts = read(file)

  it('has the sentences of English, in the same order', () => {
    expect(Object.keys(texts)).toEqual(Object.keys(en))
  })

  it('puts the same values into them, and tells the same cases apart', () => {
    for (const [key, sentence] of Object.entries(texts)) {
      expect([key, ...values(sentence)]).toEqual([key, ...values(en[key]!)])
      expect([key, ...shape(sentence)]).toEqual([key, ...shape(en[key]!)])
    }
  })

  it('is translated, with quotation marks in pairs', () => {
    for (const [key, sentence] of Object.entries(texts)) {
      if (/[a-z]{3,} [a-z]{3,}/.test(en[key]!)) expect(sentence, key).not.toBe(en[key])
      if (file === 'de.json') expect(count(sentence, '„'), key).toBe(count(sentence, '“'))
      expect(sentence, key).not.toContain(' ,')
    }
  })
})
