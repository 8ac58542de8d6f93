import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { t } from '../../../shared/texts'
import type { Layer, LayerOnMap } from '../../../shared/types'
import { ChartPart } from './ChartPart'
import { numbersOf } from './numbersOf'
import { VisitsPart } from './VisitsPart'
import { SentencesPart } from './SentencesPart'

type Card = LayerOnMap['card']

/** What a tap on a record shows. */
export function CardPart({
  layer,
  card,
  tallied,
  onChange,
}: {
  layer: Layer
  card: Card
  /** Its areas are coloured by a number that can be said, too. */
  tallied: boolean
  onChange: (card: Card, now: boolean) => void
}) {
  const { design } = layer
  const keys = design.fields.map((f) => f.key)
  return (
    <>
      <SentencesPart
        lines={card.text ?? []}
        layer={layer}
        fields={design.fields.filter((f) => f.kind !== 'heading')}
        tallied={tallied}
        onChange={(text, now) => onChange({ ...card, text }, now)}
      />
      <ChartPart
        chart={card.chart}
        numbers={numbersOf(layer)}
        onChange={(chart) => {
          const { chart: _, ...rest } = card
          onChange(chart ? { ...rest, chart } : rest, true)
        }}
      />
      <VisitsPart
        layer={layer}
        visits={card.visits}
        onChange={(visits) => {
          const { visits: _, ...rest } = card
          onChange(visits ? { ...rest, visits } : rest, true)
        }}
      />
      <Typography variant="h3" sx={{ mt: 4, mb: 1 }}>
        {t('card.fields')}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 2 }}>
        {t('map.card.hint')}
      </Typography>
      <Box sx={{ display: 'grid' }}>
        {design.fields
          .filter((f) => f.kind !== 'heading')
          .map((f) => (
            <FormControlLabel
              key={f.key}
              label={f.label}
              control={
                <Checkbox
                  size="small"
                  checked={card.fields.includes(f.key)}
                  onChange={(e) =>
                    onChange(
                      {
                        ...card,
                        fields: keys.filter((k) =>
                          k === f.key ? e.target.checked : card.fields.includes(k),
                        ),
                      },
                      true,
                    )
                  }
                />
              }
            />
          ))}
        {design.photos.allowed && (
          <FormControlLabel
            label={t('form.photos')}
            control={
              <Checkbox
                size="small"
                checked={card.photos}
                onChange={(e) => onChange({ ...card, photos: e.target.checked }, true)}
              />
            }
          />
        )}
      </Box>
    </>
  )
}
