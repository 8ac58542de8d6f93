import { IntlMessageFormat } from 'intl-messageformat'
import { readdirSync, readFileSync } from 'node:fs'
import { afterEach, describe, expect, it, test } from 'vitest'
import { openTexts, workerTexts } from '../../resources/build/page-texts.mjs'
import { LANGUAGES, languageOf } from '../../resources/ts/shared/language'
import { decimal, formatDate, formatNumber, speak, spokenLanguage, t } from '../../resources/ts/shared/texts'
import { bare, stepName } from '../../resources/ts/shared/board/numbers'
import { readDecimal } from '../../resources/ts/shared/form/rules'
import { numberText } from '../../resources/ts/shared/map/classes'

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

describe('the language of a page', () => {
  const german = read('de.json')
  afterEach(() => speak('en', en))

  test('is one of those that there are sentences in', () => {
    expect(Object.keys(LANGUAGES).sort()).toEqual(
      readdirSync('resources/texts')
        .map((file) => file.replace('.json', ''))
        .sort(),
    )
    for (const text of ['fr', 'toString', '__proto__', '', null, 1, 'DE']) expect(languageOf(text)).toBeNull()
    expect(languageOf('de')).toBe('de')
  })

  test('is that of its sentences, numbers and days, and what was kept of another goes', () => {
    const said = () => [
      t('age.days', { n: 1 }),
      t('value.yes'),
      formatNumber(1234.5),
      formatDate('2026-05-01'),
      bare(1234.5, { unit: null, decimals: 2 }),
      stepName('2026-05-01', 'month'),
      decimal('-12.50'),
      numberText(-0.25),
    ]
    const english = ['1 day', 'yes', '1,234.5', 'May 1, 2026', '1,234.50', 'May 2026', '-12.50', '−0.25']
    expect(said()).toEqual(english)
    speak('de', german)
    expect(spokenLanguage()).toBe('de')
    expect(said()).toEqual([
      '1 Tag',
      'ja',
      '1.234,5',
      '1. Mai 2026',
      '1.234,50',
      'Mai 2026',
      '-12,50',
      '−0,25',
    ])
    // What is shown of a number can be typed again.
    expect(readDecimal(decimal(String(-12.5)))).toBe(-12.5)
    speak('en', en)
    expect(said()).toEqual(english)
  })

  test('has the same sentences on open pages and in the worker of phones as English', () => {
    expect(Object.keys(openTexts('de'))).toEqual(Object.keys(openTexts('en')))
    const worker = workerTexts()
    expect(Object.keys(worker).sort()).toEqual(Object.keys(LANGUAGES).sort())
    expect(Object.keys(worker.de!)).toEqual(Object.keys(worker.en!))
    expect(worker.de).toHaveProperty(['failure.offline'])
  })
})
