import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Select } from '../../../shared/parts/Labelled'
import { t } from '../../../shared/texts'
import type { Api, Field } from '../../../shared/types'

type Chart = Api['CardChart']

const FEWEST = 2
const MOST = 8

/** Some numbers of the record as a chart; it comes once two are chosen. */
export function ChartPart({
  chart,
  numbers,
  onChange,
}: {
  chart: Chart | undefined
  numbers: Field[]
  onChange: (chart: Chart | undefined) => void
}) {
  const [asked, setAsked] = useState<Chart | null>(null)
  if (numbers.length < FEWEST) return null
  const shown = asked ?? chart
  const put = (next: Chart) => {
    const enough = next.fields.length >= FEWEST
    setAsked(enough ? null : next)
    if (enough) onChange(next)
  }
  return (
    <Box sx={{ display: 'grid', gap: 1, mt: 4 }}>
      <Select
        label={t('chart.title')}
        value={shown?.kind ?? ''}
        onChange={(chosen) => {
          if (chosen === '') {
            setAsked(null)
            onChange(undefined)
          } else put({ kind: chosen as Chart['kind'], fields: shown?.fields ?? [] })
        }}>
        <option value="">{t('chart.none')}</option>
        <option value="bars">{t('chart.bars')}</option>
        <option value="donut">{t('chart.donut')}</option>
      </Select>
      {shown && (
        <Box sx={{ display: 'grid' }}>
          {numbers.map((f) => (
            <FormControlLabel
              key={f.key}
              label={f.label}
              control={
                <Checkbox
                  size="small"
                  checked={shown.fields.includes(f.key)}
                  disabled={!shown.fields.includes(f.key) && shown.fields.length >= MOST}
                  onChange={(e) =>
                    put({
                      ...shown,
                      fields: e.target.checked
                        ? [...shown.fields, f.key]
                        : shown.fields.filter((k) => k !== f.key),
                    })
                  }
                />
              }
            />
          ))}
          {shown.fields.length < FEWEST && (
            <Typography variant="body2" color="text.secondary" role="status">
              {t('chart.few')}
            </Typography>
          )}
        </Box>
      )}
    </Box>
  )
}
