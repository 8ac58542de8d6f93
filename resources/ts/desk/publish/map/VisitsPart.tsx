import { useQuery } from '@tanstack/react-query'
import Box from '@mui/material/Box'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Layer, LayerOnMap } from '../../../shared/types'
import { layerOf } from '../../queries/layers'
import { numbersOf } from './numbersOf'

type Visits = LayerOnMap['card']['visits']

/** What a card tells of the visits to its record. */
export function VisitsPart({
  layer,
  visits,
  onChange,
}: {
  layer: Layer
  visits: Visits
  onChange: (visits: Visits) => void
}) {
  const of = useQuery(layerOf(layer.visits_layer))
  if (layer.visits_layer === null) return null
  return (
    <Box sx={{ mt: 4 }}>
      <Select
        label={t('card.visits')}
        hint={t('card.visits.hint')}
        value={visits ? `of ${visits.field ?? ''}` : ''}
        onChange={(v) => onChange(v === '' ? undefined : { field: v.slice(3) || null })}>
        <option value="">{t('card.visits.none')}</option>
        <option value="of ">{t('card.visits.only')}</option>
        {(of.data ? numbersOf(of.data) : []).map((f) => (
          <option key={f.key} value={`of ${f.key}`}>
            {t('card.visits.field', { field: f.label })}
          </option>
        ))}
      </Select>
    </Box>
  )
}
