import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Outing } from '../../shared/outing'
import { t } from '../../shared/texts'
import { askableOf } from '../queries/slices'
import type { By, Narrowing } from './narrowing'

type Props = {
  layer: number
  outings: Outing[]
  narrowing: Narrowing
  onNarrow: (by: Partial<Narrowing>) => void
}

const NAMED = ['today', 'yesterday', 'week'] as const
const ONE = 'one'

/** Narrows the list to what a crew or an outing brought, and to days. */
export function CameFrom({ layer, outings, narrowing, onNarrow }: Props) {
  const crews = useQuery(askableOf(layer)).data?.crews ?? []
  const { by, day } = narrowing
  const isNamed = day === null || NAMED.some((n) => n === day)
  // Until a day is chosen nothing is narrowed.
  const [picking, setPicking] = useState(!isNamed)
  const one = picking || !isNamed
  return (
    <>
      <NativeSelect
        input={<OutlinedInput size="small" />}
        inputProps={{ 'aria-label': t('came.by') }}
        value={by === null ? '' : `${by.kind} ${by.id}`}
        onChange={(e) => onNarrow({ by: read(e.target.value) })}
        sx={{ maxWidth: 220 }}>
        <option value="">{t('came.by.anyone')}</option>
        {crews.length > 0 && (
          <optgroup label={t('came.by.crews')}>
            {crews.map((c) => (
              <option key={c.id} value={`crew ${c.id}`}>
                {c.name}
              </option>
            ))}
          </optgroup>
        )}
        {outings.length > 0 && (
          <optgroup label={t('came.by.outings')}>
            {outings.map((o) => (
              <option key={o.id} value={`outing ${o.id}`}>
                {o.title}
              </option>
            ))}
          </optgroup>
        )}
      </NativeSelect>
      <NativeSelect
        input={<OutlinedInput size="small" />}
        inputProps={{ 'aria-label': t('came.day') }}
        value={one ? ONE : (day ?? '')}
        onChange={(e) => {
          setPicking(e.target.value === ONE)
          onNarrow({ day: e.target.value === ONE || e.target.value === '' ? null : e.target.value })
        }}>
        <option value="">{t('came.day.any')}</option>
        {NAMED.map((named) => (
          <option key={named} value={named}>
            {t(`came.day.${named}`)}
          </option>
        ))}
        <option value={ONE}>{t('came.day.on')}</option>
      </NativeSelect>
      {one && (
        <OutlinedInput
          size="small"
          type="date"
          inputProps={{ 'aria-label': t('came.on') }}
          value={isNamed ? '' : day}
          onChange={(e) =>
            onNarrow({ day: /^[1-9]\d{3}-\d\d-\d\d$/.test(e.target.value) ? e.target.value : null })
          }
        />
      )}
    </>
  )
}

function read(value: string): By | null {
  const [kind, id] = value.split(' ')
  return kind === 'crew' || kind === 'outing' ? { kind, id: Number(id) } : null
}
