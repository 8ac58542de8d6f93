import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import { Select } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { LayerLine, Slice, Tile, TileKind } from '../../shared/types'
import { layerOf } from '../queries/layers'
import { SlicePicker } from '../slices/SlicePicker'

const KINDS: TileKind[] = ['count', 'breakdown', 'latest', 'map']
const SIZE: Record<TileKind, [number, number]> = {
  count: [3, 2],
  breakdown: [4, 3],
  latest: [6, 3],
  map: [6, 5],
}

/** Pairs of a value and its words. */
const Options = ({ of }: { of: [string | number, string][] }) =>
  of.map(([value, words]) => (
    <option key={value} value={value}>
      {words}
    </option>
  ))

/** Adds a tile: what kind, of which layer, of which slice; a slice can be made on the spot. */
export function NewTile({ layers, onAdd }: { layers: LayerLine[]; onAdd: (tile: Tile) => void }) {
  const [open, setOpen] = useState(false)
  const [kind, setKind] = useState<TileKind>('count')
  const [layerId, setLayerId] = useState(layers[0]?.id ?? 0)
  const [slice, setSlice] = useState<Slice | null>(null)
  const [field, setField] = useState('')
  const layer = useQuery({ ...layerOf(layerId), enabled: open && layerId > 0 })
  const choices = layer.data?.design.fields.filter((f) => f.kind === 'one_choice') ?? []
  const by = choices.find((f) => f.key === field) ?? choices[0]

  const add = () => {
    const title =
      slice?.name ??
      (kind === 'breakdown' && by
        ? t('draft.breakdown', { field: by.label })
        : kind === 'latest'
          ? t('draft.latest')
          : (layer.data?.design.title ?? ''))
    const [width, height] = SIZE[kind]
    onAdd({
      id: uuid(),
      kind,
      title,
      layer: layerId,
      slice: slice?.id ?? null,
      field: kind === 'breakdown' ? (by?.key ?? null) : null,
      width,
      height,
    })
    setOpen(false)
    setSlice(null)
  }
  if (!open)
    return (
      <Button variant="outlined" sx={{ mt: 3 }} onClick={() => setOpen(true)} disabled={layers.length === 0}>
        {t('board.addtile')}
      </Button>
    )
  return (
    <Box sx={{ mt: 3, display: 'grid', gap: 2.5, p: 3, border: '2px dashed #BFB49C', borderRadius: 1.5 }}>
      <Select label={t('board.kind')} value={kind} onChange={(v) => setKind(v as TileKind)}>
        <Options
          of={KINDS.filter((k) => k !== 'breakdown' || choices.length > 0).map((k) => [k, t(`tile.${k}`)])}
        />
      </Select>
      {layers.length > 1 && (
        <Select
          label={t('check.layer')}
          value={layerId}
          onChange={(v) => {
            setLayerId(Number(v))
            setSlice(null)
          }}>
          <Options of={layers.map((l) => [l.id, l.title])} />
        </Select>
      )}
      {kind === 'breakdown' && by && (
        <Select label={t('board.by')} value={by.key} onChange={setField}>
          <Options of={choices.map((f) => [f.key, f.label])} />
        </Select>
      )}
      <SlicePicker
        key={layerId}
        label={t('board.slice')}
        layer={layerId}
        mayMake
        size="small"
        value={slice?.id ?? null}
        onChange={setSlice}
      />
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Button onClick={add}>{t('board.add')}</Button>
        <Button variant="outlined" onClick={() => setOpen(false)}>
          {t('cancel')}
        </Button>
      </Box>
    </Box>
  )
}
