import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import MuiLink from '@mui/material/Link'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { shownValue } from '../../shared/form/shownValue'
import { shownAltitude } from '../../shared/form/AltitudeInput'
import { shownArea, shownLength } from '../../shared/form/geodesic'
import { Problems } from '../../shared/parts/Problems'
import { formatInstant, t, type TextKey } from '../../shared/texts'
import type { Layer, RecordRow, Working } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { AcceptLine } from './Accepting'
import { AskedOf } from './RecordQuestions'
import { about } from './conflict'
import { FlagList } from './Flags'
import { AddFiles, RecordFiles } from './RecordFiles'
import { Visits } from './VisitList'
import { conflictsOfRecord, historyOf, restoreRecord } from '../queries/records'

type Props = {
  record: RecordRow
  layer: Layer
  zone: string
  onEdit: () => void
  onDelete: () => void
  onRestored: (record: RecordRow) => void
  onVisit: (visits: Layer) => void
  onOpenVisit: (visits: Layer, visit: RecordRow) => void
  onLook: (record: string) => void
  accepting: boolean
  onAccept: () => void
  onTakeBack: () => void
}

/** One record with what can be done to it, and its history. */
export function RecordPanel({
  record,
  layer,
  zone,
  onEdit,
  onDelete,
  onRestored,
  onVisit,
  onOpenVisit,
  onLook,
  accepting,
  onAccept,
  onTakeBack,
}: Props) {
  const [history, setHistory] = useState(false)
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Typography variant="h2">{record.name ?? t('record.unnamed')}</Typography>
      {record.visited && (
        <Typography color="text.secondary">
          {t('visits.of', { name: record.visited_name ?? t('record.unnamed') })}
        </Typography>
      )}
      <AcceptLine
        record={record}
        zone={zone}
        mayAccept={layer.rights.design}
        busy={accepting}
        onAccept={onAccept}
        onTakeBack={onTakeBack}
      />
      {record.flags && record.flags.length > 0 && <FlagList flags={record.flags} onLook={onLook} />}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        {layer.rights.change && (
          <Button
            size="small"
            variant={layer.rights.design && !record.accepted ? 'outlined' : 'contained'}
            onClick={onEdit}>
            {t('check.edit')}
          </Button>
        )}
        <Button size="small" variant="outlined" aria-pressed={history} onClick={() => setHistory(!history)}>
          {t(history ? 'history.back' : 'check.history')}
        </Button>
        {layer.rights.delete && (
          <Button size="small" variant="outlined" color="error" onClick={onDelete}>
            {t('check.delete')}
          </Button>
        )}
      </Box>
      {history ? (
        <History
          record={record}
          layer={layer}
          zone={zone}
          onRestored={(r) => {
            setHistory(false)
            onRestored(r)
          }}
        />
      ) : (
        <>
          <RecordFiles record={record} layer={layer} onChanged={onRestored} />
          <Values record={record} layer={layer} zone={zone} />
          {layer.visits_layer !== null && (
            <Visits record={record} layer={layer} zone={zone} onAdd={onVisit} onOpen={onOpenVisit} />
          )}
          <AddFiles record={record} layer={layer} onChanged={onRestored} />
          <AskedOf layer={layer.id} record={record.id} author={record.author} mayAsk={layer.rights.design} />
        </>
      )}
    </Box>
  )
}

function Values({ record, layer, zone }: { record: RecordRow; layer: Layer; zone: string }) {
  return (
    <>
      <Box
        component="dl"
        sx={{
          display: 'grid',
          gridTemplateColumns: 'auto 1fr',
          gap: 1.5,
          columnGap: 4,
          m: 0,
          '& dt': { color: 'text.secondary' },
          '& dd': { m: 0 },
        }}>
        {layer.design.fields
          .filter((f) => layer.seen.fields.includes(f.key))
          .filter((f) => f.kind !== 'heading' && !(f.show_when && (record.values[f.key] ?? null) === null))
          .map((f) => (
            <Box key={f.key} sx={{ display: 'contents' }}>
              <dt>{f.label}</dt>
              <dd>{shownValue(f, record.values[f.key], zone) || '–'}</dd>
            </Box>
          ))}
        {record.length != null && (
          <>
            <dt>{t(record.area == null ? 'draw.length' : 'draw.around')}</dt>
            <dd>{shownLength(record.length)}</dd>
          </>
        )}
        {record.area != null && (
          <>
            <dt>{t('draw.size')}</dt>
            <dd>{shownArea(record.area)}</dd>
          </>
        )}
        {record.geometry === null && (
          <>
            <dt>{t('draw.shape')}</dt>
            <dd>{t('draw.none')}</dd>
          </>
        )}
        {record.altitude !== null && (
          <>
            <dt>{t('altitude.label')}</dt>
            <dd>{shownAltitude(record.altitude, layer.design.altitude?.unit)}</dd>
          </>
        )}
        {record.fix && (
          <>
            <dt>{t('fix.said')}</dt>
            <dd>
              {[
                record.fix.satellites !== undefined && t('fix.satellites', { n: record.fix.satellites }),
                record.fix.type && t(`fix.type.${record.fix.type}` as TextKey),
                record.fix.at && formatInstant(record.fix.at, zone),
              ]
                .filter(Boolean)
                .join(', ')}
            </dd>
          </>
        )}
        <dt>{t('record.collected')}</dt>
        <dd>{formatInstant(record.collected_at, zone)}</dd>
        <dt>{t('record.received')}</dt>
        <dd>{formatInstant(record.received_at, zone)}</dd>
        <dt>{t('record.by')}</dt>
        <dd>{record.author}</dd>
        <dt>{t('record.place')}</dt>
        <dd>
          {record.lat === null || record.lon === null
            ? t('record.place.none')
            : `${record.lat.toFixed(5)}, ${record.lon.toFixed(5)}`}
          {record.accuracy !== null && ` ± ${Math.round(record.accuracy)} m`}
          {record.place === 'cell' &&
            ` ${t(layer.design.geometry === 'point' ? 'record.place.cell' : 'record.place.cells', {
              metres: layer.seen.metres ?? 0,
            })}`}
          {record.place === 'area' && ` ${t('record.place.area')}`}
        </dd>
      </Box>
    </>
  )
}

/** From that long between capture and arrival on, both are told. */
const LATE_MS = 900_000

/** Every version, newest first, with what each changed; any of them can be taken up again. */
function History({
  record,
  layer,
  zone,
  onRestored,
}: {
  record: RecordRow
  layer: Layer
  zone: string
  onRestored: (record: RecordRow) => void
}) {
  const versions = useQuery(historyOf(layer.id, record))
  const programme = useProgramme()
  const disputes = useQuery({ ...conflictsOfRecord(programme.id, record), enabled: layer.rights.design })
  const [error, setError] = useState<unknown>(null)
  const restore = (version: number) => {
    restoreRecord(layer.id, record.id, version).then(onRestored).catch(setError)
  }
  return (
    <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      <Problems error={error ?? versions.error} />
      {(disputes.data?.disputes.length ?? 0) > 0 && (
        <Box component="li" sx={{ pb: 2.5, display: 'grid', gap: 1 }}>
          <b>{t('history.disputes')}</b>
          {disputes.data?.disputes.map((d) => (
            <MuiLink
              key={d.id}
              component={Link}
              to={`/desk/p/${programme.id}/check/decide?${d.settled_at ? 'settled=1&' : ''}one=${d.id}`}>
              {t(`decide.${d.kind}`)}: {about(d, zone)}
              {d.settled_at &&
                ` · ${t('decide.bywhom', { by: d.settled_by ?? '', at: formatInstant(d.settled_at, zone) })}`}
            </MuiLink>
          ))}
        </Box>
      )}
      {versions.data?.length === 0 && <li>{t('history.hidden')}</li>}
      {versions.data?.map((v, i) => (
        <Box
          component="li"
          key={v.version}
          sx={{ borderTop: '1px solid', borderColor: 'divider', py: 2.5, display: 'grid', gap: 1 }}>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, alignItems: 'baseline' }}>
            <Box>
              <b>{t(`history.${v.kind}`)}</b>
              {v.moved && <> · {t('history.moved')}</>}
            </Box>
            <Typography variant="caption" color="text.secondary">
              {t('history.version', { n: v.version })}
            </Typography>
          </Box>
          <Typography variant="body2" color="text.secondary">
            {t('history.by', { author: v.author ?? '', at: formatInstant(v.at, zone) })}
            {v.captured_at &&
              Math.abs(Date.parse(v.at) - Date.parse(v.captured_at)) > LATE_MS &&
              ` · ${t('history.captured', { at: formatInstant(v.captured_at, zone) })}`}
          </Typography>
          {v.clock_off !== null && (
            <Typography variant="body2" color="secondary.dark">
              {t('history.clock', {
                minutes: Math.round(Math.abs(v.clock_off) / 60),
                way: v.clock_off > 0 ? 'behind' : 'ahead',
              })}
            </Typography>
          )}
          {v.kind !== 'delete' &&
            v.changed.map((key) => {
              const field = layer.design.fields.find((f) => f.key === key)
              const before = versions.data[i + 1]?.values[key]
              if (!field || (v.kind === 'add' && (v.values[key] ?? null) === null)) return null
              return (
                <Typography key={key} variant="body2">
                  {field.label}:{' '}
                  {before !== undefined && before !== null && (
                    <>
                      <s>{shownValue(field, before, zone)}</s>{' '}
                    </>
                  )}
                  <b>{shownValue(field, v.values[key], zone) || '–'}</b>
                </Typography>
              )
            })}
          <Worked workings={v.workings} layer={layer} zone={zone} />
          {i > 0 && v.kind !== 'delete' && layer.rights.change && (
            <Box>
              <Button size="small" variant="outlined" onClick={() => restore(v.version)}>
                {t('history.restore.this')}
              </Button>
            </Box>
          )}
        </Box>
      ))}
    </Box>
  )
}

/** What was calculated anew after a version, though nobody changed the record. */
function Worked({ workings, layer, zone }: { workings: Working[]; layer: Layer; zone: string }) {
  return (
    <>
      {workings.map((w, i) => (
        <Typography key={i} variant="body2" color="text.secondary">
          {t('history.worked', { all: w.all ? 'yes' : 'no', at: formatInstant(w.at, zone) })}{' '}
          {t(`history.worked.${w.cause}`)}
          {w.by !== null && ` (${w.by})`}:{' '}
          {w.fields.map((key) => {
            const field = layer.design.fields.find((f) => f.key === key)
            const was = field && !w.all ? shownValue(field, w.was[key], zone) : ''
            return field ? (
              <span key={key}>
                {field.label}
                {was !== '' && (
                  <>
                    {' '}
                    <s>{was}</s>
                  </>
                )}{' '}
              </span>
            ) : null
          })}
        </Typography>
      ))}
    </>
  )
}
