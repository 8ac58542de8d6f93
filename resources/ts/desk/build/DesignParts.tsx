import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import LinearProgress from '@mui/material/LinearProgress'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { paint } from '../../shared/paint'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { Design, GeometryKind, LayerInfo, Problem } from '../../shared/types'

type Props = { design: Design; onChange: (change: Partial<Design>) => void }

export function About({
  design,
  onChange,
  problems,
  onNext,
}: Props & { problems: Problem[]; onNext: () => void }) {
  return (
    <Sheet>
      <Box sx={{ display: 'grid', gap: 4 }}>
        <TextInput
          label={t('design.title')}
          hint={t('design.title.hint')}
          value={design.title}
          onChange={(title) => onChange({ title })}
          needed
          autoFocus={design.title === ''}
          error={problems.find((p) => p.field === '/title')?.message ?? null}
        />
        {design.visits_of ? (
          <Typography>{t('design.visits_of', { layer: design.visits_of })}</Typography>
        ) : (
          <Box>
            <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>
              {t('design.geometry')}
            </Typography>
            <Segments<GeometryKind>
              label={t('design.geometry')}
              value={design.geometry}
              onChange={(geometry) => onChange({ geometry })}
              options={(['point', 'line', 'area'] as const).map((value) => ({
                value,
                label: t(`geometry.${value}`),
              }))}
            />
            <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
              {t(`geometry.${design.geometry}.hint`)}
            </Typography>
          </Box>
        )}
        <TextInput
          label={t('design.purpose')}
          hint={t('design.purpose.hint')}
          value={design.purpose}
          onChange={(purpose) => onChange({ purpose })}
          multiline
          minRows={2}
        />
        <Labelled label={t('design.name_field')} hint={t('design.name_field.hint')}>
          {({ id, describedBy }) => (
            <NativeSelect
              id={id}
              input={<OutlinedInput />}
              value={design.name_field ?? ''}
              inputProps={{ 'aria-describedby': describedBy }}
              onChange={(e) => {
                const { name_field: _, ...rest } = design
                onChange(e.target.value ? { name_field: e.target.value } : { ...rest, name_field: null })
              }}>
              <option value="">{t('design.name_field.auto')}</option>
              {design.fields
                .filter((f) => f.label && f.kind !== 'heading')
                .map((f) => (
                  <option key={f.key} value={f.key}>
                    {f.label}
                  </option>
                ))}
            </NativeSelect>
          )}
        </Labelled>
        {design.fields.length > 0 && <InfoPart design={design} onChange={onChange} />}
        {design.fields.length === 0 && (
          <Box>
            <Button onClick={onNext} disabled={design.title.trim() === ''}>
              {t('design.next.fields')}
            </Button>
          </Box>
        )}
      </Box>
    </Sheet>
  )
}

/** What others must know before they use the layer, with a meter of what is missing. */
function InfoPart({ design, onChange }: Props) {
  const info = design.info ?? {}
  const put = (change: Partial<LayerInfo>) =>
    onChange({
      info: Object.fromEntries(
        Object.entries({ ...info, ...change }).filter(
          ([, v]) => v !== '' && !(Array.isArray(v) && v.length === 0),
        ),
      ),
    })
  const [tags, setTags] = useState((info.tags ?? []).join(', '))
  const parts = [
    design.purpose.trim(),
    info.description,
    info.tags?.length,
    info.credits,
    info.terms,
    info.source,
  ]
  const done = parts.filter(Boolean).length
  const next = (['purpose', 'description', 'tags', 'credits', 'terms', 'source'] as const)[
    parts.findIndex((p) => !p)
  ]
  return (
    <>
      <Box>
        <Typography variant="h3">{t('info.title')}</Typography>
        <LinearProgress
          variant="determinate"
          value={(100 * done) / parts.length}
          aria-label={t('info.meter', { done, all: parts.length })}
          sx={{ my: 1.5, height: 8, borderRadius: 1, bgcolor: paint.sand }}
        />
        <Typography variant="body2" color="text.secondary">
          {t('info.meter', { done, all: parts.length })}
          {next && <> {t(`info.${next}.why`)}</>}
        </Typography>
      </Box>
      <TextInput
        label={t('info.description')}
        value={info.description ?? ''}
        onChange={(description) => put({ description })}
        multiline
        minRows={2}
        inputProps={{ maxLength: 5000 }}
      />
      <TextInput
        label={t('info.tags')}
        hint={t('info.tags.hint')}
        value={tags}
        onChange={(text) => {
          setTags(text)
          put({
            tags: [
              ...new Set(
                text
                  .split(',')
                  .map((tag) => tag.trim())
                  .filter(Boolean),
              ),
            ],
          })
        }}
      />
      <TextInput
        label={t('info.credits')}
        value={info.credits ?? ''}
        onChange={(credits) => put({ credits })}
        inputProps={{ maxLength: 500 }}
      />
      <TextInput
        label={t('info.terms')}
        value={info.terms ?? ''}
        onChange={(terms) => put({ terms })}
        multiline
        inputProps={{ maxLength: 2000 }}
      />
      <TextInput
        label={t('info.source')}
        value={info.source ?? ''}
        onChange={(source) => put({ source })}
        inputProps={{ maxLength: 500 }}
      />
    </>
  )
}
