import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import type { Box as Extent, Viewpoint } from '../../../shared/types'
import { NamedLine } from './NamedLine'

type Props = {
  list: Viewpoint[]
  shown: () => Extent
  onGo: (extent: Extent) => void
  onChange: (list: Viewpoint[]) => void
}

/** Places of a map that people come back to: kept from what the map shows, named, put in order. */
export function ViewpointsPart({ list, shown, onGo, onChange }: Props) {
  const [name, setName] = useState('')
  const keep = () => {
    const title = name.trim()
    if (!title) return
    onChange([...list, { id: '', title, extent: shown() }])
    setName('')
  }
  const put = (i: number, part: Partial<Viewpoint>) =>
    onChange(list.map((v, j) => (j === i ? { ...v, ...part } : v)))
  const up = (i: number) =>
    onChange(list.map((v, j) => (j === i ? list[i - 1]! : j === i - 1 ? list[i]! : v)))
  return (
    <Sheet title={t('viewpoints.title')}>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {t('viewpoints.hint')}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1 }}>
        {list.map((v, i) => (
          // By its place in the list: a new one gets its id a moment later, and the cursor must not jump
          // then.
          <NamedLine
            key={i}
            name={v.title}
            label={t('viewpoints.name', { n: i + 1 })}
            onName={(title) => put(i, { title })}>
            <Button
              size="small"
              variant="text"
              sx={{ whiteSpace: 'nowrap', flex: 'none' }}
              onClick={() => onGo(v.extent)}
              aria-label={t('viewpoints.go.to', { title: v.title })}>
              {t('viewpoints.go')}
            </Button>
            <IconButton
              size="small"
              disabled={i === 0}
              onClick={() => up(i)}
              aria-label={t('viewpoints.up', { title: v.title })}>
              <ArrowUpward fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              onClick={() => onChange(list.filter((_, j) => j !== i))}
              aria-label={t('viewpoints.remove', { title: v.title })}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </NamedLine>
        ))}
      </Box>
      <Box
        component="form"
        onSubmit={(e) => {
          e.preventDefault()
          keep()
        }}
        sx={{ display: 'flex', gap: 2, mt: list.length > 0 ? 3 : 0 }}>
        <OutlinedInput
          size="small"
          fullWidth
          value={name}
          placeholder={t('viewpoints.new')}
          inputProps={{ 'aria-label': t('viewpoints.new'), maxLength: 60 }}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" variant="outlined" disabled={!name.trim()} sx={{ whiteSpace: 'nowrap' }}>
          {t('viewpoints.keep')}
        </Button>
      </Box>
    </Sheet>
  )
}
