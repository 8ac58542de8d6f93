import Box from '@mui/material/Box'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useParams } from 'react-router'
import { Pill } from '../../shared/parts/Pill'
import { compileRules } from '../../shared/form/rules'
import { shownValue } from '../../shared/form/show'
import { formatInstant, t } from '../../shared/texts'
import { db } from '../db'
import { bearing, compassPoint, farAway, metres, usePosition } from '../position'
import { Thumb } from './AddScreen'
import { Head } from './Head'

/** One record as the phone knows it. */
export function RecordScreen() {
  const { id = '' } = useParams()
  const { position } = usePosition()
  const found = useLiveQuery(async () => {
    const record = await db.records.get(id)
    const pack = (await db.packs.toArray()).find((p) => p.layers.some((l) => l.id === record?.layer))
    const layer = pack?.layers.find((l) => l.id === record?.layer)
    return { record, layer, zone: pack?.time_zone, photos: await db.photos.where('record').equals(id).toArray() }
  }, [id])
  if (!found) return null
  const { record, layer, photos, zone } = found
  if (!record || !layer) return <Head title={t('record.gone')} />
  // What is calculated is worked out here too: a record may be newer than its last round, and days go by.
  const worked = compileRules(layer.design, layer.value_schema, layer.rules)(record.values, { lon: record.lon, lat: record.lat, ...(zone ? { zone } : {}) }).values
  const under = position ? `${farAway(metres(position, record))} ${t(`compass.${compassPoint(bearing(position, record))}`)}` : layer.title
  return (
    <>
      <Head title={record.name ?? t('record.unnamed')} under={under} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 4, alignContent: 'start' }}>
        {record.local && <Box><Pill tone={record.local === 'waiting' ? 'soft' : 'warn'}>{t(record.local === 'waiting' ? 'list.waiting' : 'list.refused')}</Pill></Box>}
        {photos.length > 0 && <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>{photos.map((p) => <Thumb key={p.id} blob={p.blob} name={p.name} />)}</Box>}
        {photos.length === 0 && record.photos > 0 && <Typography color="text.secondary">{t('record.photos.desk', { n: record.photos })}</Typography>}
        <Box component="dl" sx={{ m: 0, '& dt': { color: 'text.secondary', fontSize: '0.9rem' }, '& dd': { m: 0, mb: 3, fontSize: '1.15rem' } }}>
          {layer.design.fields.filter((f) => f.kind !== 'heading').map((f) => {
            const value = record.values[f.key]
            const text = shownValue(f, f.kind === 'calculated' ? (worked[f.key] ?? null) : value, zone) || '–'
            return <Box key={f.key}><dt>{f.label}</dt><dd>{text}</dd></Box>
          })}
          <dt>{t('record.collected')}</dt><dd>{formatInstant(record.collected_at)}{record.author && `, ${record.author}`}</dd>
          <dt>{t('record.place')}</dt><dd>{record.lat.toFixed(5)}, {record.lon.toFixed(5)}</dd>
        </Box>
      </Box>
    </>
  )
}
