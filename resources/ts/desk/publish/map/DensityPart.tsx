import Box from '@mui/material/Box'
import Slider from '@mui/material/Slider'
import Typography from '@mui/material/Typography'
import { useQueryClient } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { Problems } from '../../../shared/parts/Problems'
import { formatNumber, t } from '../../../shared/texts'
import type { DensityLook, Layer } from '../../../shared/types'
import { classesOf } from '../../queries/publish'
import { numbersOf } from './numbersOf'
import { useLastAnswer, useLatest } from '../../../shared/lateAnswers'

/** Sides of cells in bits (PinYard\Carto\Marks\Density). */
const [FINEST, COARSEST] = [9, 26]

/** Metres around the equator of WGS 84. */
const AROUND = 40_075_016.7

/** A cell's side on the ground, to two digits that count. */
const metresOf = (bits: number, lat: number) =>
  Number(((AROUND / 2 ** (31 - bits)) * Math.cos((lat * Math.PI) / 180)).toPrecision(2))

const sideText = (metres: number) =>
  metres < 1000
    ? t('density.metres', { metres: Math.round(metres) })
    : t('density.kilometres', { km: formatNumber(metres / 1000) })

/** What is counted in the cells of a grid, and how large they are; each choice finds the classes anew. */
export function DensityPart({
  layer,
  look,
  slice,
  lat,
  onChange,
}: {
  layer: Layer
  look: DensityLook
  slice: number | null
  lat: number
  onChange: (look: DensityLook, now?: boolean) => void
}) {
  const client = useQueryClient()
  const id = useId()
  const [error, setError] = useState<unknown>(null)
  const [dragged, setDragged] = useState<number | null>(null)
  // Chosen in quick succession, each builds on the one before, and the last is what was meant.
  const [asked, setAsked] = useState<Pick<DensityLook, 'field' | 'bits'> | null>(null)
  const of = asked ?? look
  const ask = useLastAnswer()
  const latest = useLatest(onChange)
  const put = async (change: Partial<Pick<DensityLook, 'field' | 'bits'>>) => {
    setError(null)
    const counts = ask()
    const next = { field: of.field, bits: of.bits, ...change }
    setAsked(next)
    try {
      const made = await client.fetchQuery(
        classesOf(layer.id, {
          cells: { ...next, slice },
          method: look.method === 'hand' ? 'natural' : look.method,
          scheme: look.scheme,
          count: Math.max(2, look.classes.length),
          breaks: null,
        }),
      )
      if (!counts()) return
      latest.current(made.look as DensityLook, true)
    } catch (e) {
      if (!counts()) return
      setError(e)
    }
    setAsked(null)
  }
  const bits = dragged ?? of.bits
  const side = sideText(metresOf(bits, lat))
  return (
    <Box sx={{ display: 'grid', gap: 3, mt: 3 }}>
      <Select
        label={t('density.of')}
        value={of.field ?? ''}
        onChange={(v) => void put({ field: v === '' ? null : v })}>
        <option value="">{t('density.records')}</option>
        {numbersOf(layer).map((f) => (
          <option key={f.key} value={f.key}>
            {t('density.summed', { field: f.label })}
          </option>
        ))}
      </Select>
      <Box>
        <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <Typography id={id} sx={{ fontWeight: 650, fontSize: '0.92rem' }}>
            {t('density.side')}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {side}
          </Typography>
        </Box>
        <Box sx={{ px: 2 }}>
          <Slider
            aria-labelledby={id}
            min={FINEST}
            max={COARSEST}
            step={1}
            value={bits}
            getAriaValueText={() => side}
            onChange={(_, next) => setDragged(next as number)}
            onChangeCommitted={(_, next) => {
              void put({ bits: next as number })
              setDragged(null)
            }}
          />
        </Box>
        <Typography variant="body2" color="text.secondary">
          {t('density.hint')}
        </Typography>
      </Box>
      <Problems error={error} />
    </Box>
  )
}
