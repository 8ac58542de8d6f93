import { describe, expect, test } from 'vitest'
import { boxAround, padded, placesOf, widthOf } from '../../resources/ts/shared/map/around'
import { boxOf } from '../../resources/ts/shared/table/beside'

describe('the box around places', () => {
  // Source: RFC 7946, section 5.2, its example of the Fiji archipelago.
  test('goes across the antimeridian where that is shorter', () => {
    expect(
      boxAround([
        [177, -20],
        [-178, -16],
      ]),
    ).toEqual([177, -20, -178, -16])
  })

  test('is that of all places where they lie on one side', () => {
    expect(
      boxAround([
        [-11.65, -14.17],
        [-11.5, -14.3],
        [-11.7, -14.2],
      ]),
    ).toEqual([-11.7, -14.3, -11.5, -14.17])
  })

  test.each([
    ['one place', [[179.9, 3]], [179.9, 3, 179.9, 3]],
    [
      'the antimeridian itself, from both sides',
      [
        [180, 1],
        [-180, 2],
        [179, 0],
      ],
      [179, 0, -180, 2],
    ],
    [
      'a map that went on beyond it',
      [
        [181, 0],
        [179, 1],
      ],
      [179, 0, -179, 1],
    ],
    [
      'places with altitude',
      [
        [1, 2, 30],
        [3, 4, 50],
      ],
      [1, 2, 3, 4],
    ],
    ['the same place many times', Array.from({ length: 5 }, () => [7, 8]), [7, 8, 7, 8]],
  ])('%s', (_, places, box) => expect(boxAround(places)).toEqual(box))

  test('nothing has none', () => {
    expect(boxAround([])).toBeNull()
    expect(boxAround([[]])).toBeNull()
  })

  // Property: of all boxes that hold the places, found by trying each of them as the west end, none is narrower;
  // but three quarters of the world and more are framed as it is shown.
  test('is the narrowest there is, wherever the places lie', () => {
    let seed = 7
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    for (let n = 0; n < 400; n++) {
      const middle = random() * 360 - 180
      const spread = n % 4 === 0 ? 340 : random() * 40
      const places = Array.from({ length: 1 + Math.floor(random() * 9) }, () => {
        const lon = middle + (random() - 0.5) * spread
        return [lon > 180 ? lon - 360 : lon < -180 ? lon + 360 : lon, random() * 100 - 50]
      })
      const box = boxAround(places)!
      const eastOf = (west: number, lon: number) => (((lon - west) % 360) + 360) % 360
      const narrowest = Math.min(
        ...places.map(([west]) => Math.max(...places.map(([lon]) => eastOf(west!, lon!)))),
      )
      const lons = places.map(([lon]) => lon!)
      const asShown = Math.max(...lons) - Math.min(...lons)
      expect(widthOf(box)).toBeCloseTo(narrowest < 270 ? narrowest : asShown, 9)
      for (const [lon] of places) expect(eastOf(box[0], lon!)).toBeLessThanOrEqual(widthOf(box) + 1e-9)
    }
  })

  test('a million places at once', () => {
    const places = Array.from({ length: 1_000_000 }, (_, i) => [(i % 3000) / 1000 - 1.5, (i % 500) / 1000])
    expect(boxAround(places)).toEqual([-1.5, 0, 1.499, 0.499])
  })
})

describe('room around a box', () => {
  test.each([
    ['inland', [10, 20, 11, 21], [9, 19, 12, 22]],
    ['beside the antimeridian', [179.5, 0, 179.8, 1], [178.5, -1, -179.2, 2]],
    ['across it', [179, 0, -179, 1], [178, -1, -178, 2]],
    ['at the end of the map', [0, 84.5, 1, 84.9], [-1, 83.5, 2, 85]],
    ['around the world', [-179.5, 0, 179.5, 1], [-180, -1, 180, 2]],
  ] as const)('%s', (_, box, wider) => {
    padded([...box], 1, 1).forEach((n, i) => expect(n).toBeCloseTo(wider[i]!, 9))
  })

  test('is a box that tables beside a map take', () => {
    expect(boxOf(padded([10, 20, 11, 21], 1, 1))).toEqual([9, 19, 12, 22])
  })
})

test('all places of a geometry count, of whatever kind', () => {
  expect(
    placesOf({
      type: 'GeometryCollection',
      geometries: [
        { type: 'Point', coordinates: [1, 2] },
        {
          type: 'MultiPolygon',
          coordinates: [
            [
              [
                [3, 4],
                [5, 6],
                [7, 8],
                [3, 4],
              ],
            ],
            [
              [
                [9, 9],
                [8, 8],
                [7, 7],
                [9, 9],
              ],
            ],
          ],
        },
        {
          type: 'LineString',
          coordinates: [
            [0, 0],
            [1, 1],
          ],
        },
      ],
    }).length,
  ).toBe(11)
})

test.each([
  ['an area around the world', [-180, 180], [-180, 180]],
  ['a side that goes half around it', [-80, 90], [-80, 90]],
  ['an area across the antimeridian', [179, -179], [179, -179]],
])('%s is framed as it is drawn', (_, [west, east], [from, to]) => {
  const ring = [
    [west!, -10],
    [east!, -10],
    [east!, 10],
    [west!, 10],
    [west!, -10],
  ]
  const box = boxAround(placesOf({ type: 'Polygon', coordinates: [ring] }))
  expect(box).toEqual([from, -10, to, 10])
})
