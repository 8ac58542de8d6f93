import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useLiveQuery } from 'dexie-react-hooks'
import { useNavigate, useParams } from 'react-router'
import { Pill } from '../../shared/parts/Pill'
import { shownAltitude } from '../../shared/form/AltitudeInput'
import { compileRules } from '../../shared/form/rules'
import { shownValue } from '../../shared/form/shownValue'
import { FileThumb, kindOfType } from '../../shared/form/FilesInput'
import { measure, shownArea, shownLength, wayTo } from '../../shared/form/geodesic'
import { formatInstant, t } from '../../shared/texts'
import { showPlace } from '../../shared/form/coordinates'
import { useAreas } from '../areas'
import { db, type PackLayer, type PhoneRecord } from '../db'
import { compassPoint, farAway, fixQuery, usePosition } from '../position'
import { useFormat } from '../format'
import { Needle } from '../Needle'
import { beginChange, deleteRecord, restoreRecord } from '../save'
import { syncNow } from '../sync/sync'
import { QuestionCard } from './QuestionCard'
import { WideButton } from './WideButton'
import { Head } from './Head'

/** One record as the phone knows it. */
export function RecordScreen() {
  const { id = '' } = useParams()
  const navigate = useNavigate()
  const { position } = usePosition()
  const format = useFormat()
  const areas = useAreas()
  const found = useLiveQuery(async () => {
    const record = await db.records.get(id)
    const pack = (await db.packs.toArray()).find((p) => p.layers.some((l) => l.id === record?.layer))
    const layer = pack?.layers.find((l) => l.id === record?.layer)
    const visits = pack?.layers.find((l) => l.visits_of === layer?.id)
    const made = visits
      ? (await db.records.where('visited').equals(id).toArray())
          .filter((v) => !v.gone)
          .sort((a, b) => b.collected_at.localeCompare(a.collected_at))
      : []
    return {
      record,
      layer,
      visits,
      made,
      zone: pack?.time_zone,
      photos: await db.photos.where('record').equals(id).toArray(),
      asked: await db.asked.where('record').equals(id).toArray(),
    }
  }, [id])
  if (!found) return null
  const { record, layer, photos, zone, visits, made, asked } = found
  if (!record || !layer) return <Head title={t('record.gone')} />
  // The cells that are told of a line have a size of their own, which is none of its.
  const { length, area } = measure(record.blurred ? null : record.shape)
  // What is calculated is worked out here too: a record may be newer than its last round, and days go by.
  const { values: worked, hidden } = compileRules(
    layer.design,
    layer.value_schema,
    layer.rules,
  )(record.values, {
    lon: record.lon,
    lat: record.lat,
    length,
    area,
    altitude: record.altitude ?? null,
    visits: made.length,
    latest: made[0]?.values ?? {},
    areas,
    ...(zone ? { zone } : {}),
  })
  const visit = () => {
    const at = position ?? record
    const fix = position ? fixQuery(position) : ''
    if (visits)
      void navigate(
        `/field/add/${visits.id}?visited=${record.id}&lon=${at.lon.toFixed(7)}&lat=${at.lat.toFixed(7)}${fix}`,
      )
  }
  const may = (whose: 'all' | 'own' | 'none' | undefined) =>
    whose === 'all' || (whose === 'own' && (record.mine ?? record.version === 0))
  const change = async () => navigate(await beginChange(record))
  const remove = async () => {
    await deleteRecord(layer, record)
    void syncNow()
  }
  const bringBack = async () => {
    await restoreRecord(layer, record)
    void syncNow()
  }
  // No way leads to what is somewhere in a square.
  const way = position && !record.gone && !record.blurred ? wayTo(position, record) : null
  // A pack from before this was said has nothing of it.
  const shownFields = record.mine || record.local ? null : (layer.seen?.fields ?? null)
  return (
    <>
      <Head title={record.name ?? t('record.unnamed')} under={layer.title} />
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 4, alignContent: 'start' }}>
        {way && (
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 4 }}>
            <Needle degrees={way.degrees} />
            <Box>
              <Box sx={{ fontSize: '1.6rem', fontWeight: 700, fontVariantNumeric: 'tabular-nums' }}>
                {farAway(way.metres)}
              </Box>
              <Box sx={{ color: 'text.secondary' }}>
                {t('needle.way', {
                  degrees: Math.round(way.degrees) % 360,
                  point: t(`compass.${compassPoint(way.degrees)}`),
                })}
              </Box>
            </Box>
          </Box>
        )}
        {record.local && (
          <Box>
            <Pill tone={record.local === 'waiting' ? 'soft' : 'warn'}>{t(`list.${record.local}`)}</Pill>
          </Box>
        )}
        {asked.map((a) => (
          <QuestionCard key={a.id} asked={a} />
        ))}
        {record.gone && (
          <Alert
            severity="warning"
            variant="outlined"
            action={
              <Button size="small" variant="outlined" onClick={() => void bringBack()}>
                {t('record.restore')}
              </Button>
            }>
            {t('record.deleted')}
          </Alert>
        )}
        {photos.length > 0 && (
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            {photos.map((p) => (
              <FileThumb key={p.id} kind={kindOfType(p.type)} blob={p.blob} name={p.name} />
            ))}
          </Box>
        )}
        {photos.length === 0 && record.photos > 0 && (
          <Typography color="text.secondary">{t('record.photos.desk', { n: record.photos })}</Typography>
        )}
        <Box
          component="dl"
          sx={{
            m: 0,
            '& dt': { color: 'text.secondary', fontSize: '0.9rem' },
            '& dd': { m: 0, mb: 3, fontSize: '1.15rem' },
          }}>
          {layer.design.fields
            .filter((f) => f.kind !== 'heading' && !hidden.has(f.key))
            .filter((f) => shownFields === null || shownFields.includes(f.key))
            .map((f) => {
              const value = record.values[f.key]
              const text =
                shownValue(
                  f,
                  // What is made of fields that are hidden is as it was told.
                  f.kind === 'calculated' && !record.blurred ? (worked[f.key] ?? null) : value,
                  zone,
                ) || '–'
              return (
                <Box key={f.key}>
                  <dt>{f.label}</dt>
                  <dd>{text}</dd>
                </Box>
              )
            })}
          <dt>{t('record.collected')}</dt>
          <dd>
            {formatInstant(record.collected_at)}
            {record.author && `, ${record.author}`}
          </dd>
          {length !== null && (
            <>
              <dt>{t(area === null ? 'draw.length' : 'draw.size')}</dt>
              <dd>{area === null ? shownLength(length) : shownArea(area)}</dd>
            </>
          )}
          {layer.design.altitude && typeof record.altitude === 'number' && (
            <>
              <dt>{t('altitude.label')}</dt>
              <dd>{shownAltitude(record.altitude, layer.design.altitude.unit)}</dd>
            </>
          )}
          <dt>{t('record.place')}</dt>
          <dd>
            {showPlace(record, format)}
            {record.blurred && (
              <Typography variant="body2" color="text.secondary">
                {layer.seen?.place === 'area'
                  ? t('record.place.area')
                  : t(layer.design.geometry === 'point' ? 'record.place.cell' : 'record.place.cells', {
                      metres: layer.seen?.metres ?? 0,
                    })}
              </Typography>
            )}
          </dd>
        </Box>
        {visits && <VisitList visits={visits} made={made} zone={zone} />}
      </Box>
      {!record.gone && (may(layer.rights.change) || may(layer.rights.delete)) && (
        <Box
          sx={{
            px: 3.5,
            pt: 3,
            pb: visits?.rights.add ? 0 : 3.5,
            borderTop: '1px solid',
            borderColor: 'divider',
            flex: 'none',
            display: 'flex',
            gap: 2.5,
            '& button': { minHeight: 52 },
          }}>
          {may(layer.rights.change) && (
            <Button fullWidth variant="outlined" color="inherit" onClick={() => void change()}>
              {t('record.change')}
            </Button>
          )}
          {may(layer.rights.delete) && (
            <Button fullWidth variant="outlined" color="inherit" onClick={() => void remove()}>
              {t('record.delete')}
            </Button>
          )}
        </Box>
      )}
      {!record.gone && visits?.rights.add && (
        <Box sx={{ p: 3.5, flex: 'none' }}>
          <WideButton onClick={visit}>{t('visits.add')}</WideButton>
        </Box>
      )}
    </>
  )
}

/** What was seen at earlier visits, newest first. */
function VisitList({
  visits,
  made,
  zone,
}: {
  visits: PackLayer
  made: PhoneRecord[]
  zone: string | undefined
}) {
  return (
    <Box component="section" aria-label={visits.title}>
      <Typography variant="h2" sx={{ fontSize: '1.15rem' }}>
        {visits.title}
      </Typography>
      {made.length === 0 && <Typography color="text.secondary">{t('visits.none')}</Typography>}
      {made.map((v) => (
        <Box key={v.id} sx={{ borderTop: '1px solid', borderColor: 'divider', py: 2.5 }}>
          <b>{formatInstant(v.collected_at, zone)}</b>
          {v.local && <> · {t(`list.${v.local}`)}</>}
          <Typography color="text.secondary">
            {visits.design.fields
              .filter((f) => f.kind !== 'heading')
              .map((f) => [f.label, shownValue(f, v.values[f.key], zone)] as const)
              .filter(([, text]) => text)
              .map(([label, text]) => `${label}: ${text}`)
              .join(' · ')}
          </Typography>
        </Box>
      ))}
    </Box>
  )
}
