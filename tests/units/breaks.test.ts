import { execFileSync } from 'node:child_process'
import { ckmeans, uniqueCountSorted } from 'simple-statistics'
import { expect, test } from 'vitest'

/* Natural classes of the server, held against ckmeans of simple-statistics 7.8.9: neither may leave more than the other. */

let seed = 42
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647

const SETS: Record<string, number[]> = {
  'a few': [3, 1, 2],
  ties: [1, 1, 1, 2, 2, 2, 2, 9, 9, 9, 10, 10, 50, 50],
  'one value': [7, 7, 7, 7],
  negative: [-5, -4.5, -100, -99, 0, 0.5, 3, -0.25, -50],
  huge: [1e14, 1e14 + 1, 1e14 + 2, 5e14, 5e14 + 3, 9e14, 9.5e14],
  tiny: [1e-7, 2e-7, 2.1e-7, 9e-7, 1e-6, 1.1e-6],
  even: Array.from({ length: 120 }, (_, i) => i / 4),
  skewed: Array.from({ length: 700 }, () => Math.round(Math.exp(random() * 6) * 100) / 100),
  lumps: Array.from({ length: 500 }, (_, i) => (i % 3) * 100 + Math.round(random() * 2000) / 100),
}

const lossOf = (classes: number[][]) =>
  classes.reduce((sum, one) => {
    const mean = one.reduce((a, b) => a + b, 0) / one.length
    return sum + one.reduce((a, b) => a + (b - mean) ** 2, 0)
  }, 0)

test.each(Object.entries(SETS))('of %s', (_, values) => {
  const counts = [2, 3, 5, 9].filter((k) => k <= values.length)
  const ours = JSON.parse(
    execFileSync('php', [
      '-r',
      `require 'vendor/autoload.php';
       [$values, $counts] = json_decode($argv[1], true);
       $spread = PinYard\\Stats\\Spread::ofValues($values);
       echo json_encode(array_map(fn ($k) => PinYard\\Stats\\Classes::breaks($spread, PinYard\\Stats\\Method::Natural, $k), $counts));`,
      JSON.stringify([values, counts]),
    ]).toString(),
  ) as number[][]
  const sorted = values.toSorted((a, b) => a - b)
  for (const [i, count] of counts.entries()) {
    const breaks = ours[i]!
    const classes = Array.from({ length: breaks.length + 1 }, (_, c) =>
      sorted.filter((v) => (c === 0 || v >= breaks[c - 1]!) && (c === breaks.length || v < breaks[c]!)),
    )
    expect(breaks.length + 1).toBe(Math.min(count, uniqueCountSorted(sorted)))
    const theirs = lossOf(ckmeans(sorted, Math.min(count, uniqueCountSorted(sorted))))
    expect(lossOf(classes)).toBeLessThanOrEqual(theirs * (1 + 1e-9) + 1e-12)
  }
})
