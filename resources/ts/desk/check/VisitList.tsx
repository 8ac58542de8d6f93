import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { shownValue } from '../../shared/form/shownValue'
import { Problems } from '../../shared/parts/Problems'
import { formatInstant, t } from '../../shared/texts'
import type { Layer, RecordRow } from '../../shared/types'
import { layerOf } from '../queries/layers'
import { visitsTo } from '../queries/records'

/** What was seen at each visit to a record, newest first. */
export function Visits({
  record,
  layer,
  zone,
  onAdd,
  onOpen,
}: {
  record: RecordRow
  layer: Layer
  zone: string
  onAdd: (visits: Layer) => void
  onOpen: (visits: Layer, visit: RecordRow) => void
}) {
  const visits = useQuery(layerOf(layer.visits_layer))
  const list = useQuery({ ...visitsTo(layer.id, record), refetchInterval: 10_000 })
  const of = visits.data
  if (!of) return <Problems error={visits.error} />
  const fields = of.design.fields.filter((f) => f.kind !== 'heading')
  return (
    <Box component="section" aria-label={of.design.title}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 2, mb: 1 }}>
        <Typography variant="h3">
          {of.design.title}{' '}
          <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
            {list.data?.records.length ?? ''}
          </Box>
        </Typography>
        {of.rights.add && (
          <Button size="small" variant="outlined" onClick={() => onAdd(of)}>
            {t('visits.add')}
          </Button>
        )}
      </Box>
      <Problems error={list.error} />
      {list.data?.records.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          {t('visits.none')}
        </Typography>
      )}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {list.data?.records.map((v) => (
          <Box component="li" key={v.id} sx={{ borderTop: '1px solid', borderColor: 'divider', py: 2 }}>
            <Button
              variant="text"
              size="small"
              onClick={() => onOpen(of, v)}
              sx={{ p: 0, minHeight: 0, fontWeight: 650 }}>
              {formatInstant(v.collected_at, zone)}
            </Button>
            <Typography variant="body2" color="text.secondary">
              {v.author}
            </Typography>
            <Typography variant="body2">
              {fields
                .map((f) => [f.label, shownValue(f, v.values[f.key], zone)] as const)
                .filter(([, text]) => text)
                .map(([label, text]) => `${label}: ${text}`)
                .join(' · ')}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  )
}
