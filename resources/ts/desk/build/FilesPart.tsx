import Add from '@mui/icons-material/Add'
import ArrowUpward from '@mui/icons-material/ArrowUpward'
import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Paper from '@mui/material/Paper'
import Typography from '@mui/material/Typography'
import { placeOfSlot } from '../../shared/form/files'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Design, FileKind, Problem, Slot } from '../../shared/types'
import { keyFrom } from './design'

type Props = {
  design: Design
  problems: Problem[]
  onChange: (change: Partial<Design>) => void
  /** Keys that records may use already. */ locked: string[]
}

const KINDS: FileKind[] = ['photo', 'audio', 'video', 'pdf']
const MB = 1_048_576
const number = (text: string, most: number) => Math.max(0, Math.min(most, Number.parseInt(text, 10) || 0))

/**
 * What files a record carries: photos at large, and named slots for a certain picture, sound, video or PDF.
 */
export function FilesPart({ design, problems, onChange, locked }: Props) {
  const { photos } = design
  const slots = design.slots ?? []
  const put = (change: Partial<Design['photos']>) => onChange({ photos: { ...photos, ...change } })
  const putSlots = (next: Slot[]) => onChange({ slots: next })
  const add = () =>
    putSlots([
      ...slots,
      {
        key: keyFrom(
          '',
          slots.map((s) => s.key),
          'slot',
        ),
        label: '',
        kind: 'photo',
        least: 0,
        most: 1,
      },
    ])
  const change = (i: number, part: Partial<Slot>) =>
    putSlots(
      slots.map((s, j) => {
        if (j !== i) return s
        const others = slots.filter((_, k) => k !== i).map((o) => o.key)
        const follows =
          part.label !== undefined && !locked.includes(s.key) && s.key === keyFrom(s.label, others, 'slot')
        return { ...s, ...part, ...(follows ? { key: keyFrom(part.label ?? '', others, 'slot') } : {}) }
      }),
    )
  const up = (i: number) => {
    const next = [...slots]
    next.splice(i - 1, 0, ...next.splice(i, 1))
    putSlots(next)
  }
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Sheet>
        <FormControlLabel
          control={
            <Checkbox
              checked={photos.allowed}
              onChange={(e) => put({ allowed: e.target.checked, ...(e.target.checked ? {} : { least: 0 }) })}
            />
          }
          label={t('photos.allowed')}
        />
        {photos.allowed && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, mt: 3 }}>
            <TextInput
              label={t('photos.least')}
              value={photos.least}
              onChange={(v) => put({ least: number(v, photos.most) })}
              inputProps={{ inputMode: 'numeric' }}
            />
            <TextInput
              label={t('photos.most')}
              value={photos.most}
              onChange={(v) => put({ most: Math.max(1, number(v, 50)) })}
              inputProps={{ inputMode: 'numeric' }}
            />
          </Box>
        )}
        <Typography variant="body2" color="text.secondary" sx={{ mt: 3 }}>
          {t('photos.size', { mb: Math.round(photos.max_bytes / MB) })}
        </Typography>
      </Sheet>
      <Box>
        <Typography variant="h3">{t('slots.title')}</Typography>
        <Typography variant="body2" color="text.secondary">
          {t('slots.lead')}
        </Typography>
      </Box>
      {slots.map((slot, i) => (
        <Paper
          key={i}
          variant="outlined"
          component="fieldset"
          aria-label={slot.label || t('slots.new')}
          sx={{ m: 0, p: 3, display: 'grid', gap: 3, minWidth: 0 }}>
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: 'minmax(0,1.4fr) minmax(0,1fr) auto',
              gap: 3,
              alignItems: 'end',
            }}>
            <TextInput
              label={t('slots.label')}
              value={slot.label}
              onChange={(label) => change(i, { label })}
              autoFocus={slot.label === ''}
              needed
              placeholder={t('slots.example')}
              error={
                slot.label
                  ? (problems.find((p) => p.field?.startsWith(`/slots/${i}/`))?.message ?? null)
                  : null
              }
            />
            <Labelled label={t('slots.kind')}>
              {({ id }) => (
                <NativeSelect
                  id={id}
                  fullWidth
                  input={<OutlinedInput />}
                  value={slot.kind}
                  onChange={(e) => {
                    const { max_bytes: _, ...rest } = slot
                    putSlots(
                      slots.map((s, j) => (j === i ? { ...rest, kind: e.target.value as FileKind } : s)),
                    )
                  }}>
                  {KINDS.map((k) => (
                    <option key={k} value={k}>
                      {t(`slots.kind.${k}`)}
                    </option>
                  ))}
                </NativeSelect>
              )}
            </Labelled>
            <Box sx={{ display: 'flex' }}>
              <IconButton
                disabled={i === 0}
                aria-label={t('design.up.of', { field: slot.label })}
                onClick={() => up(i)}>
                <ArrowUpward fontSize="small" />
              </IconButton>
              <IconButton
                aria-label={t('design.remove.of', { field: slot.label })}
                onClick={() => putSlots(slots.filter((_, j) => j !== i))}>
                <DeleteOutline fontSize="small" />
              </IconButton>
            </Box>
          </Box>
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0,1fr))', gap: 3 }}>
            <TextInput
              label={t('photos.least')}
              value={slot.least ?? 0}
              onChange={(v) => change(i, { least: Math.min(number(v, 20), slot.most ?? 1) })}
              inputProps={{ inputMode: 'numeric' }}
            />
            <TextInput
              label={t('photos.most')}
              value={slot.most ?? 1}
              onChange={(v) => change(i, { most: Math.max(1, number(v, 20)) })}
              inputProps={{ inputMode: 'numeric' }}
            />
            <TextInput
              label={t('slots.size')}
              value={Math.round((slot.max_bytes ?? placeOfSlot(slot).maxBytes) / MB)}
              onChange={(v) =>
                change(i, { max_bytes: Math.max(1, number(v, slot.kind === 'video' ? 500 : 100)) * MB })
              }
              inputProps={{ inputMode: 'numeric' }}
            />
          </Box>
          <TextInput
            label={t('design.hint')}
            value={slot.hint ?? ''}
            onChange={(hint) => change(i, { hint })}
            inputProps={{ maxLength: 300 }}
          />
        </Paper>
      ))}
      {slots.length < 20 && (
        <Box>
          <Button variant="outlined" startIcon={<Add />} onClick={add}>
            {t('slots.add')}
          </Button>
        </Box>
      )}
    </Box>
  )
}
