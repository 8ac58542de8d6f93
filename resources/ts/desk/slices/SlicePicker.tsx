import Tune from '@mui/icons-material/Tune'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Labelled } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Slice } from '../../shared/types'
import { slicesOf } from '../queries/slices'
import { SliceDialog } from './SliceDialog'

const NEW = 'new'

/** Of which records: all, those of a slice, or of one that is made on the spot. */
export function SlicePicker({
  label,
  layer,
  mayMake,
  value,
  onChange,
  size,
  everything = t('slice.everything'),
}: {
  label: string
  layer: number
  mayMake: boolean
  value: number | null
  onChange: (slice: Slice | null) => void
  size?: 'small' | undefined
  /** What all of them are called here. */
  everything?: string
}) {
  const slices = useQuery(slicesOf(layer))
  const [building, setBuilding] = useState<'new' | 'change' | null>(null)
  const chosen = slices.data?.find((s) => s.id === value) ?? null
  return (
    <>
      <Labelled label={label}>
        {({ id }) => (
          <Box sx={{ display: 'flex', gap: 1 }}>
            <NativeSelect
              id={id}
              fullWidth
              input={<OutlinedInput size={size} />}
              value={value ?? ''}
              onChange={(e) =>
                e.target.value === NEW
                  ? setBuilding('new')
                  : onChange(slices.data?.find((s) => s.id === Number(e.target.value)) ?? null)
              }>
              <option value="">{everything}</option>
              {slices.data?.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
              {mayMake && <option value={NEW}>{t('board.newslice')}</option>}
            </NativeSelect>
            {mayMake && chosen && (
              <IconButton aria-label={t('slice.change')} onClick={() => setBuilding('change')}>
                <Tune />
              </IconButton>
            )}
          </Box>
        )}
      </Labelled>
      {building && (
        <SliceDialog
          layer={layer}
          slice={building === 'change' ? chosen : null}
          onClose={() => setBuilding(null)}
          onSaved={(saved) => {
            setBuilding(null)
            onChange(saved)
          }}
        />
      )}
    </>
  )
}
