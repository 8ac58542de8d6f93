import Autocomplete from '@mui/material/Autocomplete'
import Box from '@mui/material/Box'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import TextField from '@mui/material/TextField'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { t } from '../../shared/texts'
import type { Box as Extent } from '../../shared/types'

export type ProgrammeDraft = {
  name: string
  purpose: string
  time_zone: string
  area: Extent
  photo_edge: number | null
}

const ZONES = Intl.supportedValuesOf('timeZone')

/** Longest edges of photos to choose from, in pixels. */
const EDGES = [1280, 1920, 2560, 4096]
export const USUAL_EDGE = 2560

/** Name, purpose, time zone and area of a programme; the area comes from the map beside it. */
export function ProgrammeForm({
  draft,
  onChange,
}: {
  draft: ProgrammeDraft
  onChange: (change: Partial<ProgrammeDraft>) => void
}) {
  const [w, s, e, n] = draft.area
  return (
    <Box sx={{ display: 'grid', gap: 4 }}>
      <TextInput
        label={t('programme.name')}
        value={draft.name}
        onChange={(name) => onChange({ name })}
        needed
        inputProps={{ maxLength: 120 }}
      />
      <TextInput
        label={t('programme.purpose')}
        hint={t('programme.purpose.hint')}
        value={draft.purpose}
        onChange={(purpose) => onChange({ purpose })}
        multiline
        minRows={2}
        inputProps={{ maxLength: 2000 }}
      />
      <Labelled label={t('programme.zone')} hint={t('programme.zone.hint')}>
        {({ id, describedBy }) => (
          <Autocomplete
            id={id}
            options={ZONES}
            value={draft.time_zone}
            disableClearable
            onChange={(_, zone) => onChange({ time_zone: zone })}
            renderInput={(params) => (
              <TextField
                {...params}
                size="small"
                inputProps={{ ...params.inputProps, 'aria-describedby': describedBy }}
              />
            )}
          />
        )}
      </Labelled>
      <Labelled label={t('programme.photos')} hint={t('programme.photos.hint')}>
        {({ id, describedBy }) => (
          <NativeSelect
            id={id}
            input={<OutlinedInput />}
            value={draft.photo_edge ?? ''}
            inputProps={{ 'aria-describedby': describedBy }}
            onChange={(e) => onChange({ photo_edge: e.target.value === '' ? null : Number(e.target.value) })}>
            {[...new Set([...EDGES, ...(draft.photo_edge ? [draft.photo_edge] : [])])].map((n) => (
              <option key={n} value={n}>
                {t('programme.photos.edge', { n })}
              </option>
            ))}
            <option value="">{t('programme.photos.whole')}</option>
          </NativeSelect>
        )}
      </Labelled>
      <Labelled label={t('programme.area')} hint={t('programme.area.hint')}>
        {({ id }) => (
          <Box id={id} sx={{ fontVariantNumeric: 'tabular-nums' }}>
            {t('programme.area.value', {
              w: degrees(w, 'E', 'W'),
              s: degrees(s, 'N', 'S'),
              e: degrees(e, 'E', 'W'),
              n: degrees(n, 'N', 'S'),
            })}
          </Box>
        )}
      </Labelled>
    </Box>
  )
}

const degrees = (v: number, plus: string, minus: string) =>
  `${Math.abs(v).toFixed(3)}° ${v < 0 ? minus : plus}`

export const browserZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
