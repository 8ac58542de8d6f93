import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import LinearProgress from '@mui/material/LinearProgress'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Radio from '@mui/material/Radio'
import RadioGroup from '@mui/material/RadioGroup'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Design, LayerInfo, Problem, Whose } from '../../shared/types'

type Props = { design: Design; onChange: (change: Partial<Design>) => void }

export function About({ design, onChange, problems, onNext }: Props & { problems: Problem[]; onNext: () => void }) {
  return (
    <Sheet>
      <Box sx={{ display: 'grid', gap: 4 }}>
        <TextInput label={t('design.title')} hint={t('design.title.hint')} value={design.title} onChange={(title) => onChange({ title })} needed autoFocus={design.title === ''}
          error={problems.find((p) => p.field === '/title')?.message ?? null} />
        <TextInput label={t('design.purpose')} hint={t('design.purpose.hint')} value={design.purpose} onChange={(purpose) => onChange({ purpose })} multiline minRows={2} />
        <Labelled label={t('design.name_field')} hint={t('design.name_field.hint')}>
          {({ id, describedBy }) => (
            <NativeSelect id={id} input={<OutlinedInput />} value={design.name_field ?? ''} inputProps={{ 'aria-describedby': describedBy }}
              onChange={(e) => { const { name_field: _, ...rest } = design; onChange(e.target.value ? { name_field: e.target.value } : { ...rest, name_field: null }) }}>
              <option value="">{t('design.name_field.auto')}</option>
              {design.fields.filter((f) => f.label && f.kind !== 'heading').map((f) => <option key={f.key} value={f.key}>{f.label}</option>)}
            </NativeSelect>
          )}
        </Labelled>
        {design.fields.length > 0 && <InfoPart design={design} onChange={onChange} />}
        {design.fields.length === 0 && <Box><Button onClick={onNext} disabled={design.title.trim() === ''}>{t('design.next.fields')}</Button></Box>}
      </Box>
    </Sheet>
  )
}

/** What others must know before they use the layer, with a meter of what is missing. */
function InfoPart({ design, onChange }: Props) {
  const info = design.info ?? {}
  const put = (change: Partial<LayerInfo>) => onChange({ info: Object.fromEntries(Object.entries({ ...info, ...change }).filter(([, v]) => v !== '' && !(Array.isArray(v) && v.length === 0))) })
  const [tags, setTags] = useState((info.tags ?? []).join(', '))
  const parts = [design.purpose.trim(), info.description, info.tags?.length, info.credits, info.terms, info.source]
  const done = parts.filter(Boolean).length
  const next = (['purpose', 'description', 'tags', 'credits', 'terms', 'source'] as const)[parts.findIndex((p) => !p)]
  return (
    <>
      <Box>
        <Typography variant="h3">{t('info.title')}</Typography>
        <LinearProgress variant="determinate" value={(100 * done) / parts.length} aria-label={t('info.meter', { done, all: parts.length })} sx={{ my: 1.5, height: 8, borderRadius: 1, bgcolor: '#E9DFC8' }} />
        <Typography variant="body2" color="text.secondary">{t('info.meter', { done, all: parts.length })}{next && <> {t(`info.${next}.why`)}</>}</Typography>
      </Box>
      <TextInput label={t('info.description')} value={info.description ?? ''} onChange={(description) => put({ description })} multiline minRows={2} inputProps={{ maxLength: 5000 }} />
      <TextInput label={t('info.tags')} hint={t('info.tags.hint')} value={tags} onChange={(text) => { setTags(text); put({ tags: [...new Set(text.split(',').map((tag) => tag.trim()).filter(Boolean))] }) }} />
      <TextInput label={t('info.credits')} value={info.credits ?? ''} onChange={(credits) => put({ credits })} inputProps={{ maxLength: 500 }} />
      <TextInput label={t('info.terms')} value={info.terms ?? ''} onChange={(terms) => put({ terms })} multiline inputProps={{ maxLength: 2000 }} />
      <TextInput label={t('info.source')} value={info.source ?? ''} onChange={(source) => put({ source })} inputProps={{ maxLength: 500 }} />
    </>
  )
}

export function PhotoPart({ design, onChange }: Props) {
  const photos = design.photos
  const put = (change: Partial<Design['photos']>) => onChange({ photos: { ...photos, ...change } })
  const number = (text: string, most: number) => Math.max(0, Math.min(most, Number.parseInt(text, 10) || 0))
  return (
    <Sheet>
      <FormControlLabel control={<Checkbox checked={photos.allowed} onChange={(e) => put({ allowed: e.target.checked, ...(e.target.checked ? {} : { least: 0 }) })} />} label={t('photos.allowed')} />
      {photos.allowed && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3, mt: 3 }}>
          <TextInput label={t('photos.least')} value={photos.least} onChange={(v) => put({ least: number(v, photos.most) })} inputProps={{ inputMode: 'numeric' }} />
          <TextInput label={t('photos.most')} value={photos.most} onChange={(v) => put({ most: Math.max(1, number(v, 50)) })} inputProps={{ inputMode: 'numeric' }} />
        </Box>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 3 }}>{t('photos.size', { mb: Math.round(photos.max_bytes / 1_048_576) })}</Typography>
    </Sheet>
  )
}

export function RightsPart({ design, onChange }: Props) {
  const crew = design.rights.crew
  const put = (change: Partial<typeof crew>) => onChange({ rights: { crew: { ...crew, ...change } } })
  return (
    <Sheet>
      <Typography variant="h3" gutterBottom>{t('rights.crew')}</Typography>
      <FormControlLabel control={<Checkbox checked={crew.add} onChange={(e) => put({ add: e.target.checked })} />} label={t('rights.add')} />
      <RadioGroup aria-label={t('rights.see')} value={crew.see} onChange={(e) => put({ see: e.target.value as 'all' | 'own' })} sx={{ mt: 2 }}>
        <FormControlLabel value="all" control={<Radio />} label={t('rights.all')} />
        <FormControlLabel value="own" control={<Radio />} label={t('rights.own')} />
      </RadioGroup>
      {(['change', 'delete'] as const).map((right) => (
        <Box key={right} sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 3, mt: 3, flexWrap: 'wrap' }}>
          <Typography sx={{ fontWeight: 650 }}>{t(`rights.${right}`)}</Typography>
          <Segments<Whose> label={t(`rights.${right}`)} value={crew[right]} onChange={(whose) => put({ [right]: whose })} options={(['all', 'own', 'none'] as const).map((whose) => ({ value: whose, label: t(`rights.whose.${whose}`) }))} />
        </Box>
      ))}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 3 }}>{t('rights.note')}</Typography>
      <Typography variant="h3" sx={{ mt: 5 }} gutterBottom>{t('fix.title')}</Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 3 }}>
        {(['warn_above', 'refuse_above'] as const).map((end) => (
          <TextInput key={end} label={t(end === 'warn_above' ? 'fix.warn' : 'fix.refuse')} value={design.fix?.[end] ?? ''} inputProps={{ inputMode: 'numeric' }}
            onChange={(text) => { const { [end]: _, ...others } = design.fix ?? {}; const n = Number.parseInt(text, 10); onChange({ fix: Number.isNaN(n) || n < 1 ? others : { ...others, [end]: n } }) }} />
        ))}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>{t('fix.note')}</Typography>
    </Sheet>
  )
}
