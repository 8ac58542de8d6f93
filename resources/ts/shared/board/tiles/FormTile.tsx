import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useContext, useState } from 'react'
import { t } from '../../texts'
import { shownIn } from '../crews'
import { FormSlot } from '../formSlot'
import { usePicking } from '../picks'
import type { TileProps } from './shared'

/** Adds a record, or a visit to the one that is picked. */
export function FormTile({ tile, base }: TileProps<'form'>) {
  const Form = useContext(FormSlot)
  const { picks, show } = usePicking()
  const [writing, setWriting] = useState(false)
  const [added, setAdded] = useState(false)
  const { may_add: mayAdd, visits_of: visitsOf } = tile.answer
  const picked = shownIn(picks)?.record ?? null
  if (!Form || !mayAdd || tile.layer === undefined)
    return (
      <Box sx={{ color: 'text.secondary', mt: 2 }}>
        {t(mayAdd && !base.startsWith('/open/') ? 'formtile.reading' : 'formtile.closed')}
      </Box>
    )
  const lacks = visitsOf !== null && picked === null
  if (!writing)
    return (
      <Box sx={{ mt: 2, display: 'grid', gap: 2, justifyItems: 'start' }}>
        {added && <Box role="status">{t('formtile.added')}</Box>}
        {lacks && <Box sx={{ color: 'text.secondary' }}>{t('formtile.pick')}</Box>}
        <Button disabled={lacks} onClick={() => setWriting(true)}>
          {t(visitsOf === null ? 'formtile.add' : 'formtile.visit')}
        </Button>
      </Box>
    )
  return (
    <Form
      layer={tile.layer}
      visited={visitsOf !== null && picked !== null ? { layer: visitsOf, record: picked } : null}
      onDone={(record) => {
        setWriting(false)
        setAdded(true)
        if (visitsOf === null) show(tile.id ?? '', record)
      }}
      onCancel={() => setWriting(false)}
    />
  )
}
