import type { QueryClient } from '@tanstack/react-query'
import { paint } from '../../../shared/paint'
import { t } from '../../../shared/texts'
import type { CrossedLook, Field, Layer, Look, ShadesLook, Tally } from '../../../shared/types'
import { layersOf } from '../../queries/layers'
import { classesOf } from '../../queries/publish'

/* How a look of each kind first comes, with numbers that the layer's records give. */

const FIRST = { method: 'natural', scheme: 'tide', count: 4, breaks: null } as const

/** There is nothing to begin with; the message says why. */
export class NothingToShow extends Error {}

export const beginClasses = async (client: QueryClient, layer: Layer, field: string): Promise<Look> =>
  (await client.fetchQuery(classesOf(layer.id, { field, ...FIRST }))).look

export async function beginShades(client: QueryClient, layer: Layer, field: string): Promise<ShadesLook> {
  const { spread } = await client.fetchQuery(classesOf(layer.id, { field, ...FIRST }))
  if (spread.least === null || spread.most === null) throw new NothingToShow(t('classes.none'))
  return {
    kind: 'shades',
    field,
    scheme: 'tide',
    from: spread.least,
    // Of one number alone there is no way from it to another.
    to: spread.most > spread.least ? spread.most : spread.least + 1,
    other: { head: 'ring', colour: paint.other },
  }
}

/** Breaks of one of two numbers that are crossed: as many records in each class. */
export const thirds = async (client: QueryClient, layer: Layer, field: string): Promise<number[]> => {
  const { look } = await client.fetchQuery(
    classesOf(layer.id, { field, ...FIRST, method: 'quantile', count: 3 }),
  )
  return look.kind === 'classes' ? look.breaks : []
}

export async function beginCrossed(
  client: QueryClient,
  layer: Layer,
  [a, b]: [Field, Field],
): Promise<CrossedLook> {
  return {
    kind: 'crossed',
    fields: [a.key, b.key],
    breaks: [await thirds(client, layer, a.key), await thirds(client, layer, b.key)],
    scheme: 'reef',
    other: { head: 'ring', colour: paint.other },
  }
}

export const beginDensity = async (client: QueryClient, layer: Layer, slice: number | null): Promise<Look> =>
  (await client.fetchQuery(classesOf(layer.id, { cells: { field: null, bits: null, slice }, ...FIRST }))).look

/** Areas by how many records of another layer lie in them. */
export async function beginInside(client: QueryClient, layer: Layer): Promise<Look> {
  const others = (await client.fetchQuery(layersOf(layer.programme))).filter((l) => l.id !== layer.id)
  // Points with records first: they are what areas are mostly asked about.
  const first = others.toSorted(
    (a, b) => Number(b.geometry === 'point') - Number(a.geometry === 'point') || b.records - a.records,
  )[0]
  if (!first) throw new NothingToShow(t('tally.nothing'))
  const of: Tally = {
    layer: first.id,
    slice: null,
    measure: 'count',
    field: null,
    share: null,
    by: null,
    times: 1,
    least: 0,
  }
  return (await client.fetchQuery(classesOf(layer.id, { of, ...FIRST }))).look
}
