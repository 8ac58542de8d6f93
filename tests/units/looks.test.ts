import {
  validateStyleMin,
  type LayerSpecification,
  type StyleSpecification,
} from '@maplibre/maplibre-gl-style-spec'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { cellOf, cellsOf } from '../../resources/ts/field/map/cells'
import { classOf } from '../../resources/ts/shared/map/classes'
import type { CrossedLook, DensityLook, Peg, ShadesLook } from '../../resources/ts/shared/types'

/* Looks other than by choice and by classes: phones say what the server says, and its styles are what the specification wants. */

const php = <T>(code: string, ...given: string[]): T =>
  JSON.parse(execFileSync('php', ['-r', `require 'vendor/autoload.php'; ${code}`, ...given]).toString()) as T

const vectors = JSON.parse(readFileSync('tests/vectors/looks.json', 'utf8')) as {
  shades: { from: number; to: number; cases: [number | null, string | null][] }
  crossed: { breaks: [number[], number[]]; cases: [number | null, number | null, string | null][] }
}
const other: Peg = { head: 'ring', colour: '#8C8672' }

test('a record has the shade that the server says', () => {
  const { from, to, cases } = vectors.shades
  const look: ShadesLook = { kind: 'shades', field: 'x', scheme: 'tide', from, to, other }
  for (const [value, expected] of cases) expect(classOf(look, { x: value }) ?? null).toBe(expected)
  expect(classOf(look, { x: NaN })).toBeUndefined()
  expect(classOf(look, {})).toBeUndefined()
})

test('two numbers are crossed as the server crosses them', () => {
  const { breaks, cases } = vectors.crossed
  const look: CrossedLook = { kind: 'crossed', fields: ['a', 'b'], breaks, scheme: 'reef', other }
  for (const [a, b, expected] of cases) expect(classOf(look, { a, b }) ?? null).toBe(expected)
})

describe('cells on a phone', () => {
  const places = Array.from({ length: 400 }, (_, i) => [
    ((i * 137.50776) % 360) - 180,
    Math.asin(((i * 0.618034) % 1) * 2 - 1) * (180 / Math.PI),
  ]) as [number, number][]
  const corners: [number, number][] = [
    [-180, 85.06],
    [180, -85.06],
    [179.9999999, 0],
    [0, 0],
    [-11.65, -14.2],
    [0, 90],
  ]

  test('are those of the server', () => {
    const all = [...places, ...corners]
    for (const bits of [9, 14, 20, 26]) {
      const theirs = php<[number, number][]>(
        `[$places, $bits] = json_decode($argv[1], true);
         echo json_encode(array_map(function ($p) use ($bits) {
           // As the server groups: by the number without its last bits.
           [$x, $y] = PinYard\\Geo\\ZOrder::stepsOf((PinYard\\Geo\\ZOrder::of(PinYard\\Geo\\Position::of(...$p)) >> (2 * $bits)) << (2 * $bits));
           return [$x >> $bits, $y >> $bits];
         }, $places));`,
        JSON.stringify([all, bits]),
      )
      expect(all.map(([lon, lat]) => cellOf(lon, lat, bits))).toEqual(theirs)
    }
  })

  test('tell how many lie in them, or the sum; what has no number adds nothing', () => {
    const look = (field: string | null): DensityLook => ({
      kind: 'density',
      field,
      bits: 14,
      method: 'hand',
      scheme: 'tide',
      breaks: [2, 10],
      classes: [],
      other,
    })
    const at = (lon: number, eggs: number | null) => ({ lon, lat: 0.001, values: { eggs } })
    const records = [at(10, 5), at(10.0001, 6), at(10.0001, null), at(50, null)]
    const told = (field: string | null) =>
      cellsOf(look(field), records).features.map((f) => f.properties?.class as unknown)
    expect(told(null)).toEqual(['1', '0'])
    expect(told('eggs')).toEqual(['2', undefined])
    expect(cellsOf(look(null), []).features).toEqual([])
    // All of a cell's records lie in its square.
    const ring = (cellsOf(look(null), records).features[0]!.geometry as GeoJSON.Polygon).coordinates[0]!
    expect(ring[0]![0]).toBeLessThanOrEqual(10)
    expect(ring[1]![0]).toBeGreaterThan(10.0001)
  })
})

test('styles of all looks, sizes, gatherings, fillings and dashes are valid', () => {
  const styles = php<{ name: string; layers: LayerSpecification[]; gather: object | null }[]>(
    `use PinYard\\Carto\\{Look, LayerOnMap, ZoomRange, Label};
     use PinYard\\Carto\\Style\\StyleLayers;
     $out = [];
     foreach (['point', 'line', 'area'] as $geometry) {
       $design = PinYard\\Design\\LayerDesign::fromArray(['title' => 'T', 'purpose' => '', 'geometry' => $geometry, 'fields' => [
         ['key' => 'kind', 'label' => 'K', 'kind' => 'one_choice', 'choices' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'B'], ['code' => 'c', 'label' => 'C']]],
         ['key' => 'n', 'label' => 'N', 'kind' => 'decimal'], ['key' => 'm', 'label' => 'M', 'kind' => 'decimal']]],
         PinYard\\Formula\\Neighbours::none());
       $peg = fn ($more) => ['head' => 'disc', 'colour' => '#9B2226'] + $more;
       $marks = [
         ['kind' => 'single'], ['kind' => 'single', 'peg' => $peg(['dash' => 'dotted', 'fill' => 'grid'])],
         ['kind' => 'category', 'field' => 'kind', 'classes' => [['code' => 'a'] + $peg(['dash' => 'dashed', 'fill' => 'stripes']), ['code' => 'b'] + $peg(['fill' => 'none'])], 'other' => $peg(['fill' => 'dots'])],
         ['kind' => 'classes', 'field' => 'n', 'breaks' => [1, 2]],
         ['kind' => 'classes', 'field' => 'n', 'breaks' => [1], 'classes' => [$peg(['fill' => 'dots']), $peg(['dash' => 'dotted'])]],
         ['kind' => 'shades', 'field' => 'n', 'from' => 0, 'to' => 1],
         ['kind' => 'crossed', 'fields' => ['n', 'm'], 'breaks' => [[1, 2], [3]]],
         ['kind' => 'density', 'bits' => 12, 'breaks' => [1]],
       ];
       $more = [[], ['width' => 0], ['width' => 7], ['photos' => true]];
       if ($geometry !== 'area') $more[] = ['size' => ['field' => 'n', 'most' => 4]];
       if ($geometry === 'point') array_push($more, ['gather' => ['tell' => 'count']], ['gather' => ['tell' => 'sum', 'field' => 'm', 'until' => 3]], ['size' => ['field' => 'n', 'most' => 4], 'gather' => ['tell' => 'count'], 'photos' => true]);
       foreach ($marks as $i => $m) foreach ($more as $j => $x) foreach ([1, 0.4] as $opacity) {
         $look = Look::read($m + $x, $design);
         $label = Label::read(['parts' => [['field' => 'n']]], $design, 'l');
         $out[] = ['name' => "$geometry $i $j $opacity", 'layers' => StyleLayers::of($look, 's', $opacity, null, $label), 'gather' => $look->gather?->source()];
       }
       if ($geometry === 'point') {
         $look = Look::read($marks[2] + ['gather' => ['tell' => 'share', 'code' => 'b']], $design);
         $out[] = ['name' => 'share', 'layers' => StyleLayers::of($look, 's', 0.5), 'gather' => $look->gather?->source()];
       }
     }
     echo json_encode($out);`,
  )
  expect(styles.length).toBeGreaterThan(200)
  for (const { name, layers, gather } of styles) {
    const style = {
      version: 8,
      sources: { s: { type: 'geojson', data: { type: 'FeatureCollection', features: [] }, ...gather } },
      layers,
    } as StyleSpecification
    // Labels are drawn from the page's own fonts: styles name no glyphs.
    const wrong = validateStyleMin(style).filter((e) => !e.message.includes('glyphs'))
    expect(
      wrong.map((e) => e.message),
      name,
    ).toEqual([])
    expect(new Set(layers.map((l) => l.id)).size, name).toBe(layers.length)
  }
})
