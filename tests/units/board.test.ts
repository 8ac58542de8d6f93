import { describe, expect, test } from 'vitest'
import texts from '../../resources/texts/en.json'
import { csvOf, rowsOf } from '../../resources/ts/shared/board/data'
import { layOut, phoneOrder } from '../../resources/ts/shared/board/layout'
import { bare, said, stepEnd, stepName } from '../../resources/ts/shared/board/numbers'
import { asQuery } from '../../resources/ts/shared/board/picks'
import { speak } from '../../resources/ts/shared/texts'
import type { AnsweredTile } from '../../resources/ts/shared/types'

speak('en', texts)

const tile = (id: string, width: number, height: number, x?: number, y?: number) => ({
  id,
  width,
  height,
  ...(x === undefined ? {} : { x }),
  ...(y === undefined ? {} : { y }),
})

describe('where tiles stand', () => {
  test('those without a place stand in order wherever there is room', () => {
    expect(layOut([tile('a', 8, 2), tile('b', 6, 1), tile('c', 4, 2)])).toEqual({
      a: { x: 0, y: 0, w: 8, h: 2 },
      b: { x: 0, y: 2, w: 6, h: 1 },
      c: { x: 8, y: 0, w: 4, h: 2 },
    })
  })

  test('no two ever overlap, and none leaves the twelve columns', () => {
    let seed = 5
    const next = (n: number) => (seed = (seed * 16807) % 2147483647) % n
    for (let round = 0; round < 200; round++) {
      const tiles = Array.from({ length: 12 }, (_, i) =>
        next(3)
          ? tile(`${i}`, 1 + next(12), 1 + next(5), next(12), next(9))
          : tile(`${i}`, 1 + next(14), 1 + next(5)),
      )
      const spots = Object.values(layOut(tiles))
      expect(spots).toHaveLength(12)
      for (const [i, a] of spots.entries()) {
        expect(a.x + a.w).toBeLessThanOrEqual(12)
        for (const b of spots.slice(i + 1))
          expect(a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h).toBe(false)
      }
    }
  })

  test('a phone has its own order, and leaves out what it was told to', () => {
    const tiles = [
      { ...tile('a', 6, 2, 6, 0) },
      { ...tile('b', 6, 2, 0, 0) },
      { ...tile('c', 6, 2, 0, 2), phone: 0 },
      { ...tile('d', 6, 2, 6, 2), on_phone: false },
    ]
    expect(phoneOrder(tiles).map((one) => one.id)).toEqual(['c', 'b', 'a'])
  })
})

describe('numbers', () => {
  const free = { unit: null, decimals: null }
  test('tell as many decimals as say something', () => {
    expect([1234.5678, 12.345, 1.2345, 0.01234, 5, 0].map((n) => bare(n, free))).toEqual([
      '1,235',
      '12.3',
      '1.23',
      '0.0123',
      '5',
      '0',
    ])
    expect(said(12.345, { unit: 'km', decimals: 1 })).toBe('12.3 km')
    expect(said(null, { unit: 'km', decimals: 1 })).toBe('no value yet')
  })

  test('steps are named by their first day, and end on their last', () => {
    expect(stepName('2026-03-01', 'month')).toBe('Mar 2026')
    expect([
      stepEnd('2024-02-01', 'month'),
      stepEnd('2025-12-29', 'week'),
      stepEnd('2026-01-01', 'year'),
      stepEnd('2026-01-01', 'day'),
    ]).toEqual(['2024-02-29', '2026-01-04', '2026-12-31', '2026-01-01'])
  })
})

// Source: RFC 4180, section 2, rules 5 to 7; OWASP, CSV Injection.
test('the numbers of a tile as CSV: quotes doubled, formulas told to be text', () => {
  expect(
    csvOf([
      ['a', 'say "hi", you', '=1+1', '-x', -3, null],
      ['zwei\nZeilen', 'ß', '@cmd', '+4', 1.5, ''],
    ]),
  ).toBe('\uFEFFa,"say ""hi"", you",\'=1+1,\'-x,-3,\r\n"zwei\nZeilen",ß,\'@cmd,\'+4,1.5,\r\n')
})

test('what a tile tells becomes rows', () => {
  const answer = {
    shape: 'bars',
    step: null,
    rows: [{ code: 'a', label: 'A', value: 3, n: 3, share: 100, parts: [1, 2] }],
    others: null,
    lines: [
      { code: 'x', label: 'X' },
      { code: null, label: null },
    ],
    total: 3,
    n: 3,
    missing: 0,
    overlaps: false,
    counts: true,
    unit: null,
    decimals: 0,
  }
  expect(rowsOf({ kind: 'breakdown', title: 'T', answer } as unknown as AnsweredTile)).toEqual([
    ['', 'T', 'n', '%', 'X', 'Not given'],
    ['A', 3, 3, 100, 1, 2],
  ])
  expect(rowsOf({ kind: 'map' } as unknown as AnsweredTile)).toBeNull()
})

test('picks are asked in one order, so that the same picks are one question', () => {
  expect(asQuery({ pick: { b: '2', a: 'ß' }, find: {}, show: { l: 'x' } })).toBe(
    asQuery({ pick: { a: 'ß', b: '2' }, find: {}, show: {} }),
  )
  expect(asQuery({ pick: {}, find: {}, show: { l: 'x' } })).toBe('')
})
