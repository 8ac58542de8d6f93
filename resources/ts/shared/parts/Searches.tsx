import Box from '@mui/material/Box'
import { t } from '../texts'
import type { Api } from '../types'
import { Select } from './Labelled'

/** What can be asked of a map: only what is found is shown then. */
export function Searches({
  list,
  chosen,
  onChoose,
}: {
  list: Pick<Api['OpenSearch'], 'id' | 'title'>[]
  chosen: string | null
  onChoose: (search: string | null) => void
}) {
  if (list.length === 0) return null
  return (
    <Box sx={{ mb: 2 }}>
      <Select
        label={t('searches.ask')}
        // One that is no longer there shows everything.
        value={list.some((s) => s.id === chosen) ? (chosen ?? '') : ''}
        onChange={(v) => onChoose(v === '' ? null : v)}>
        <option value="">{t('searches.all')}</option>
        {list.map((s) => (
          <option key={s.id} value={s.id}>
            {s.title}
          </option>
        ))}
      </Select>
    </Box>
  )
}
