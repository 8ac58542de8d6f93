import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useState } from 'react'
import { paint } from '../../../shared/paint'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { LayerLine, Tile } from '../../../shared/types'
import { SlicePicker } from '../../slices/SlicePicker'
import { MeasureForm } from './MeasureForm'

const MOST = 12
const named = (text: string) => [...text.matchAll(/\{(\d{1,3})\}/g)].map((m) => Number(m[1]))

/** Sentences, and the values that stand in them as {1}, {2} and so on. */
export function TextForm({
  tile,
  layers,
  onChange,
}: {
  tile: Tile
  layers: LayerLine[]
  onChange: (tile: Tile) => void
}) {
  const values = tile.values ?? []
  const [text, setText] = useState(tile.text ?? '')
  const wrong = named(text).find((n) => n < 1 || n > values.length)
  const put = (next: typeof values) => onChange({ ...tile, values: next })
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <TextInput
        label={t('text.text')}
        multiline
        minRows={3}
        value={text}
        hint={t('text.hint')}
        error={wrong === undefined ? null : t('text.wrong', { n: wrong })}
        inputProps={{ maxLength: 2000, style: { padding: '8px 11px' } }}
        onChange={(next) => {
          setText(next)
          // A value that is not there yet would be refused.
          if (named(next).every((n) => n >= 1 && n <= values.length)) onChange({ ...tile, text: next })
        }}
      />
      {values.map((value, i) => {
        const set = (next: (typeof values)[number]) => put(values.map((v, j) => (j === i ? next : v)))
        return (
          <Box
            component="fieldset"
            key={i}
            sx={{ border: `1px solid ${paint.line}`, borderRadius: 1, p: 3, m: 0, display: 'grid', gap: 3 }}>
            <legend>{`{${i + 1}}`}</legend>
            <Select
              label={t('check.layer')}
              value={value.layer}
              onChange={(layer) => set({ layer: Number(layer), measure: { of: 'count' } })}>
              {layers.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.title}
                </option>
              ))}
            </Select>
            <SlicePicker
              key={value.layer}
              label={t('board.slice')}
              layer={value.layer}
              mayMake
              size="small"
              value={value.slice ?? null}
              onChange={(slice) => {
                const { slice: _, ...rest } = value
                set(slice ? { ...rest, slice: slice.id } : rest)
              }}
            />
            <MeasureForm
              layer={value.layer}
              measure={value.measure}
              unit={value.unit}
              decimals={value.decimals}
              onChange={({ measure, unit, decimals }) =>
                set({
                  layer: value.layer,
                  ...(value.slice ? { slice: value.slice } : {}),
                  measure,
                  ...(unit ? { unit } : {}),
                  ...(decimals === undefined ? {} : { decimals }),
                })
              }
            />
            {i === values.length - 1 && !named(text).includes(i + 1) && (
              <IconButton
                aria-label={t('text.remove', { n: i + 1 })}
                onClick={() => put(values.slice(0, -1))}
                sx={{ justifySelf: 'end' }}>
                <DeleteOutline fontSize="small" />
              </IconButton>
            )}
          </Box>
        )
      })}
      {values.length < MOST && layers[0] && (
        <Button
          variant="outlined"
          onClick={() => {
            const layer = layers[0]!.id
            const next = `${text}${text.endsWith(' ') || text === '' ? '' : ' '}{${values.length + 1}}`
            setText(next)
            onChange({ ...tile, values: [...values, { layer, measure: { of: 'count' } }], text: next })
          }}>
          {t('text.add')}
        </Button>
      )}
    </Box>
  )
}
