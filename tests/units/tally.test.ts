import { describe, expect, it } from 'vitest'
import vectors from '../vectors/tallies.json'
import { byOf, classOfArea, isFew, tallied, valueOf } from '../../resources/ts/field/map/tally'
import { boxOf } from '../../resources/ts/shared/table/beside'
import type { InsideLook, Tally } from '../../resources/ts/shared/types'

type Case = { of: Omit<Tally, 'layer' | 'slice' | 'share'>; told: Record<string, number | string | null> }

const areas = vectors.areas.map((a) => ({
  id: a.id,
  shape: { type: 'Polygon' as const, coordinates: a.rings },
  values: { people: a.people },
}))
const records = vectors.records.map((r) => ({ ...r, values: { eggs: r.eggs } }))

describe('areas coloured on the phone', () => {
  it.each((vectors.cases as unknown as Case[]).map((c) => [JSON.stringify(c.of), c] as const))(
    'say what a plain reading says: %s',
    (_, { of: given, told }) => {
      const of = { ...given, layer: 2, slice: null, share: null }
      const states = tallied(of, areas, records, (r) => r.kind === 'CM')
      for (const area of areas) {
        const state = states.get(area.id)!
        const said = isFew(of, state) ? 'few' : valueOf(of, state, byOf(of, area))
        const wanted = told[area.id]
        if (typeof wanted === 'number') expect(said).toBeCloseTo(wanted, 5)
        else expect(said).toBe(wanted)
      }
    },
  )

  it('over the antimeridian hold what lies on both sides, and no more', () => {
    const over = {
      id: 'x',
      shape: {
        type: 'Polygon' as const,
        coordinates: [
          [
            [179, -1],
            [-179, -1],
            [-179, 1],
            [179, 1],
            [179, -1],
          ],
        ],
      },
      values: {},
    }
    const of: Tally = {
      layer: 2,
      slice: null,
      measure: 'count',
      field: null,
      share: null,
      by: null,
      times: 1,
      least: 0,
    }
    const at = (lon: number) => ({ lon, lat: 0, values: {} })
    const states = tallied(of, [over], [at(179.5), at(-179.5), at(178), at(-178), at(0)], () => false)
    expect(states.get('x')!.records).toBe(2)
    const look = { kind: 'inside', of, breaks: [2, 3] } as unknown as InsideLook
    expect(classOfArea(look, states.get('x')!, null)).toBe('1')
    // An area without a shape, and one without records.
    expect(tallied(of, [{ id: 'y', shape: null, values: {} }], [at(0)], () => false).size).toBe(0)
    expect(tallied(of, [over], [], () => false).get('x')!.records).toBe(0)
  })
})

describe('what a map shows', () => {
  it('is a box of the world, also beyond the antimeridian and the poles', () => {
    expect(boxOf([-12, -15, -11, -14])).toEqual([-12, -15, -11, -14])
    expect(boxOf([170, -5, 190, 5])).toEqual([170, -5, -170, 5])
    expect(boxOf([-560, -95, -540.5, 95])).toEqual([160, -90, 179.5, 90])
    expect(boxOf([-200, -80, 200, 80])).toBeNull()
  })
})
