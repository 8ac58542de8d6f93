import Box from '@mui/material/Box'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useId } from 'react'
import { Select } from '../../parts/Labelled'
import { t } from '../../texts'
import { usePicking } from '../picks'
import type { TileProps } from './shared'

/** Something to pick by: one of a list, or a span of days. */
export function PickerTile({ tile, today }: TileProps<'picker'>) {
  const { picks, pick, mayPick } = usePicking()
  const id = tile.id ?? ''
  const part = picks.pick[id]
  if (!mayPick) return <Box sx={{ color: 'text.secondary', mt: 1 }}>{t('picker.shut')}</Box>
  if (tile.answer.shape === 'span') return <Days id={id} part={part} today={today} pick={pick} />
  return (
    <Box sx={{ mt: 1 }}>
      <Select label={t('picker.which')} value={part ?? ' '} onChange={(v) => pick(id, v === ' ' ? null : v)}>
        <option value=" ">{t('picker.all')}</option>
        {tile.answer.lines.map((l) => (
          <option key={l.code ?? ''} value={l.code ?? ''}>
            {l.label ?? l.code}
          </option>
        ))}
      </Select>
    </Box>
  )
}

function Days({
  id,
  part,
  today,
  pick,
}: {
  id: string
  part: string | undefined
  today: string
  pick: (tile: string, part: string | null) => void
}) {
  const [from = '', to = ''] = part?.split('..') ?? []
  const ids = useId()
  const put = (f: string, u: string) => {
    const [first, last] = [f || u, u || f || today]
    pick(id, first === '' ? null : first <= last ? `${first}..${last}` : `${last}..${first}`)
  }
  const input = (name: 'from' | 'to', value: string, change: (v: string) => void) => (
    <Box>
      <Box
        component="label"
        htmlFor={`${ids}-${name}`}
        sx={{ fontSize: '0.86rem', fontWeight: 650, display: 'block' }}>
        {t(`picker.${name}`)}
      </Box>
      <OutlinedInput
        id={`${ids}-${name}`}
        type="date"
        size="small"
        value={value}
        onChange={(e) => change(e.target.value)}
      />
    </Box>
  )
  return (
    <Box sx={{ display: 'flex', gap: 2, mt: 1, flexWrap: 'wrap' }}>
      {input('from', from, (v) => put(v, to))}
      {input('to', to, (v) => put(from, v))}
    </Box>
  )
}
