import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Select, TextInput } from '../../../shared/parts/Labelled'
import { Sheet } from '../../../shared/parts/Sheet'
import { t } from '../../../shared/texts'
import type { LayerOnMap, MapDoc, Slice } from '../../../shared/types'
import { SlicePicker } from '../../slices/SlicePicker'
import { NamedLine } from './NamedLine'

type Search = MapDoc['searches'][number]

const MOST = 20

/** Questions that whoever looks at the map can ask of it: each shows only the records of a slice. */
export function SearchesPart({
  list,
  parts,
  titleOf,
  tried,
  onTry,
  onChange,
}: {
  list: Search[]
  parts: LayerOnMap[]
  titleOf: (part: LayerOnMap) => string
  /** The one that the map beside shows. */
  tried: string | null
  onTry: (search: string | null) => void
  onChange: (list: Search[], now?: boolean) => void
}) {
  return (
    <Sheet title={t('searches.title')}>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {t('searches.hint')}
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1 }}>
        {list.map((s, i) => (
          // By its place in the list: a new one gets its id a moment later, and the cursor must not jump then.
          <NamedLine
            key={i}
            name={s.title}
            label={t('searches.name', { n: i + 1 })}
            onName={(title) => onChange(list.map((o, j) => (j === i ? { ...o, title } : o)))}>
            <Button
              size="small"
              variant={tried === s.id ? 'contained' : 'text'}
              sx={{ flex: 'none' }}
              disabled={s.id === ''}
              aria-pressed={tried === s.id}
              aria-label={t('searches.try.it', { title: s.title })}
              onClick={() => onTry(tried === s.id ? null : s.id)}>
              {t('searches.try')}
            </Button>
            <IconButton
              size="small"
              aria-label={t('searches.remove', { title: s.title })}
              onClick={() => {
                if (tried === s.id) onTry(null)
                onChange(
                  list.filter((_, j) => j !== i),
                  true,
                )
              }}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </NamedLine>
        ))}
      </Box>
      {parts.length > 0 && list.length < MOST && (
        <NewSearch
          key={list.length}
          parts={parts}
          titleOf={titleOf}
          onAdd={(search) => onChange([...list, search], true)}
        />
      )}
    </Sheet>
  )
}

function NewSearch({
  parts,
  titleOf,
  onAdd,
}: {
  parts: LayerOnMap[]
  titleOf: (part: LayerOnMap) => string
  onAdd: (search: Search) => void
}) {
  const [partId, setPartId] = useState(parts[0]?.id ?? '')
  const [slice, setSlice] = useState<Slice | null>(null)
  const [name, setName] = useState<string | null>(null)
  const part = parts.find((p) => p.id === partId) ?? parts[0]
  if (!part) return null
  // Called as its slice is, until it is called otherwise.
  const title = (name ?? slice?.name ?? '').slice(0, 60)
  return (
    <Box sx={{ display: 'grid', gap: 2, mt: 3 }}>
      {parts.length > 1 && (
        <Select
          label={t('searches.layer')}
          value={part.id}
          onChange={(v) => {
            setPartId(v)
            setSlice(null)
          }}>
          {parts.map((p) => (
            <option key={p.id} value={p.id}>
              {titleOf(p)}
            </option>
          ))}
        </Select>
      )}
      <SlicePicker
        label={t('searches.slice')}
        layer={part.layer}
        mayMake
        value={slice?.id ?? null}
        onChange={setSlice}
        everything={t('searches.choose')}
      />
      {slice && (
        <TextInput
          label={t('searches.new')}
          size="small"
          value={title}
          inputProps={{ maxLength: 60 }}
          onChange={setName}
        />
      )}
      <Button
        variant="outlined"
        sx={{ justifySelf: 'start' }}
        disabled={!slice || title.trim() === ''}
        onClick={() => slice && onAdd({ id: '', title: title.trim(), part: part.id, slice: slice.id })}>
        {t('searches.add')}
      </Button>
    </Box>
  )
}
