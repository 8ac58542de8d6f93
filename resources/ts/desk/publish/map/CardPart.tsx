import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { t } from '../../../shared/texts'
import type { Design, LayerOnMap } from '../../../shared/types'

type Card = LayerOnMap['card']

/** What a tap on a record shows. */
export function CardPart({
  design,
  card,
  onChange,
}: {
  design: Design
  card: Card
  onChange: (card: Card) => void
}) {
  const keys = design.fields.map((f) => f.key)
  return (
    <>
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
                    onChange({
                      ...card,
                      fields: keys.filter((k) => (k === f.key ? e.target.checked : card.fields.includes(k))),
                    })
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
                onChange={(e) => onChange({ ...card, photos: e.target.checked })}
              />
            }
          />
        )}
      </Box>
    </>
  )
}
