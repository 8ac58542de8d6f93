import { describe, expect, it } from 'vitest'
import type { PackLayer, PackMap, PhoneRecord } from '../../resources/ts/field/db'
import { labelsOf } from '../../resources/ts/field/map/labels'
import { drawnParts, partsOf, partsShown, searchesOf } from '../../resources/ts/field/map/mapParts'
import { withBack, withMoved, withNew, without, withPart } from '../../resources/ts/desk/publish/map/mapEdits'
import type { LayerOnMap } from '../../resources/ts/shared/types'

const parts = ['a', 'b', 'c'].map((id) => ({ id, layer: 1, opacity: 1 }) as unknown as LayerOnMap)
const order = (list: LayerOnMap[]) => list.map((p) => p.id).join('')

describe('the layers of a map at the desk', () => {
  it('are moved, and stay at either end', () => {
    expect(order(withMoved(parts, 'a', 1))).toBe('bac')
    expect(order(withMoved(parts, 'a', 9))).toBe('bca')
    expect(order(withMoved(parts, 'c', -2))).toBe('cab')
    expect(withMoved(parts, 'a', -1)).toBe(parts)
    expect(withMoved(parts, 'x', 1)).toBe(parts)
  })

  it('are taken out and put back where they were, once', () => {
    const left = without(parts, 'b')
    expect(order(left)).toBe('ac')
    expect(order(withBack(left, parts[1]!, 1))).toBe('abc')
    expect(withBack(parts, parts[1]!, 1)).toBe(parts)
    // More may have gone since.
    expect(order(withBack([], parts[1]!, 5))).toBe('b')
  })

  it('are changed one by one', () => {
    const next = withPart(parts, 'b', { opacity: 0.5 })
    expect(next[1]!.opacity).toBe(0.5)
    expect(next[0]).toBe(parts[0])
  })

  it('come on top of what is as large, and under what is smaller', () => {
    const kind: Record<string, string> = {
      a: 'point',
      b: 'line',
      c: 'area',
      n: 'area',
      m: 'point',
      l: 'line',
    }
    const added = (id: string) => order(withNew(parts, { id } as LayerOnMap, (p) => kind[p.id]!))
    expect(added('m')).toBe('mabc')
    expect(added('l')).toBe('albc')
    expect(added('n')).toBe('abnc')
    expect(order(withNew([parts[0]!], { id: 'n' } as LayerOnMap, (p) => kind[p.id]!))).toBe('an')
  })
})

const layer = (id: number): PackLayer =>
  ({
    id,
    title: `Layer ${id}`,
    name_field: 'code',
    design: {
      geometry: 'point',
      fields: [
        { key: 'code', label: 'Code', kind: 'short_text' },
        { key: 'eggs', label: 'Eggs', kind: 'whole_number', unit: 'eggs' },
      ],
    },
    look: { kind: 'single', peg: { head: 'disc', colour: '#000000' } },
    style: [{ id: `layer-${id}-dots`, type: 'circle', source: `layer-${id}` }],
  }) as unknown as PackLayer
const record = (id: string, of: number, values: PhoneRecord['values']): PhoneRecord =>
  ({ id, layer: of, lon: 1, lat: 2, values, collected_at: '2026-06-01T00:00:00Z' }) as PhoneRecord
const part = (id: string, of: number, more: object = {}) => ({
  id,
  layer: of,
  title: `On ${of}`,
  look: layer(of).look,
  style: [{ id: `on-${id}-dots`, type: 'circle', source: `on-${id}` }],
  label: null,
  slice: null,
  visible: true,
  in_legend: true,
  ...more,
})
const map = (...list: object[]) =>
  ({ id: 9, title: 'M', layers: list, extent: [0, 0, 1, 1], viewpoints: [] }) as unknown as PackMap

const rules = {
  today: '2026-06-01',
  zone: 'UTC',
  kindOf: () => undefined,
  areaOf: () => undefined,
  visitsTo: () => [],
}

describe('the parts of a map on the phone', () => {
  it('are drawn the lowest first, without those that are off or not on this phone', () => {
    const shown = partsShown(
      map(part('a', 1), part('b', 2), part('c', 3), part('d', 1, { visible: false })),
      [layer(1), layer(2)],
      {},
      () => null,
    )
    expect(shown.map((p) => [p.id, p.on])).toEqual([
      ['a', true],
      ['b', true],
      ['d', false],
    ])
    const drawn = drawnParts(shown, [record('x', 1, {}), record('y', 2, {})], () => null)
    expect(drawn.map((l) => [l.source, l.data.features.map((f) => f.properties!.id)])).toEqual([
      ['on-b', ['y']],
      ['on-a', ['x']],
    ])
    // What somebody switched here stands against what the makers chose.
    expect(
      partsShown(
        map(part('a', 1), part('d', 1, { visible: false })),
        [layer(1)],
        { '9:a': false, '9:d': true },
        () => null,
      ).map((p) => p.on),
    ).toEqual([false, true])
  })

  it('draw but their slice, and nothing where the phone cannot tell', () => {
    const slice = (filter: unknown) => ({ slice: { name: 'S', filter } })
    const shown = partsShown(
      map(
        part('a', 1, slice({ all: [{ field: 'eggs', test: 'at_least', value: 5 }] })),
        part('b', 1, slice({ all: [{ field: '@crew', test: 'one_of', value: [1] }] })),
      ),
      [layer(1)],
      {},
      () => rules,
    )
    expect(shown.map((p) => p.untold)).toEqual([false, true])
    const drawn = drawnParts(shown, [record('x', 1, { eggs: 4 }), record('y', 1, { eggs: 5 })], () => rules)
    expect(drawn.map((l) => l.data.features.map((f) => f.properties!.id))).toEqual([['y']])
    // Before the records have been read there is nothing to tell from.
    expect(drawnParts(shown, [record('y', 1, { eggs: 5 })], () => null)[0]!.data.features).toEqual([])
  })

  it('draw what is asked of the part that it is asked of, and offer no search that no phone can answer', () => {
    const asks = (id: string, of: string, filter: unknown) => ({
      id,
      title: id,
      part: of,
      slice: { name: id, filter },
    })
    const many = { all: [{ field: 'eggs', test: 'at_least', value: 5 }] }
    const searched = {
      ...map(
        part('a', 1, {
          slice: { name: 'S', filter: { all: [{ field: 'eggs', test: 'at_most', value: 8 }] } },
        }),
        part('b', 2),
      ),
      searches: [
        asks('many', 'a', many),
        asks('crew', 'a', { all: [{ field: '@crew', test: 'one_of', value: [1] }] }),
        asks('gone', 'x', many),
        asks('elsewhere', 'c', many),
      ],
    } as unknown as PackMap
    const layers = [layer(1), layer(2)]
    const offered = searchesOf(searched, layers, () => rules)
    expect(offered.map((s) => s.id)).toEqual(['many'])
    const records = [3, 6, 9].flatMap((eggs) => [
      record(`n${eggs}`, 1, { eggs }),
      record(`m${eggs}`, 2, { eggs }),
    ])
    const drawnFor = (search: (typeof offered)[number] | null) =>
      drawnParts(
        partsShown(searched, layers, {}, () => rules, search),
        records,
        () => rules,
      ).map((l) => l.data.features.map((f) => f.properties!.id))
    // Its own slice holds beside it; the other part is as it was.
    expect(drawnFor(offered[0]!)).toEqual([['m3', 'm6', 'm9'], ['n6']])
    expect(drawnFor(null)).toEqual([
      ['m3', 'm6', 'm9'],
      ['n3', 'n6'],
    ])
    expect(searchesOf(map(part('a', 1)), layers, () => rules)).toEqual([])
    expect(searchesOf(searched, layers, () => null)).toEqual([])
  })

  it('draw photos as marks where the look and the card want them, and the phone has them', () => {
    const look = { ...layer(1).look, photos: true }
    const card = (photos: boolean) => ({ card: { fields: [], photos } })
    const shown = partsShown(
      map(
        part('a', 1, { look, ...card(true) }),
        part('b', 1, { look, ...card(false) }),
        part('c', 1, card(true)),
      ),
      [layer(1)],
      {},
      () => null,
    )
    const drawn = drawnParts(
      shown,
      [record('x', 1, {}), record('y', 1, {})],
      () => null,
      (r) => (r.id === 'x' ? 'p1' : undefined),
    )
    const photos = Object.fromEntries(
      drawn.map((l) => [l.source, l.data.features.map((f) => f.properties!.photo as unknown)]),
    )
    expect(photos).toEqual({
      'on-a': ['p1', undefined],
      'on-b': [undefined, undefined],
      'on-c': [undefined, undefined],
    })
  })

  it('of a pack that an older app fetched are the one layer that it had', () => {
    const old = {
      id: 9,
      title: 'M',
      layer: 1,
      look: layer(1).look,
      style: layer(1).style,
      extent: [0, 0, 1, 1],
      viewpoints: [],
    } as unknown as PackMap
    expect(partsOf(old, [layer(1)]).map((p) => [p.title, p.of.id])).toEqual([['Layer 1', 1]])
    expect(
      drawnParts(
        partsShown(old, [layer(1)], {}, () => null),
        [record('x', 1, {})],
        () => null,
      )[0]!.source,
    ).toBe('layer-1')
    expect(partsOf(old, [])).toEqual([])
  })

  it('colour areas by the records that this phone has, in the slice that it knows', () => {
    const areas = {
      ...layer(3),
      design: { geometry: 'area', fields: [{ key: 'code', label: 'Code', kind: 'short_text' }] },
    } as unknown as PackLayer
    const area = {
      ...record('area', 3, { code: 'A' }),
      shape: {
        type: 'Polygon',
        coordinates: [
          [
            [0, 0],
            [4, 0],
            [4, 4],
            [0, 4],
            [0, 0],
          ],
        ],
      },
    } as unknown as PhoneRecord
    const inside = (more: object = {}, slice: object | null = null) =>
      map(
        part('a', 3, {
          look: {
            kind: 'inside',
            of: {
              layer: 1,
              slice: null,
              measure: 'count',
              field: null,
              share: null,
              by: null,
              times: 1,
              least: 0,
            },
            breaks: [2],
            classes: [],
            other: { head: 'ring', colour: '#8C8672' },
            ...more,
          },
          label: { parts: [{ field: 'code' }, { text: ': ' }, { tally: true }], size: 12, zoom: [0, 22] },
          counted: { slice, share: null, by: 'Nests', unit: '', few: '' },
        }),
      )
    const told = (of: PackMap, layers: PackLayer[], one = area) => {
      const shown = partsShown(of, layers, {}, () => rules)
      const records = [one, record('x', 1, { eggs: 4 }), record('y', 1, { eggs: 9 }), record('z', 2, {})]
      const { properties } = drawnParts(shown, records, () => rules)[0]!.data.features[0]!
      return [shown[0]!.uncounted, properties!.class, properties!.label]
    }
    expect(told(inside(), [areas, layer(1)])).toEqual([false, '1', 'A: 2'])
    // What lies in the cells that an area touches is not what lies in it.
    expect(told(inside(), [areas, layer(1)], { ...area, blurred: true })).toEqual([false, undefined, 'A: –'])
    const many = { name: 'Many', filter: { all: [{ field: 'eggs', test: 'at_least', value: 5 }] } }
    expect(told(inside({}, many), [areas, layer(1)])).toEqual([false, '0', 'A: 1'])
    // Not on this phone, or by crews, which no phone knows: without colours, and it says so.
    expect(told(inside(), [areas])).toEqual([true, undefined, 'A: –'])
    const crews = { name: 'Crews', filter: { all: [{ field: '@crew', test: 'one_of', value: [1] }] } }
    expect(told(inside({}, crews), [areas, layer(1)])).toEqual([true, undefined, 'A: –'])
  })

  it('are labelled as on the server', () => {
    const label = {
      parts: [{ field: 'code' }, { text: ' (eggs: ' }, { field: 'eggs' }, { text: ')' }],
      size: 13,
      zoom: [0, 22] as [number, number],
    }
    expect(labelsOf(label, layer(1), 'UTC')(record('x', 1, { code: 'GH-1', eggs: 90 }))).toBe(
      'GH-1 (eggs: 90 eggs)',
    )
    expect(labelsOf(label, layer(1), 'UTC')(record('x', 1, { code: 'GH-1' }))).toBe('GH-1 (eggs: –)')
    expect(labelsOf(label, layer(1), 'UTC')(record('x', 1, {}))).toBeUndefined()
  })
})
