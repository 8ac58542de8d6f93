import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useState } from 'react'
import { TextInput } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import { numberIn, typedNumber } from '../../../shared/typedNumber'
import type { Tile } from '../../../shared/types'
import { changed } from './tileEdits'

/** A number as it is typed: half of one is nobody's target. */
function NumberInput({
  label,
  value,
  least,
  onChange,
}: {
  label: string
  value: number | undefined
  least?: number
  onChange: (n: number) => void
}) {
  const [text, setText] = useState(typedNumber(value))
  const isGood = (n: number | null): n is number => n !== null && (least === undefined || n > least)
  return (
    <TextInput
      label={label}
      size="small"
      inputMode="decimal"
      value={text}
      error={isGood(numberIn(text)) ? null : t(least === undefined ? 'plan.number' : 'plan.above')}
      onChange={(next) => {
        setText(next)
        const n = numberIn(next)
        if (isGood(n)) onChange(n)
      }}
    />
  )
}

/** On which days how much should be there: without points it grows evenly. */
function CurvePart({ tile, onChange }: { tile: Tile; onChange: (tile: Tile) => void }) {
  const curve = tile.curve ?? []
  const put = (next: typeof curve) => onChange(changed(tile, { curve: next.length ? next : undefined }))
  return (
    <Box role="group" aria-label={t('plan.curve')} sx={{ display: 'grid', gap: 2 }}>
      <Box sx={{ color: 'text.secondary', fontSize: '0.86rem' }}>
        {t(curve.length ? 'plan.curve.hint' : 'plan.hint')}
      </Box>
      {curve.map((point, i) => (
        <Box
          key={`${i}-${curve.length}`}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 2, alignItems: 'end' }}>
          <TextInput
            label={t('plan.curve.day')}
            type="date"
            size="small"
            value={point.day}
            error={curve.some((p, j) => j !== i && p.day === point.day) ? t('plan.curve.twice') : null}
            onChange={(day) => day && put(curve.map((p, j) => (j === i ? { ...p, day } : p)))}
          />
          <NumberInput
            label={t('plan.curve.value')}
            value={point.value}
            onChange={(value) => put(curve.map((p, j) => (j === i ? { ...p, value } : p)))}
          />
          <IconButton
            aria-label={t('plan.curve.remove')}
            onClick={() => put(curve.filter((_, j) => j !== i))}>
            <DeleteOutline fontSize="small" />
          </IconButton>
        </Box>
      ))}
      {curve.length < 60 && (
        <Button variant="outlined" onClick={() => put([...curve, nextPoint(tile, curve)])}>
          {t(curve.length ? 'plan.curve.more' : 'plan.curve.add')}
        </Button>
      )}
    </Box>
  )
}

/** A month after the last point, or on the first day; with as much as the last. */
function nextPoint(tile: Tile, curve: { day: string; value: number }[]) {
  const last = curve.reduce<{ day: string; value: number } | null>(
    (latest, p) => (latest === null || p.day > latest.day ? p : latest),
    null,
  )
  if (last === null) return { day: tile.from ?? new Date().toISOString().slice(0, 10), value: 0 }
  const day = new Date(`${last.day}T00:00:00Z`)
  day.setUTCDate(day.getUTCDate() + 30)
  return { day: day.toISOString().slice(0, 10), value: last.value }
}

/** A target: how much, from when to when, and values on the way that mean something. */
export function PlanForm({ tile, onChange }: { tile: Tile; onChange: (tile: Tile) => void }) {
  const thresholds = tile.thresholds ?? []
  const [from, setFrom] = useState(tile.from ?? '')
  const [to, setTo] = useState(tile.to ?? '')
  const days = (f: string, u: string) => {
    setFrom(f)
    setTo(u)
    // Both or neither; the server would not take one, nor a season that ends before it begins.
    if (f && u && f < u) onChange(changed(tile, { from: f, to: u }))
    else if (!f && !u) onChange(changed(tile, { from: undefined, to: undefined }))
  }
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <NumberInput
        label={t('target.target')}
        value={tile.target}
        least={0}
        onChange={(target) => onChange({ ...tile, target })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}>
        <TextInput
          label={t('plan.from')}
          type="date"
          size="small"
          value={from}
          onChange={(v) => days(v, to)}
        />
        <TextInput
          label={t('plan.to')}
          type="date"
          size="small"
          value={to}
          error={from && to && from >= to ? t('plan.order') : null}
          onChange={(v) => days(from, v)}
        />
      </Box>
      <CurvePart tile={tile} onChange={onChange} />
      {thresholds.map((h, i) => {
        const put = (part: Partial<typeof h>) =>
          onChange({ ...tile, thresholds: thresholds.map((x, j) => (j === i ? { ...x, ...part } : x)) })
        return (
          <Box
            key={i}
            sx={{ display: 'grid', gridTemplateColumns: '110px 1fr auto', gap: 2, alignItems: 'end' }}>
            <NumberInput label={t('plan.at')} value={h.at} onChange={(at) => put({ at })} />
            <Box>
              <OutlinedInput
                size="small"
                fullWidth
                value={h.text}
                placeholder={t('plan.means')}
                inputProps={{ 'aria-label': t('plan.means'), maxLength: 60 }}
                onChange={(e) => put({ text: e.target.value })}
              />
            </Box>
            <IconButton
              aria-label={t('plan.remove')}
              onClick={() =>
                onChange(
                  changed(tile, {
                    thresholds: thresholds.length > 1 ? thresholds.filter((_, j) => j !== i) : undefined,
                  }),
                )
              }>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
        )
      })}
      {thresholds.length < 6 && (
        <Button
          variant="outlined"
          onClick={() =>
            onChange({
              ...tile,
              thresholds: [...thresholds, { at: Math.round((tile.target ?? 0) * 0.8), text: '' }],
            })
          }>
          {t('plan.add')}
        </Button>
      )}
    </Box>
  )
}
