import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { night, paint, sun } from '../../resources/ts/shared/paint'

const ROOT = new URL('../../resources/ts/', import.meta.url)
/** What a theme's words for a colour cannot be: a number of it, or the name that a browser knows it by. */
const NAMED =
  /#(?:[\da-fA-F]{8}|[\da-fA-F]{6}|[\da-fA-F]{3})(?![\da-zA-Z])|\b(?:rgba?|hsla?|oklch)\(|'(?:white|black|red|green|blue|gr[ae]y)'/

test('colours are named in one place', () => {
  const others = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.tsx?$/.test(f) && !/paint\.ts$|generated/.test(f))
    .flatMap((f) =>
      readFileSync(new URL(f, ROOT), 'utf8')
        .split('\n')
        .flatMap((line, i) => (NAMED.test(line) ? [`${f}:${i + 1}: ${line.trim()}`] : [])),
    )
  expect(others).toEqual([])
})

test('no colour has two names', () => {
  const values = Object.values(paint)
  expect(values.length).toBe(new Set(values.map((v) => v.toUpperCase())).size)
})

/** Source: WCAG 2.2, relative luminance and contrast ratio. */
const light = (hex: string) => {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(hex.slice(at, at + 2), 16) / 255
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
const contrast = (a: string, b: string) => {
  const [dark, bright] = [light(a), light(b)].sort((x, y) => x - y) as [number, number]
  return (bright + 0.05) / (dark + 0.05)
}

describe('words can be read on what they stand on (WCAG 2.2, 1.4.3: 4.5)', () => {
  const { page, sheet, band, note, picked, pointed, sand, white } = paint
  test.each([
    [paint.ink, [page, sheet, band, note, picked, pointed, sand, paint.buoyWash, paint.sea, paint.land]],
    [paint.soft, [page, sheet, band, picked, pointed]],
    [paint.buoyDark, [page, sheet, note, picked, paint.buoyWash]],
    [paint.buoyDarkest, [paint.buoyWash]],
    [paint.tideDark, [paint.tideWash]],
    [paint.kelp, [page, sheet, paint.kelpWash, white]],
    [paint.brick, [page, sheet, paint.buoyWash]],
    [paint.sandDark, [sand]],
    [paint.seaInk, [paint.sea]],
    [paint.grid, [white, paint.sea, paint.land]],
    [paint.sketchDark, [white]],
    [white, [paint.kelp, paint.kelpDark, paint.buoy, paint.brick, paint.strip, paint.ink]],
    [page, [paint.ink, paint.strip]],
    [paint.onDark, [paint.ink]],
    [paint.onDarkWarning, [paint.ink]],
    [sun.ink, [white]],
    [sun.soft, [white]],
    [night.ink, [night.page, night.sheet]],
    [night.soft, [night.page, night.sheet]],
    [night.brick, [night.page, night.sheet]],
    [night.onKelp, [night.kelp]],
  ])('%s', (words, grounds) => {
    for (const ground of grounds) expect.soft(contrast(words, ground), ground).toBeGreaterThanOrEqual(4.5)
  })

  /** Source: black on white is 21, as the definition says. */
  test('the measure', () => expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 10))
})

/** What one types in, and marks that mean something, against their ground (WCAG 2.2, 1.4.11: 3). */
test.each([
  [paint.frame, paint.sheet],
  [paint.frame, paint.page],
  [paint.frame, paint.white],
  [night.frame, night.page],
  [paint.other, paint.sheet],
  [paint.buoy, paint.sea],
  [paint.buoy, paint.land],
  [paint.tide, paint.sea],
  [paint.faded, paint.sheet],
])('%s can be seen on %s', (mark, ground) => expect(contrast(mark, ground)).toBeGreaterThanOrEqual(3))
