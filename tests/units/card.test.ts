import { describe, expect, it } from 'vitest'
import type { PackLayer, PhoneRecord } from '../../resources/ts/field/db'
import { cardOf } from '../../resources/ts/field/map/card'
import vectors from '../vectors/cards.json'

type Card = Parameters<typeof cardOf>[0]

const layer = { id: 1, name_field: vectors.design.name_field, design: vectors.design } as unknown as PackLayer

describe('the card of a record on a phone', () => {
  it.each(vectors.cases.map((c) => [c.values.code, c] as const))('%s', (_, one) => {
    const record = {
      id: 'x',
      layer: 1,
      values: one.values,
      collected_at: '2026-06-01T00:00:00Z',
    } as unknown as PhoneRecord
    const card = cardOf(one.card as unknown as Card, layer, record, 'UTC')
    expect(card.name).toBe(one.name)
    expect(card.text.map((line) => line.map((p) => [p.text, p.is]))).toEqual(one.text)
    expect(card.values.map((v) => [v.label, v.text])).toEqual(one.shown)
    expect(card.chart?.bars.map((b) => [b.label, b.value, b.text]) ?? null).toEqual(
      'chart' in one ? one.chart : null,
    )
  })

  it('says what colours an area, and that there is nothing', () => {
    const record = { id: 'x', layer: 1, values: {}, collected_at: '' } as unknown as PhoneRecord
    const card = { fields: [], photos: false, text: [{ parts: [{ tally: true }], only: null }] } as Card
    expect(cardOf(card, layer, record, 'UTC', { label: 'Nests', text: '4' }).text).toEqual([
      [{ text: '4', is: 'value' }],
    ])
    expect(cardOf(card, layer, record, 'UTC', { label: 'Nests', text: null }).values).toEqual([
      { label: 'Nests', kind: 'calculated', text: 'No number' },
    ])
  })
})
