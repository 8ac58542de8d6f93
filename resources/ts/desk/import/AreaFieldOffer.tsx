import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { sentences } from '../../shared/api'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { Choose } from './Choose'
import { layersOf, readLayer, saveDesign } from '../queries/layers'
import { keys } from '../queries/keys'

/**
 * After areas were brought in: lets the records of a layer carry the area that they lie in, as a calculated
 * field.
 */
export function AreaFieldOffer({ programme, title }: { programme: number; title: string }) {
  const client = useQueryClient()
  const layers = useQuery(layersOf(programme))
  const points = (layers.data ?? []).filter((l) => l.geometry !== 'area' && l.visits_of === null)
  const [chosen, setChosen] = useState('')
  const [said, setSaid] = useState<string[]>([])
  const [done, setDone] = useState<string | null>(null)
  if (points.length === 0 || !title) return null
  const id = Number(chosen || points[0]?.id)
  const add = async () => {
    try {
      const layer = await readLayer(id)
      const taken = layer.design.fields.map((f) => f.key)
      let key = 'lies_in'
      for (let n = 2; taken.includes(key); n++) key = `lies_in_${n}`
      const field = {
        key,
        label: t('bring.liesin.label', { areas: title }),
        kind: 'calculated',
        formula: `area_of(${JSON.stringify(title)})`,
      }
      await saveDesign(id, {
        base: layer.design_version,
        design: { ...layer.design, fields: [...layer.design.fields, field] },
      })
      await client.invalidateQueries({ queryKey: keys.layer(id) })
      setSaid([])
      setDone(layer.design.title)
    } catch (e) {
      setSaid(sentences(e))
    }
  }
  return (
    <Sheet title={t('bring.liesin')}>
      <Typography color="text.secondary">{t('bring.liesin.lead')}</Typography>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'end', mt: 2, flexWrap: 'wrap' }}>
        <Box sx={{ minWidth: 220 }}>
          <Choose
            label={t('check.layer')}
            value={String(id)}
            onChange={setChosen}
            options={points.map((l) => [String(l.id), l.title])}
          />
        </Box>
        <Button variant="outlined" onClick={() => void add()}>
          {t('bring.liesin.do')}
        </Button>
      </Box>
      {done && (
        <Typography role="status" sx={{ mt: 2 }}>
          {t('bring.liesin.done', { layer: done })}
        </Typography>
      )}
      {said.length > 0 && (
        <Box role="alert" sx={{ color: 'error.main', mt: 2 }}>
          {said.map((l) => (
            <div key={l}>{l}</div>
          ))}
        </Box>
      )}
    </Sheet>
  )
}
