import { differenceCiede2000, parse, rgb, type Color } from 'culori'
import { readFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { expect, test } from 'vitest'
import { classOf, pegFor, rangeText, sizeOf } from '../../resources/ts/shared/map/classes'
import type { NumberLook } from '../../resources/ts/shared/types'

/* Classes of numbers on the screen, held against the same cases as on the server (tests/Core/LookTest.php). */

const vectors = JSON.parse(readFileSync('tests/vectors/looks.json', 'utf8')) as {
  breaks: number[]
  cases: { value: number | null; class: string | null }[]
  ranges: { breaks: number[]; class: number; unit: string | null; text: string }[]
}
const look: NumberLook = {
  kind: 'classes',
  field: 'x',
  method: 'hand',
  scheme: 'tide',
  breaks: vectors.breaks,
  classes: ['#111111', '#222222', '#333333', '#444444'].map((colour) => ({ head: 'disc', colour })),
  other: { head: 'ring', colour: '#8C8672' },
}

test('a record is of the class that the server says', () => {
  for (const c of vectors.cases) {
    expect(classOf(look, { x: c.value }) ?? null).toBe(c.class)
    expect(pegFor(look, { x: c.value })).toBe(c.class === null ? look.other : look.classes[Number(c.class)])
  }
  expect(classOf(look, {})).toBeUndefined()
})

test('classes are called as on the server', () => {
  for (const r of vectors.ranges) expect(rangeText(r.breaks, r.class, r.unit ?? undefined)).toBe(r.text)
})

/*
 * Colours of the schemes, by CIEDE2000 (Sharma, Wu and Dalal 2005) as culori reckons it, and as they are seen without
 * one kind of cones: G. M. Machado, M. M. Oliveira and L. A. F. Fernandes, "A physiologically-based model for simulation
 * of color vision deficiency", IEEE TVCG 15 (2009), table 1, severity 1.0 (the matrices from memory).
 */
const MACHADO = {
  protan: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deutan: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritan: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
}
const linear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)
const gamma = (c: number) => (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055)

function seen(hex: string, by: keyof typeof MACHADO | null): Color {
  const { r, g, b } = rgb(parse(hex)!)!
  if (!by) return { mode: 'rgb', r, g, b }
  const light = [linear(r), linear(g), linear(b)]
  const [sr, sg, sb] = MACHADO[by].map((row) =>
    gamma(
      Math.min(
        1,
        Math.max(
          0,
          row.reduce((sum, x, i) => sum + x * light[i]!, 0),
        ),
      ),
    ),
  )
  return { mode: 'rgb', r: sr!, g: sg!, b: sb! }
}

test('neighbouring classes of every scheme can be told apart, whatever cones one has', () => {
  const schemes = JSON.parse(
    execFileSync('php', [
      '-r',
      `require 'vendor/autoload.php'; $all = [];
       foreach (PinYard\\Carto\\Scheme::cases() as $s) foreach (range(2, 9) as $n) $all[$s->value][$n] = $s->colours($n);
       echo json_encode($all);`,
    ]).toString(),
  ) as Record<string, Record<string, string[]>>
  const apart = differenceCiede2000()
  for (const [scheme, rows] of Object.entries(schemes))
    for (const [count, colours] of Object.entries(rows))
      for (const by of [null, 'protan', 'deutan', 'tritan'] as const)
        for (const [i, colour] of colours.slice(1).entries())
          expect(
            apart(seen(colours[i]!, by), seen(colour, by)),
            `${scheme} of ${count}, ${i} and ${i + 1}, ${by ?? 'all cones'}`,
            // Two are told apart side by side from about 2; up to five classes stand well clear of that.
          ).toBeGreaterThan(Number(count) <= 5 ? 8 : 3.5)
})

test('any two of the nine colours of two numbers can be told apart, whatever cones one has', () => {
  const schemes = JSON.parse(
    execFileSync('php', [
      '-r',
      `require 'vendor/autoload.php'; $all = [];
       foreach (PinYard\\Carto\\Marks\\TwoScheme::cases() as $s) $all[$s->value] = $s->colours(3, 3);
       echo json_encode($all);`,
    ]).toString(),
  ) as Record<string, Record<string, string>>
  const apart = differenceCiede2000()
  for (const [scheme, colours] of Object.entries(schemes))
    for (const by of [null, 'protan', 'deutan', 'tritan'] as const)
      for (const [i, a] of Object.entries(colours))
        for (const [j, b] of Object.entries(colours))
          if (i < j)
            expect(
              apart(seen(a, by), seen(b, by)),
              `${scheme} ${i} and ${j}, ${by ?? 'all cones'}`,
            ).toBeGreaterThan(6)
})

test('the server reckons the difference of colours as culori does', () => {
  const colours = [
    '#000000',
    '#FFFFFF',
    '#0F5C53',
    '#E0A030',
    '#9B2226',
    '#2F5D8A',
    '#8C8672',
    '#F8E7B8',
    '#808080',
  ]
  const pairs = colours.flatMap((a) => colours.map((b) => [a, b] as [string, string]))
  const ours = JSON.parse(
    execFileSync('php', [
      '-r',
      `require 'vendor/autoload.php';
       echo json_encode(array_map(fn ($p) => [PinYard\\Carto\\ColourDifference::between(...$p),
         PinYard\\Carto\\ColourDifference::least(...$p)], json_decode($argv[1], true)));`,
      JSON.stringify(pairs),
    ]).toString(),
  ) as [number, number][]
  const apart = differenceCiede2000()
  for (const [i, [a, b]] of pairs.entries()) {
    expect(ours[i]![0]).toBeCloseTo(apart(a, b), 2)
    const least = Math.min(
      ...[null, 'protan', 'deutan', 'tritan'].map((by) =>
        apart(seen(a, by as keyof typeof MACHADO | null), seen(b, by as keyof typeof MACHADO | null)),
      ),
    )
    // What is seen is rounded to eight bits there.
    expect(Math.abs(ours[i]![1] - least)).toBeLessThan(0.6)
  }
})

test('a record is as large as the server says', () => {
  const sizes = JSON.parse(readFileSync('tests/vectors/sizes.json', 'utf8')) as {
    cases: [string, number, number | null, number | null][]
  }
  for (const [geometry, most, value, size] of sizes.cases)
    expect(sizeOf({ ...look, size: { field: 'n', most } }, { n: value }, geometry) ?? null).toBe(size)
  expect(sizeOf(look, { n: 5 }, 'point')).toBeUndefined()
})
